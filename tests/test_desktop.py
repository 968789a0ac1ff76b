"""What a desktop is told of the program, and a wheel that runs without the source tree."""

import configparser
import io
import os
import shutil
import subprocess
import sys
import tempfile
import unittest
import zipfile
from contextlib import redirect_stdout
from pathlib import Path
from unittest import mock

from lxml import etree

from kelvor import desktop
from kelvor.cli import main
from kelvor.demo.boards import demo_boards
from kelvor.exchange.documents import board_text
from kelvor.workshop.store import Store

ROOT = Path(__file__).parent.parent
SPACE = {"m": "http://www.freedesktop.org/standards/shared-mime-info"}


class Desktop(unittest.TestCase):
    def setUp(self):
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.enterContext(mock.patch.dict(os.environ, {"XDG_DATA_HOME": str(self.folder)}))

    def test_entry_icon_and_file_type_are_put_there_and_taken_away(self):
        beside = self.folder / "applications" / "other.desktop"
        beside.parent.mkdir(parents=True)
        beside.write_text("[Desktop Entry]\n")
        with redirect_stdout(io.StringIO()) as said:
            self.assertEqual(main(["install", "--exec", "/home/a b/kel$vor"]), 0)
        self.assertEqual(len(said.getvalue().splitlines()), 3)
        entry = configparser.ConfigParser(interpolation=None, strict=True)
        entry.optionxform = str
        entry.read(self.folder / "applications" / "kelvor.desktop")
        words = entry["Desktop Entry"]
        # the file's own escapes first, then those of a quoted argument (Desktop Entry Specification 1.5)
        taken = subprocess.run(
            ["bash", "-c", "printf '%s\\n' " + words["Exec"].replace("\\\\", "\\")],
            check=True,
            capture_output=True,
            text=True,
        )
        self.assertEqual(taken.stdout.splitlines(), ["/home/a b/kel$vor", "%f"])
        self.assertTrue((self.folder / "icons/hicolor/scalable/apps" / f"{words['Icon']}.svg").is_file())
        told = etree.parse(self.folder / "mime/packages/kelvor.xml")
        self.assertEqual(told.xpath("//m:mime-type/@type", namespaces=SPACE), [words["MimeType"].rstrip(";")])
        with redirect_stdout(io.StringIO()):
            main(["uninstall"])
        self.assertEqual([p.name for p in self.folder.rglob("*kelvor*") if p.is_file()], [])
        self.assertTrue(beside.exists())

    def test_a_workshop_is_known_by_its_first_bytes(self):
        desktop.install()
        path = self.folder / "a.other"
        Store.create(path).close()
        head = path.read_bytes()[:100]
        rules = etree.parse(desktop.places()["type"]).xpath("//m:match", namespaces=SPACE)
        self.assertEqual(len(rules), 2)
        for rule in rules:
            at, value = int(rule.get("offset")), rule.get("value")
            meant = int(value, 16).to_bytes(4, "big") if rule.get("type") == "big32" else value.encode()
            self.assertEqual(head[at : at + len(meant)], meant)


class Wheel(unittest.TestCase):
    def test_it_has_all_it_needs(self):
        """Built from a copy, unpacked, run with the installed libraries and nothing of the source tree."""
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        for name in ("pyproject.toml", "README.md", "LICENSE"):
            shutil.copy(ROOT / name, folder)
        shutil.copytree(ROOT / "src", folder / "src", ignore=shutil.ignore_patterns("__pycache__", "*.egg-info"))
        build = "import setuptools.build_meta as made; print(made.build_wheel('.'))"
        subprocess.run([sys.executable, "-c", build], cwd=folder, check=True, capture_output=True)
        out = folder / "unpacked"
        zipfile.ZipFile(next(folder.glob("*.whl"))).extractall(out)
        (folder / "board.json").write_text(board_text(demo_boards()[0][1]))
        environment = {
            **os.environ,
            "PYTHONPATH": str(out),
            "XDG_DATA_HOME": str(folder),
            "QT_QPA_PLATFORM": "offscreen",
        }

        def run(*words):
            return subprocess.run(
                [sys.executable, *words], cwd=folder, env=environment, check=True, capture_output=True, text=True
            ).stdout

        self.assertIn("in order", run("-m", "kelvor", "check", "board.json"))
        script = (
            "from pathlib import Path; import kelvor; from kelvor.demo.workshop import create_demo\n"
            "from kelvor.ui.window.application import make_application, make_window\n"
            "from kelvor.ui.settings import Settings\n"
            "from PySide6.QtGui import QFontDatabase\n"
            "app = make_application(); store = create_demo(Path('demo.kelvor'))\n"
            "window = make_window(store, Settings(Path('s.json'))); window.show(); app.processEvents()\n"
            "window.dialogs.guide(); print(kelvor.__file__); print('Barlow' in QFontDatabase.families())\n"
            "print(window.dialogs.shown[-1].list.count(), window.dialogs.shown[-1].shown.key)\n"
            "import os, sys; sys.stdout.flush(); os._exit(0)"
        )
        said = run("-c", script).split()
        self.assertTrue(said[0].startswith(str(out)))
        self.assertEqual(said[1:], ["True", str(len(list((ROOT / "docs/guide").glob("*.md")))), "shape"])
