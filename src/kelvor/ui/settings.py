"""What a window remembers between days: units, theme, recent workshops. Not the work itself."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

MOST_RECENT = 8


class Settings:
    """A small JSON file; a damaged or missing one only loses habits."""

    def __init__(self, path: Path) -> None:
        self._path = path
        self.safety: Path = path.parent / "safety"
        """Where safety copies of workshops lie."""
        try:
            data = json.loads(path.read_text(encoding="utf-8"))
        except (OSError, ValueError):
            data = {}
        self._data: dict[str, Any] = data if isinstance(data, dict) else {}

    def get(self, key: str, default: str = "") -> str:
        """A habit."""
        value = self._data.get(key, default)
        return value if isinstance(value, str) else default

    def set(self, key: str, value: Any) -> None:
        """Keep a habit; a folder that cannot be written is no trouble."""
        self._data[key] = value
        try:
            self._path.parent.mkdir(parents=True, exist_ok=True)
            temporary = self._path.with_suffix(".new")
            temporary.write_text(json.dumps(self._data, indent=1), encoding="utf-8")
            temporary.replace(self._path)
        except OSError:
            return

    def recent(self) -> list[str]:
        """Workshops lately opened that still exist, newest first."""
        found = self._data.get("recent", [])
        return [p for p in found if isinstance(p, str) and Path(p).exists()] if isinstance(found, list) else []

    def folders(self) -> list[Path]:
        """Folders into which something was handed out lately."""
        found = self._data.get("folders", [])
        return [Path(p) for p in found if isinstance(p, str)] if isinstance(found, list) else []

    def handed_out(self, folder: Path) -> None:
        """Something is being written into a folder: should it be killed, the next start clears up there."""
        name = str(folder)
        self.set("folders", [name, *[str(p) for p in self.folders() if str(p) != name]][:MOST_RECENT])

    def remember(self, path: Path) -> None:
        """A workshop was opened."""
        name = str(path.resolve())
        self.set("recent", [name, *[p for p in self.recent() if p != name]][:MOST_RECENT])
