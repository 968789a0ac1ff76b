"""Pictures of the main views from the demo boards, into docs/screenshots (or a folder given)."""

import os
import sys
import tempfile
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from kelvor.demo.workshop import create_demo
from kelvor.ui.application import make_application, make_window
from kelvor.ui.settings import Settings
from kelvor.ui.theme.roles import LIGHT
from kelvor.ui.theme.style import apply_theme


def main() -> None:
    out = Path(sys.argv[1]) if len(sys.argv) > 1 else Path("docs/screenshots")
    out.mkdir(parents=True, exist_ok=True)
    app = make_application()
    apply_theme(app, LIGHT)
    with tempfile.TemporaryDirectory() as folder:
        store = create_demo(Path(folder) / "demo.kelvor")
        window = make_window(store, Settings(Path(folder) / "settings.json"))
        window.resize(1280, 800)
        window.show()
        window.shape.bench.set_station(0.60)

        def shot(name: str) -> None:
            app.processEvents()
            window.session.settle_now()
            app.processEvents()
            window.grab().save(str(out / f"{name}.png"))

        shot("shape")
        window.show_view("brief")
        shot("brief")
        window.show_view("shape")
        window.toggle_theme()
        shot("shape-dark")
        window.close()


main()
