"""Circles of files that import one another when they run, lazy imports counted: there are none.

PYTHONPATH=src .venv/bin/python -m tools.circles
"""

import sys

import grimp
import networkx


def circles(package: str) -> list[list[str]]:
    """Modules of a package that reach themselves, those of each circle in order."""
    graph = grimp.build_graph(package, exclude_type_checking_imports=True)
    arrows = networkx.DiGraph((m, n) for m in graph.modules for n in graph.find_modules_directly_imported_by(m))
    return [sorted(found) for found in networkx.strongly_connected_components(arrows) if len(found) > 1]


def main() -> int:
    found = circles("kelvor")
    for circle in found:
        print(f"A circle: {', '.join(circle)}")
    print(f"{len(found)} circles of files")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
