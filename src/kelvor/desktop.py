"""What a desktop needs to know of the program: its entry, its icon and the type of its files, put where this user's
programs stand (XDG base directories; Desktop Entry and Shared MIME-info specifications of freedesktop.org).
"""

from __future__ import annotations

import os
import shlex
import shutil
import subprocess
import sys
from pathlib import Path

import kelvor
from kelvor.core.base.errors import InputError
from kelvor.files import APPLICATION_ID, refusal_reason, written_whole

ICON = Path(kelvor.__file__).parent / "ui" / "theme" / "icons" / "application.svg"
MIME = "application/x-kelvor-workshop"


def share() -> Path:
    """Where this user's programs tell of themselves."""
    base = os.environ.get("XDG_DATA_HOME")
    return Path(base) if base and os.path.isabs(base) else Path.home() / ".local" / "share"


def _entry(command: str) -> str:
    return f"""[Desktop Entry]
Type=Application
Name=Kelvor
GenericName=Bench for board designers
Comment=Brief, shape, float, keep and hand out boards
Exec={command} %f
Icon=kelvor
Terminal=false
Categories=Graphics;Engineering;
MimeType={MIME};
StartupWMClass=kelvor
"""


def _type() -> str:
    return f"""<?xml version="1.0" encoding="UTF-8"?>
<mime-info xmlns="http://www.freedesktop.org/standards/shared-mime-info">
  <mime-type type="{MIME}">
    <comment>Kelvor workshop</comment>
    <sub-class-of type="application/vnd.sqlite3"/>
    <icon name="kelvor"/>
    <magic priority="60">
      <match type="string" offset="0" value="SQLite format 3">
        <match type="big32" offset="68" value="0x{APPLICATION_ID:08x}"/>
      </match>
    </magic>
    <glob pattern="*.kelvor"/>
  </mime-type>
</mime-info>
"""


def places() -> dict[str, Path]:
    """The files that tell a desktop of the program."""
    return {
        "entry": share() / "applications" / "kelvor.desktop",
        "icon": share() / "icons" / "hicolor" / "scalable" / "apps" / "kelvor.svg",
        "type": share() / "mime" / "packages" / "kelvor.xml",
    }


def install(command: str = "") -> list[Path]:
    """Tell the desktop of the program; `command` starts it (this Python where none is given). The files that are there.

    Raises
    ------
    InputError
        When one cannot be written.
    """
    shown = _quoted(command) if command else f"{_quoted(sys.executable)} -m kelvor"
    texts = {"entry": _entry(shown), "icon": ICON.read_text(encoding="utf-8"), "type": _type()}
    for key, path in places().items():
        try:
            path.parent.mkdir(parents=True, exist_ok=True)
            with written_whole(path, over=True) as temporary:
                temporary.write_text(texts[key], encoding="utf-8")
        except OSError as error:
            raise InputError(refusal_reason(error), where=str(path)) from None
    _told()
    return list(places().values())


def uninstall() -> list[Path]:
    """Take away what :func:`install` put there; workshops stay. The files that went."""
    gone = [path for path in places().values() if path.exists()]
    for path in gone:
        path.unlink()
    _told()
    return gone


def _quoted(command: str) -> str:
    """A path as an entry's Exec takes it: in double quotes where it holds anything but plain signs; % doubled."""
    plain = command.replace("%", "%%")
    if shlex.quote(command) == command:
        return plain
    return '"' + "".join(f"\\\\{sign}" if sign in '"`$\\' else sign for sign in plain) + '"'


def _told() -> None:
    """Let the desktop read its folders again, where the usual helpers are there."""
    for helper, folder in (("update-mime-database", "mime"), ("update-desktop-database", "applications"),
                           ("gtk-update-icon-cache", "icons/hicolor")):  # fmt: skip
        program = shutil.which(helper)
        if program and (share() / folder).is_dir():
            subprocess.run([program, str(share() / folder)], check=False, capture_output=True, timeout=60)
