"""Public classes and functions of modules that share a name: there are none, so that a name says which one is meant.

PYTHONPATH=src .venv/bin/python -m tools.names
"""

import ast
import sys
from collections import defaultdict
from pathlib import Path

SOURCES = Path("src/kelvor")
ALLOWED = ("main",)
"""What commands and stand-ins run when they are started as programs."""


def shared(sources: Path) -> dict[str, list[str]]:
    """Files that declare a public class or function at their top, by its name, where it is more than one."""
    where: defaultdict[str, set[str]] = defaultdict(set)
    for path in sources.rglob("*.py"):
        for node in ast.parse(path.read_text()).body:
            if isinstance(node, ast.ClassDef | ast.FunctionDef) and not node.name.startswith("_"):
                where[node.name].add(path.relative_to(sources).as_posix())
    return {name: sorted(files) for name, files in where.items() if len(files) > 1 and name not in ALLOWED}


def main() -> int:
    """Print the names that stand for several things; 1 where there are some."""
    found = shared(SOURCES)
    for name, files in sorted(found.items()):
        print(f"{name} is declared in {', '.join(files)}")
    print(f"{len(found)} names of several things")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
