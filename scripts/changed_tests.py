"""Choose the tests that what has changed concerns, nearest first, as far as two minutes reach.

Changed is what differs from the last commit; where nothing does, what the last commit changed. A test is as near as the way of
imports from it to a changed module is short. Usage: .venv/bin/python -m scripts.changed_tests
"""

from __future__ import annotations

import ast
import json
import subprocess
import sys
from collections import deque
from pathlib import Path

from scripts.durations import KEPT, ROOT

REACH_S = 170.0  # of test time: two processes take well under two minutes for it
USUAL_S = 2.0  # of a file whose time nobody knows yet
OF_THE_FRONT_END = ("tests/pure", "tests/web/test_stations.py", "tests/web/test_made_up.py")


def changed_files() -> list[str]:
    """What has changed, from the root of the project. Returns paths."""

    def git(*asked: str) -> list[str]:
        said = subprocess.run(["git", *asked], cwd=ROOT, capture_output=True, text=True, check=True)
        return said.stdout.splitlines()

    now = [*git("diff", "--name-only", "HEAD"), *git("ls-files", "--others", "--exclude-standard")]
    return now or git("diff", "--name-only", "HEAD~1", "HEAD")


def imports_of(file: Path) -> set[str]:
    """Modules of ours that a module names, as paths from the root. file: of it."""
    found = set()
    for node in ast.walk(ast.parse(file.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module:
            found |= {node.module, *(f"{node.module}.{alias.name}" for alias in node.names)}
        elif isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
    paths = (Path(*name.split(".")).with_suffix(".py") for name in found)
    return {str(path) for path in paths if (ROOT / path).is_file()}


def nearness(changed: list[str], graph: dict[str, set[str]]) -> dict[str, int]:
    """How far each file of tests is from what changed. graph: what each file imports. Returns steps; what is not reached is left out."""
    importers: dict[str, set[str]] = {}
    for file, named in graph.items():
        for other in named:
            importers.setdefault(other, set()).add(file)
    steps = {file: 0 for file in changed if file in graph}
    todo = deque(steps)
    while todo:
        file = todo.popleft()
        for importer in importers.get(file, ()):
            if importer not in steps:
                steps[importer] = steps[file] + 1
                todo.append(importer)
    return {file: far for file, far in steps.items() if Path(file).name.startswith("test_")}


def chosen(changed: list[str]) -> tuple[list[str], list[str]]:
    """Tests for what changed. changed: paths from the root. Returns those to run, and those that time leaves out."""
    files = [*ROOT.glob("steady_tide/**/*.py"), *ROOT.glob("tests/**/*.py"), *ROOT.glob("scripts/*.py")]
    graph = {str(file.relative_to(ROOT)): imports_of(file) for file in files}
    near = nearness(changed, graph)
    # Data and pages are read by name: whoever names the file is asked.
    for file in (one for one in changed if one not in graph and not one.startswith("web/")):
        near |= {
            test: 1
            for test in graph
            if Path(test).name.startswith("test_") and Path(file).stem in (ROOT / test).read_text()
        }
    if any(file.startswith("web/") for file in changed):
        near |= {str(test.relative_to(ROOT)): 0 for at in OF_THE_FRONT_END for test in _tests_at(ROOT / at)}
    near.setdefault("tests/test_house.py", 9)
    kept = json.loads(KEPT.read_text())
    seconds = {file: float(kept.get(file, USUAL_S)) for file in near}
    taken, left, total = [], [], 0.0
    for file in sorted(near, key=lambda one: (near[one], seconds[one])):
        if total + seconds[file] <= REACH_S or near[file] == 0:
            taken.append(file)
            total += seconds[file]
        else:
            left.append(file)
    return taken, left


def _tests_at(place: Path) -> list[Path]:
    return sorted(place.glob("test_*.py")) if place.is_dir() else [place]


if __name__ == "__main__":
    run, left = chosen(changed_files())
    print(f"{len(run)} files of tests; {len(left)} more are concerned and left to ./test", file=sys.stderr)
    print("\n".join(run))
