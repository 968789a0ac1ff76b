"""Plant faults one at a time, and say whether the tests catch each:

    python -m tools.planted [WORD…]         those whose name contains a word, of tank and ride and of all else
    python -m tools.planted --suite         what the tests near a fault let pass meets more of the suite
    python -m tools.planted --list

A value counts 0.85 of what it should, a sign or two operands are changed. Each fault names its function and the text,
so that it is found wherever lines have gone; one that is not found ends the run. Nothing is planted in this tree: each
fault goes into a copy. First all tests it meets must pass without one: a test that fails by itself catches nothing.
"""

import os
import re
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from tools.planted import elsewhere, tank
from tools.planted.fault import Fault, planted

ROOT = Path(__file__).parents[2]
NEAR = 6
"""So many test files that speak most of a fault's file meet it first, where it lies in no room of the tank."""


def failing(fault: Fault | None, tests: list[str]) -> str:
    """Which of the tests fails first with a fault in place, or without one; nothing where all pass."""
    with tempfile.TemporaryDirectory() as folder:
        tree = Path(folder)
        shutil.copytree(ROOT / "src", tree / "src", ignore=shutil.ignore_patterns("__pycache__"))
        for beside in ("tests", "docs", "tools"):
            (tree / beside).symlink_to(ROOT / beside)
        if fault is not None:
            file = tree / "src/kelvor" / fault.file
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
        found += [name] if not place.is_dir() else [_dotted(file) for file in sorted(place.rglob("test_*.py"))]
    if not word:
        return found
    return sorted(found, key=lambda name: -(ROOT / f"{name.replace('.', '/')}.py").read_text().count(word))


def _dotted(file: Path) -> str:
    return ".".join(file.relative_to(ROOT).with_suffix("").parts)


def _near(fault: Fault) -> list[str]:
    """Tests that meet a fault first: of its own room, and those that name its file, function or class most."""
    module = "kelvor." + fault.file.removesuffix(".py").replace("/", ".")
    words = [module, *fault.function.split("."), Path(fault.file).stem]
    asked = re.compile("|".join(rf"\b{re.escape(word)}\b" for word in words))
    room = ROOT / "tests" / Path(fault.file).parent
    counts = {}
    for file in sorted((ROOT / "tests").rglob("test_*.py")):
        said = len(asked.findall(file.read_text())) + 3 * (room in file.parents)
        if said:
            counts[_dotted(file)] = said
    return sorted(counts, key=lambda name: -counts[name])[:NEAR]


def main() -> int:
    """Plant each, and say which were caught."""
    words = [word for word in sys.argv[1:] if not word.startswith("--")]
    every = {**dict.fromkeys(tank.FAULTS, True), **dict.fromkeys(elsewhere.FAULTS, False)}
    chosen = [fault for fault in every if not words or any(word in fault.name for word in words)]
    for fault in chosen:  # a list that has gone out of date is found before anything runs
        planted((ROOT / "src/kelvor" / fault.file).read_text(), fault)
    if "--list" in sys.argv:
        print(*(fault.name for fault in chosen), f"{len(chosen)} faults", sep="\n")
        return 0
    beyond = _modules(tank.BEYOND) if "--suite" in sys.argv else []
    whole = _modules(tank.TESTS) if any(every[fault] for fault in chosen) else []
    meets = {
        fault: _modules(tank.TESTS, fault.function.split(".")[-1]) if every[fault] else _near(fault) for fault in chosen
    }
    if broken := failing(None, list(dict.fromkeys([*whole, *beyond, *(t for tests in meets.values() for t in tests)]))):
        print(f"Without a fault: {broken}. Mend that first.")
        return 1
    passed = []
    for fault in chosen:
        by = failing(fault, meets[fault]) or failing(fault, beyond)
        print(f"{'caught ' if by else 'PASSED '} {fault.name}   {by}", flush=True)
        passed += [] if by else [fault]
    print(f"{len(chosen) - len(passed)} of {len(chosen)} planted faults caught")
    return 1 if passed else 0


if __name__ == "__main__":
    sys.exit(main())
