"""Write the published JSON Schemas from the types they describe."""

import json
from pathlib import Path

from kelvor.exchange.documents import schemas

folder = Path(__file__).parents[1] / "docs" / "schema"
folder.mkdir(parents=True, exist_ok=True)
for name, schema in schemas().items():
    (folder / name).write_text(json.dumps(schema, indent=1, ensure_ascii=False) + "\n", encoding="utf-8")
    print(folder / name)
