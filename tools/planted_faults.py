"""Faults planted in the tank one at a time, and whether the tests catch each:

    python -m tools.planted_faults [WORD…]      those whose name contains a word
    python -m tools.planted_faults --suite      what the tests of tank and ride let pass meets more of the suite

A law counts 0.85 of what it should, a sign or two operands are changed. Each fault names its function and the text, so
that it is found wherever lines have gone; one that is not found ends the run. Nothing is planted in this tree: each
fault goes into a copy. First all tests must pass without one: a test that fails by itself catches nothing.
"""

import ast
import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import NamedTuple

ROOT = Path(__file__).parent.parent
CORE = "src/kelvor/core/"
SHARE = 0.85
TESTS = (
    "tests.reference.test_savitsky", "tests.reference.test_lifting", "tests.reference.test_drive_and_turning",
    "tests.reference.test_fluids_and_wind", "tests.reference.test_displacement", "tests.reference.test_hydrostatics",
    "tests.reference.test_ride_by_hand", "tests.core.tank", "tests.core.ride.test_balance",
    "tests.core.ride.test_feet_and_paddle", "tests.core.ride.test_ride", "tests.core.ride.test_reaching",
    "tests.core.ride.test_first_levers", "tests.core.ride.test_turning_levers", "tests.core.ride.test_true_figures",
    "tests.core.ride.test_floating_to_planing", "tests.core.ride.test_trends", "tests.reference.test_bodies",
    "tests.reference.test_check_values", "tests.reference.test_coverage",
)  # fmt: skip
"""Tests of tank and ride, the quick ones first."""
BEYOND = ("tests.core.evaluation", "tests.core.brief", "tests.core.rider_says", "tests.ui.ride")
"""Tests that what these let pass meets with `--suite`."""


class Fault(NamedTuple):
    """A fault: file below the core, function (Class.name for a method), what stands there and what is put for it.

    Without texts every value the function returns counts `SHARE` of itself.
    """

    file: str
    function: str
    text: str = ""
    instead: str = ""

    @property
    def name(self) -> str:
        """What it is called in the list."""
        what = f"{self.text} → {self.instead}" if self.text else f"× {SHARE}"
        return f"{self.file.removesuffix('.py')}:{self.function} {what}"


def _scaled(file: str, functions: str) -> tuple[Fault, ...]:
    return tuple(Fault(file, function) for function in functions.split())


FAULTS = (
    *_scaled("tank/planing/savitsky.py", "moving_lift standing_lift with_deadrise pressure_centre bottom_speed"),
    *_scaled("tank/planing/states.py", "least_trim _lift"),
    *_scaled("tank/planing/edge.py", "edge_trim steepened"),
    *_scaled("tank/planing/bottom.py", "lifting_beam"),
    *_scaled("tank/laws/friction.py", "ittc57 band"),
    *_scaled("tank/laws/wings.py", "plate_slope image_factor mirrored holding_drag"),
    *_scaled("tank/laws/wind.py", "at_height"),
    *_scaled("tank/laws/entry.py", "ways_down touch against_wedge"),
    *_scaled("tank/lifting/fins.py", "FinLaw.drag_of FinLaw.most_of FinLaw.draws_air SetFin.attack"),
    *_scaled("tank/lifting/foils.py", "foil_drag lift_off_speed roll_damping"),
    *_scaled("tank/lifting/cavitation.py", "suction_peak cavitation_speed"),
    *_scaled("tank/rail/pivot.py", "Tail.moment Tail.moment_of_rail _walls"),
    *_scaled("tank/rail/rail.py", "RailLine.radius"),
    *_scaled("tank/floating/balance.py", "righting_arm"),
    *_scaled("ride/run_up.py", "kite_pull steered pumping"),
    *_scaled("ride/attitudes.py", "tail_clearance nose_touch lean_before_touch"),
    *_scaled("ride/foiling.py", "dragging mast_for"),
    *_scaled("tank/lifting/pumping.py", "heaving_power strokes endurance"),
    *_scaled("ride/paddling.py", "glide_loss start_time yaw_per_stroke yaw_hold nose_recovery"),
    *_scaled("ride/balance.py", "strap_reach"),
    *_scaled("ride/model.py", "RideModel.leans RideModel.drag_area"),
    *_scaled("ride/equipped.py", "Equipped.pull_height"),
    Fault("tank/planing/states.py", "Planer.at", "load * np.tan(slopes) + rubbed", "load * np.tan(slopes) - rubbed"),
    Fault("tank/planing/states.py", "Planer.at", "(fast - FAST) * (1 - rests)", "(fast - FAST) * rests"),
    Fault("tank/planing/states.py", "Planer.at", "savitsky.standing_lift(moving, wet, cv) * still",
          "savitsky.standing_lift(moving, wet, cv)"),
    Fault("tank/planing/bottom.py", "_plan", "deep, run = 1 - along, along**2", "deep, run = along, (1 - along) ** 2"),
    Fault("tank/planing/bottom.py", "running_strip", "2 * walls.sum(axis=1)", "walls.sum(axis=1)"),
    Fault("tank/lifting/fins.py", "fins_holding", "sin(f.cant * f.side + heel)", "sin(f.cant * f.side - heel)"),
    Fault("tank/lifting/fins.py", "fin_of", "toe -= FLAT_INSIDE", "toe += FLAT_INSIDE"),
    Fault("tank/lifting/fins.py", "fins_holding", "yaw = (force - at_rest) / gain", "yaw = (force + at_rest) / gain"),
    Fault("tank/sails/sails.py", "trimmed_gear", "lift * ls - drag * c", "lift * ls + drag * c"),
    Fault("tank/sails/sails.py", "blowing", "(gear.swung**2 if swung", "(gear.swung if swung"),
    Fault("tank/laws/entry.py", "closed_by_air", "np.minimum.accumulate(heights[:, ::-1], axis=1)[:, ::-1]",
          "np.minimum.accumulate(heights, axis=1)"),
    Fault("tank/rail/pivot.py", "Tail.moment_of_rail", "np.minimum(self.x - self.foot, 0.0)",
          "np.maximum(self.x - self.foot, 0.0)"),
    Fault("tank/rail/pivot.py", "tail", "np.sin(pressed.heel) ** 2", "np.cos(pressed.heel) ** 2"),
    Fault("tank/displacement/hull.py", "resistance", "0.5 * base,", "0.0 * base,"),
    Fault("tank/displacement/hull.py", "resistance", "rubbing = q * form.wetted", "rubbing = 0.85 * q * form.wetted"),
    Fault("tank/displacement/hull.py", "resistance", "v * form.length / viscosity", "v * form.draught / viscosity"),
    Fault("ride/run_up.py", "dived", "way / (across * wind)", "way / wind"),
    Fault("ride/run_up.py", "steered", "2 * model.table.kite_steered", "model.table.kite_steered"),
    Fault("ride/run_up.py", "_rises_through", "winds[1] ** 2 - winds[0] ** 2", "winds[0] ** 2 - winds[1] ** 2"),
    Fault("ride/foiling.py", "mast_for", "nose_down / GRAVITY - (carried", "nose_down / GRAVITY + (carried"),
    Fault("ride/model.py", "_band", "rubbing**2 + sum", "sum"),
    Fault("ride/topics/turning.py", "landing", "touch(under, edge, x, bend, cushion, told), most",
          "touch(under, edge, x, -bend, cushion, told), most"),
)  # fmt: skip


def planted(source: str, fault: Fault) -> str:
    """A file's text with a fault in it; raises LookupError where its function or text is not there, or not once."""
    lines = source.splitlines(keepends=True)
    *within, name = fault.function.split(".")
    node: ast.AST = ast.parse(source)
    for part in (*within, name):
        found = [n for n in ast.iter_child_nodes(node) if isinstance(n, ast.FunctionDef | ast.ClassDef)]
        node = next((n for n in found if n.name == part), ast.Module([], []))
        if isinstance(node, ast.Module):
            raise LookupError(f"{fault.file} has no {fault.function}")
    assert isinstance(node, ast.FunctionDef)
    begin, end = sum(map(len, lines[: node.lineno - 1])), sum(map(len, lines[: node.end_lineno]))
    body = source[begin:end]
    if fault.text:
        if body.count(fault.text) != 1:
            raise LookupError(f"{fault.name}: the text stands there {body.count(fault.text)} times")
        return source[:begin] + body.replace(fault.text, fault.instead) + source[end:]
    edits = []
    for back in (n for n in ast.walk(node) if isinstance(n, ast.Return) and n.value is not None):
        value = ast.get_source_segment(source, back.value)
        start = sum(len(line.encode()) for line in lines[: back.value.lineno - 1]) + back.value.col_offset
        edits.append((start, value))
    if not edits:
        raise LookupError(f"{fault.name}: it returns nothing")
    text = source.encode()
    for start, value in sorted(edits, reverse=True):
        text = text[:start] + f"{SHARE} * ({value})".encode() + text[start + len(value.encode()) :]
    return text.decode()


def failing(fault: Fault | None, tests: list[str]) -> str:
    """Which of the tests fails first with a fault in place, or without one; nothing where all pass."""
    with tempfile.TemporaryDirectory() as folder:
        tree = Path(folder)
        shutil.copytree(ROOT / "src", tree / "src", ignore=shutil.ignore_patterns("__pycache__"))
        for beside in ("tests", "docs", "tools"):
            (tree / beside).symlink_to(ROOT / beside)
        if fault is not None:
            file = tree / CORE / fault.file
            file.write_text(planted(file.read_text(), fault))
        environment = {**os.environ, "PYTHONPATH": f"{tree / 'src'}:{tree}", "QT_QPA_PLATFORM": "offscreen"}
        for test in tests:
            run = subprocess.run(
                [sys.executable, "-m", "unittest", "-f", test],
                cwd=tree, env=environment, capture_output=True, text=True, check=False,
            )  # fmt: skip
            if run.returncode:
                failed = [line for line in run.stderr.splitlines() if line.startswith(("FAIL:", "ERROR:"))]
                return failed[0] if failed else f"{test} ended with {run.returncode}"
    return ""


def _modules(names: tuple[str, ...], word: str = "") -> list[str]:
    """Test modules, and those of packages of them; first those that speak of a word."""
    found = []
    for name in names:
        place = ROOT / name.replace(".", "/")
        found += [name] if not place.is_dir() else [f"{name}.{file.stem}" for file in sorted(place.glob("test_*.py"))]
    if not word:
        return found
    return sorted(found, key=lambda name: -(ROOT / f"{name.replace('.', '/')}.py").read_text().count(word))


def main() -> int:
    """Plant each, and say which were caught."""
    words = [word for word in sys.argv[1:] if not word.startswith("--")]
    chosen = [fault for fault in FAULTS if not words or any(word in fault.name for word in words)]
    for fault in chosen:  # a list that has gone out of date is found before anything runs
        planted((ROOT / CORE / fault.file).read_text(), fault)
    if "--list" in sys.argv:
        print(*(fault.name for fault in chosen), f"{len(chosen)} faults", sep="\n")
        return 0
    tests, beyond = (TESTS, BEYOND) if "--suite" in sys.argv else (TESTS, ())
    if broken := failing(None, _modules(tests + beyond)):
        print(f"Without a fault: {broken}. Mend that first.")
        return 1
    passed = []
    for fault in chosen:
        by = failing(fault, _modules(tests, fault.function.split(".")[-1])) or failing(fault, _modules(beyond))
        print(f"{'caught ' if by else 'PASSED '} {fault.name}   {by}", flush=True)
        passed += [] if by else [fault]
    print(f"{len(chosen) - len(passed)} of {len(chosen)} planted faults caught")
    return 1 if passed else 0


if __name__ == "__main__":
    sys.exit(main())
