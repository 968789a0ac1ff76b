"""The stable commands, run as scripts run them."""

import contextlib
import io
import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from kelvor.cli import main
from kelvor.core.evaluation import evaluate
from kelvor.demo.boards import demo_boards
from kelvor.demo.workshop import create_demo


class Commands(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls._holder = tempfile.TemporaryDirectory()
        cls.folder = Path(cls._holder.name)
        with contextlib.redirect_stdout(io.StringIO()):
            main(["demo-boards", "--out", str(cls.folder / "demo")])
        cls.name, cls.board, cls.brief = demo_boards()[1]
        cls.path = str(cls.folder / "demo" / f"{cls.name}.json")

    @classmethod
    def tearDownClass(cls):
        cls._holder.cleanup()

    def run_cli(self, *arguments):
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main([str(a) for a in arguments])
        return code, out.getvalue(), err.getvalue()

    def refused(self, *arguments, words):
        code, out, err = self.run_cli(*arguments)
        self.assertEqual((code, out), (2, ""))
        self.assertEqual(len(err.strip().splitlines()), 1, err)
        self.assertIn(words, err)

    def test_demo_boards_and_briefs_are_written(self):
        for name, _, _ in demo_boards():
            self.assertTrue((self.folder / "demo" / f"{name}.json").exists())
            self.assertTrue((self.folder / "demo" / f"{name}.brief.json").exists())

    def test_evaluate_json(self):
        brief = self.path.replace(".json", ".brief.json")
        code, out, _ = self.run_cli("evaluate", self.path, "--brief", brief, "--json")
        found = json.loads(out)
        self.assertEqual((code, found["schema"]), (0, "kelvor.evaluation/1"))
        expected = evaluate(self.board, self.brief).figures
        self.assertEqual(set(found["figures"]), set(expected))
        for key, figure in found["figures"].items():
            self.assertEqual(set(figure) >= {"value", "unit", "band", "method", "valid", "note"}, True)
            if figure["value"] is not None:
                self.assertAlmostEqual(figure["value"], expected[key].value, places=12)
        self.assertEqual([p["phase"] for p in found["phases"]], ["float", "get_going", "lift_off", "fly", "touch_down"])
        self.assertTrue(all({"phase", "figures", "verdict"} <= set(p) for p in found["phases"]))
        needed = (
            "length width thickness volume core_volume planform_area length_times_width width_1ft_tail width_1ft_nose wide_point "
            "nose_rocker tail_rocker keel_flat_run rail_flat_run fill_factor volume_centre_x volume_per_rider_mass area_per_rider_mass "
            "mass mass_centre_x mass_centre_z yaw_inertia roll_inertia pitch_inertia float_deck_depth float_trim float_roll_stiffness"
        )
        self.assertLessEqual(set(needed.split()), set(found["figures"]))

    def test_evaluate_in_words_and_inches(self):
        code, out, _ = self.run_cli("evaluate", self.path, "--units", "inch")
        self.assertEqual(code, 0)
        self.assertIn("4'9 9/32\"", out)
        self.assertIn(" lb", out)

    def test_bad_input_is_one_line_and_exit_2(self):
        bad = self.folder / "bad.json"
        bad.write_text("{")
        self.refused("evaluate", bad, words="not JSON")
        self.refused("evaluate", self.folder / "none.json", words="no such file")
        self.refused("export", self.path, "--to", "png", "--out", "x", words="invalid choice")
        self.refused("export", self.path, "--to", "stl", "--out", self.folder / "no" / "x.stl", words="no such file or folder")
        self.refused("evaluate", words="required")
        self.refused("--no-such-option", words="unrecognized")
        self.refused("export", self.path, "--to", "stl", "--out", self.folder, words="this is a folder")

    def test_a_folder_nobody_may_write(self):
        """Root may write anywhere but where the kernel shows itself."""
        self.refused("export", self.path, "--to", "csv", "--out", "/proc/self/x.csv", words="Choose a folder you can write to")

    def test_check_lists_every_problem(self):
        self.assertEqual(self.run_cli("check", self.path)[0], 0)
        demo = self.folder / "d.kelvor"
        create_demo(demo).close()
        self.assertEqual(self.run_cli("check", demo)[0], 0)
        data = json.loads(Path(self.path).read_text())
        data["board"]["length"] = "a"
        data["board"]["skin"]["deck"] = "b"
        wrong = self.folder / "wrong.json"
        wrong.write_text(json.dumps(data))
        code, _, err = self.run_cli("check", wrong)
        self.assertEqual(code, 2)
        self.assertEqual(len(err.strip().splitlines()), 2)

    def test_as_a_process_without_traceback(self):
        done = subprocess.run(
            [sys.executable, "-m", "kelvor", "check", str(self.folder / "none.json")],
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 2)
        self.assertNotIn("Traceback", done.stderr)


class Layering(unittest.TestCase):
    def test_the_whole_core_loads_without_window_or_files(self):
        """In a fresh process: every core module, and no Qt, sqlite3, pydantic or trimesh."""
        script = (
            "import pkgutil, importlib, sys, kelvor.core\n"
            "for m in pkgutil.walk_packages(kelvor.core.__path__, 'kelvor.core.'): importlib.import_module(m.name)\n"
            "bad = [n for n in ('PySide6', 'sqlite3', 'pydantic', 'trimesh', 'ezdxf', 'reportlab', 'scipy') if n in sys.modules]\n"
            "print(len([n for n in sys.modules if n.startswith('kelvor.core.')]), bad)"
        )
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
        count, _, bad = done.stdout.strip().partition(" ")
        self.assertGreater(int(count), 35)
        self.assertEqual(bad, "[]")
