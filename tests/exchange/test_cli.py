"""The stable commands, run as scripts run them."""

import contextlib
import io
import json
import os
import re
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

import svgelements

from kelvor.cli import main
from kelvor.core.base.errors import InputError
from kelvor.core.base.figures import by_key
from kelvor.core.evaluation.evaluation import evaluate
from kelvor.core.evaluation.live import evaluate_live
from kelvor.demo.boards import demo_boards
from kelvor.devices.rocker_gauge import parse_rocker_line
from kelvor.devices.scale import parse_scale_line
from kelvor.exchange.documents import board_text, read_board
from kelvor.exchange.formats import READERS, WRITERS
from tests.core.ride.test_reaching import slid
from tests.support import demo_at


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

    def test_the_page_of_two_boards_is_handed_over_as_pdf_and_their_overlay_to_scale_as_svg(self):
        folder = self.folder / "demo"
        boards = folder / "dunlin-39.json", folder / "sandpiper-46.json"
        brief = ("--brief", folder / "dunlin-39.brief.json")
        for kind in ("pdf", "svg"):
            out = self.folder / f"page.{kind}"
            status, told, _ = self.run_cli("compare", *boards, *brief, "--datum", "nose", "--to", kind, "--out", out)
            self.assertEqual((status, told.strip()), (0, str(out)))
        drawing = svgelements.SVG.parse(str(self.folder / "page.svg"))
        lines = [e for e in drawing.elements() if isinstance(e, svgelements.Polyline)]
        self.assertEqual(len(lines), 2 * 5)
        plans = [line.bbox() for line in lines[:2]]
        lengths = [read_board(path).length for path in boards]
        scale = plans[0][2] - plans[0][0]
        self.assertAlmostEqual((plans[1][2] - plans[1][0]) / scale, lengths[1] / lengths[0], places=4)
        self.assertAlmostEqual(plans[0][2], plans[1][2], delta=0.02)  # laid together at the nose
        for wrong, words in (
            (("--datum", "keel"), "“keel” is no place to lay boards together"),
            (("--to", "pdf"), "no file is named for the page"),
            (("--to", "pdf", "--out", self.folder / "page.svg"), "the file's ending differ"),
            (("--to", "svg", "--out", self.folder / "page.svg"), "there already"),
        ):
            status, _, told = self.run_cli("compare", *boards, *wrong)
            self.assertEqual(status, 2)
            self.assertIn(words, told)

    def test_the_least_change_is_sought_and_its_board_written(self):
        board = self.folder / "demo" / "dunlin-39.json"
        asked = ("seek", board, "--target", "volume >= 40 L", "--move")
        status, out, _ = self.run_cli(*asked, "width,thickness", "--out", self.folder)
        self.assertEqual(status, 0)
        self.assertIn("Met, by the least change.", out)
        moved = read_board(self.folder / "dunlin-39-sought.json")
        litres = by_key(evaluate_live(moved, self.brief).figures)["volume"].value
        self.assertTrue(0.03995 < litres < 0.0406, litres)  # what hands make: 1 mm of thickness is 0.4 L
        status, out, _ = self.run_cli(*asked, "width", "--hold", "mass", "--json")
        told = json.loads(out)
        self.assertFalse(told["met"])
        self.assertTrue(told["in_the_way"])
        self.assertEqual([t["held"] for t in told["targets"]], [False, True])
        self.refused("seek", board, "--target", "volume >= 40 L", "--move", "wobble", words="wobble")

    def test_two_boards_are_compared(self):
        folder = self.folder / "demo"
        status, out, _ = self.run_cli("compare", folder / "dunlin-39.json", folder / "sandpiper-46.json")
        self.assertEqual(status, 0)
        self.assertRegex(out, r"Outline, Length: \+7\.5 cm \(145\.5 → 153\.0 cm\), 3\.[78] times what is felt")
        found = json.loads(
            self.run_cli("compare", folder / "dunlin-39.json", folder / "sandpiper-46.json", "--json")[1]
        )
        length = next(d for d in found if d["key"] == "length")
        self.assertAlmostEqual(length["there"] - length["here"], 0.075, places=9)
        self.assertEqual(self.run_cli("compare", folder / "dunlin-39.json", folder / "dunlin-39.json")[:2], (0, ""))
        self.refused("compare", folder / "dunlin-39.json", folder / "nowhere.json", words="nowhere.json")

    def test_boards_of_a_workshop_are_listed_found_and_told(self):
        path = self.folder / "shop.kelvor"
        demo_at(path)
        status, out, _ = self.run_cli("list", str(path), "--search", "stuck to the water last spring")
        self.assertEqual(status, 0)
        self.assertRegex(
            out.splitlines()[0],
            r"^Sandpiper 46 +wing foil +153.0 cm × 51.7 cm × 46.0 L +version 5 +dropped: It stuck to the water",
        )
        status, out, told = self.run_cli("list", str(path), "--search", "9000-9999 L", "--json")
        self.assertEqual((status, json.loads(out)), (0, []))
        self.assertIn("No board lies in", told)
        self.assertEqual(len(json.loads(self.run_cli("list", str(path), "--json")[1])), 30)
        status, out, _ = self.run_cli("show", str(path), "dunlin")
        self.assertEqual(status, 0)
        self.assertIn("made as: SK-09", out)
        self.assertIn("version 8 kept, Ronja Vik: Lets go where the old one stuck", out)
        shown = json.loads(self.run_cli("show", str(path), "Dunlin 39", "--json")[1])
        self.assertEqual((shown["decision"]["verdict"], shown["discipline"]), ("kept", "wing foil"))
        status, _, wrong = self.run_cli("show", str(path), "shearwater")
        self.assertEqual(status, 2)
        self.assertIn("Shearwater 76, Shearwater 69", wrong)

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

    def test_the_ride_is_in_the_evaluation_for_every_family(self):
        """Scripts read each phase's figures with unit, band, method and validity; what is struck says why."""
        for name in ("stint-33", "shearwater-69", "grebe-14", "redshank-137", "swift-138"):
            board = self.folder / "demo" / f"{name}.json"
            code, out, _ = self.run_cli(
                "evaluate", board, "--brief", str(board).replace(".json", ".brief.json"), "--json"
            )
            self.assertEqual(code, 0)
            found = json.loads(out)
            for phase in found["phases"]:
                for key in phase["figures"]:
                    with self.subTest(name=name, phase=phase["phase"], figure=key):
                        figure = found["figures"][key]
                        self.assertTrue(figure["method"])
                        self.assertTrue(figure["valid"] or figure["note"])
                        self.assertFalse(figure["valid"] and figure["value"] is None)
        code, out, _ = self.run_cli(
            "evaluate", board, "--brief", str(board).replace(".json", ".brief.json"), "--units", "inch"
        )
        self.assertEqual(code, 0)
        self.assertIn("Slope of wake that drives it", out)

    def test_a_brief_that_cannot_be_is_refused_with_the_range(self):
        brief = json.loads(Path(self.path.replace(".json", ".brief.json")).read_text(encoding="utf-8"))
        brief["brief"]["pace"] = 90.0
        path = self.folder / "fast.json"
        path.write_text(json.dumps(brief), encoding="utf-8")
        self.refused("evaluate", self.path, "--brief", path, words="0 to 25 m/s")

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
            "length width thickness volume core_volume planform_area length_times_width width_1ft_tail width_1ft_nose "
            "wide_point "
            "nose_rocker tail_rocker keel_flat_run rail_flat_run fill_factor volume_centre_x volume_per_rider_mass "
            "area_per_rider_mass "
            "mass mass_centre_x mass_centre_z yaw_inertia roll_inertia pitch_inertia float_deck_depth float_trim "
            "float_roll_stiffness"
        )
        self.assertLessEqual(set(needed.split()), set(found["figures"]))

    def test_evaluate_in_words_and_inches(self):
        code, out, _ = self.run_cli("evaluate", self.path, "--units", "inch")
        self.assertEqual(code, 0)
        self.assertIn("4'9 9/32\"", out)
        self.assertIn(" lb", out)

    def test_every_line_in_inches_with_its_band_and_what_only_ranks(self):
        """What gauges are set to and bends under a load stay in millimetres."""
        for name in ("shearwater-69", "dunlin-39", "heron-14"):
            board = self.folder / "demo" / f"{name}.json"
            code, out, _ = self.run_cli(
                "evaluate", board, "--brief", str(board).replace(".json", ".brief.json"), "--units", "inch"
            )
            self.assertEqual(code, 0)
            lines = [line for line in out.splitlines() if not re.search(r"Sag|at its tip|skin [\d.]+ deck", line)]
            metric = re.compile(r"(?<!gap )(?<!Thick )(?<![\d.,])[\d.,]+ (cm²|cm|mm|kg)(?![\w/²³]| m²)")
            self.assertEqual([line for line in lines if metric.search(line[50:])], [])
            self.assertFalse(re.search(r"±−?0(\.0+)?( |\"|°|$)", out), "a band of nothing")
            dent = next(line for line in lines if line.startswith("  Dent"))
            self.assertIn("[ranks only: compare with another board]", dent)

    def test_a_mast_beyond_its_tracks_is_told_to_scripts_and_readers(self):
        name, board, _ = next(d for d in demo_boards() if d[0] == "dunlin-39")
        aft = slid(board, -0.08)
        path, asked = self.folder / "aft.json", self.folder / "demo" / f"{name}.brief.json"
        path.write_text(board_text(aft))
        _, out, _ = self.run_cli("evaluate", path, "--brief", asked, "--json")
        fly = next(p for p in json.loads(out)["phases"] if p["phase"] == "fly")
        self.assertEqual(fly["verdict"], "short")
        self.assertRegex(fly["not_reached"][0], r"^mast \d+\.\d cm beyond the track$")
        figures = json.loads(out)["figures"]
        self.assertTrue(figures["dent_front"]["ranks_only"])
        self.assertFalse(figures["volume"]["ranks_only"])
        self.assertEqual({f["origin"] for f in figures.values()}, {"computed"})
        _, words, _ = self.run_cli("evaluate", path, "--brief", asked, "--units", "inch")
        self.assertRegex(words, r"Fly: mast [\d /]+\" beyond the track")

    def test_bad_input_is_one_line_and_exit_2(self):
        bad = self.folder / "bad.json"
        bad.write_text("{")
        self.refused("evaluate", bad, words="not JSON")
        self.refused("evaluate", self.folder / "none.json", words="no such file")
        self.refused("export", self.path, "--to", "png", "--out", "x", words="invalid choice")
        self.refused(
            "export", self.path, "--to", "stl", "--out", self.folder / "no" / "x.stl", words="no such file or folder"
        )
        self.refused("evaluate", words="required")
        self.refused("--no-such-option", words="unrecognized")
        self.refused("export", self.path, "--to", "stl", "--out", self.folder, words="this is a folder")

    def test_a_folder_nobody_may_write(self):
        """Root may write anywhere but where the kernel shows itself."""
        self.refused(
            "export", self.path, "--to", "csv", "--out", "/proc/self/x.csv", words="Choose a folder you can write to"
        )

    def test_check_lists_every_problem(self):
        self.assertEqual(self.run_cli("check", self.path)[0], 0)
        demo = self.folder / "d.kelvor"
        demo_at(demo)
        self.assertEqual(self.run_cli("check", demo)[0], 0)
        data = json.loads(Path(self.path).read_text())
        data["board"]["length"] = "a"
        data["board"]["skin"]["deck"] = "b"
        wrong = self.folder / "wrong.json"
        wrong.write_text(json.dumps(data))
        code, _, err = self.run_cli("check", wrong)
        self.assertEqual(code, 2)
        self.assertEqual(len(err.strip().splitlines()), 2)

    def test_every_format_of_the_table_is_written_and_what_can_be_read_is_checked(self):
        board = demo_boards()[0][1]
        document = self.folder / "b.json"
        document.write_text(board_text(board), encoding="utf-8")
        read = {ending for reader in READERS.values() for ending in reader.endings}
        for key in WRITERS:
            out = self.folder / f"again.{key}"
            self.assertEqual(
                self.run_cli("export", str(document), "--to", key, "--out", str(out), "--resolution", "coarse")[0], 0
            )
            self.assertGreater(out.stat().st_size, 500, key)
            if f".{key}" in read:
                self.assertEqual(self.run_cli("check", str(out))[0], 0, key)
        broken = self.folder / "broken.svg"
        broken.write_text("<svg xmlns='http://www.w3.org/2000/svg'><text>no line</text></svg>")
        code, _, told = self.run_cli("check", str(broken))
        self.assertEqual(code, 2)
        self.assertIn("no curve was found", told)

    def test_as_a_process_without_traceback(self):
        done = subprocess.run(
            [sys.executable, "-m", "kelvor", "check", str(self.folder / "none.json")],
            capture_output=True,
            text=True,
            check=False,
        )
        self.assertEqual(done.returncode, 2)
        self.assertNotIn("Traceback", done.stderr)


class Devices(unittest.TestCase):
    """The stand-ins of outside devices, run as the processes they are."""

    def run_device(self, *arguments):
        environment = {**os.environ, "PYTHONPATH": "src"}
        command = [sys.executable, "-m", *arguments]
        return subprocess.run(command, check=False, capture_output=True, text=True, env=environment, timeout=60)

    def test_the_scale_settles_on_what_lies_on_it(self):
        done = self.run_device("kelvor.devices.scale", "2.350", "4")
        self.assertEqual(done.returncode, 0, done.stderr)
        readings = [parse_scale_line(line) for line in done.stdout.splitlines()]
        self.assertFalse(readings[0].steady)
        self.assertTrue(readings[-1].steady)
        self.assertAlmostEqual(readings[-1].mass, 2.35, delta=0.1)

    def test_the_gauge_draws_from_tail_to_nose(self):
        done = self.run_device("kelvor.devices.rocker_gauge", "wakeboard", "0")
        self.assertEqual(done.returncode, 0, done.stderr)
        lines = [parse_rocker_line(line) for line in done.stdout.splitlines()]
        self.assertIsNone(lines[-1])
        places = [reading.x for reading in lines[:-1]]
        self.assertEqual(places, sorted(places))
        self.assertGreater(len(places), 20)
        heights = [reading.height for reading in lines[:-1]]
        lowest = min(heights)  # the rail the gauge rides on is neither at the board nor quite parallel to it
        self.assertTrue(0 < lowest < 0.03 < min(heights[0], heights[-1]) - lowest < 0.1)

    def test_wrong_words_are_told_in_one_line(self):
        for arguments, words in (
            (("kelvor.devices.scale",), "kilograms"),
            (("kelvor.devices.scale", "heavy"), "kilograms"),
            (("kelvor.devices.rocker_gauge", "surfboat"), "surfboat"),
            (("kelvor.devices.depth_gauge", "1", "305"), "millimetres"),
        ):
            with self.subTest(arguments):
                done = self.run_device(*arguments)
                self.assertEqual((done.returncode, done.stdout, done.stderr.count("\n")), (2, "", 1))
                self.assertIn(words, done.stderr)

    def test_garbled_lines_are_refused_with_what_they_were(self):
        for parse, line in (
            (parse_scale_line, "ST,+00x.1 kg"),
            (parse_scale_line, ""),
            (parse_rocker_line, "12.0 mm"),
            (parse_rocker_line, "\x00\xff"),
        ):
            with self.subTest(line), self.assertRaises(InputError) as caught:
                parse(line)
            self.assertTrue(str(caught.exception))


class Layering(unittest.TestCase):
    def test_the_whole_core_loads_without_window_or_files(self):
        """In a fresh process: every core module, and no Qt, sqlite3, pydantic or trimesh."""
        script = (
            "import pkgutil, importlib, sys, kelvor.core\n"
            "for m in pkgutil.walk_packages(kelvor.core.__path__, 'kelvor.core.'): importlib.import_module(m.name)\n"
            "bad = [n for n in ('PySide6', 'sqlite3', 'pydantic', 'trimesh', 'ezdxf', 'reportlab', 'scipy') if n in "
            "sys.modules]\n"
            "print(len([n for n in sys.modules if n.startswith('kelvor.core.')]), bad)"
        )
        done = subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, check=True)
        count, _, bad = done.stdout.strip().partition(" ")
        self.assertGreater(int(count), 35)
        self.assertEqual(bad, "[]")
