"""What the tests would miss: small faults are put into the core one at a time, and the tests that reach the place are run.

Usage: .venv/bin/python bench/mutants.py [--count 500] [--seed 1] [--processes 2] [--map FILE]
The faults (another operator, a negated condition, a number off by one, a loop that never runs) are made by cosmic-ray, the
tests that reach a line are found by coverage; both are installed into a folder for temporary files. It works on a copy of
the committed files. A fault survives where all tests that reach its line pass, or as many as fit into the time (`BUDGET_S`,
the fastest first), and then the panel; a fault that changes nothing (`x * 1.0`) survives, too, and is counted. Prints survivors by module, and each.
"""

from __future__ import annotations

import argparse
import difflib
import io
import multiprocessing
import os
import random
import shutil
import signal
import subprocess
import sys
import tempfile
import time
import traceback
from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping
from contextlib import redirect_stderr, redirect_stdout
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from xml.etree import ElementTree

ROOT = Path(__file__).parents[1]
TOOLS = Path(tempfile.gettempdir()) / "steady-tide-bench-tools"
PINNED = ("cosmic-ray==8.7.0", "coverage==7.6.10")
# Measures the planner, and what tests it takes half a minute; limits of size, which judge nothing.
ASIDE = ("planning/panel.py", "quantities/sizes.py")
AIMS = ("quantities", "physics", "light", "planning")
TESTS = ("tests/core",)
LAST = "tests/core/test_panel.py"  # asked where all others pass
SKIPPED = (LAST, "tests/core/rushes", "tests/core/look", "tests/core/practice", "tests/core/edit")
BUDGET_S = 45.0
LOST_S = 150.0  # a fault that makes tests hang is noticed
ARITHMETIC = ("Add", "Sub", "Mul", "Div", "Pow")
ORDERED = ("Lt", "LtE", "Gt", "GtE")
OTHERS = (
    "ReplaceComparisonOperator_Eq_NotEq", "ReplaceComparisonOperator_NotEq_Eq", "ReplaceComparisonOperator_Is_IsNot",
    "ReplaceComparisonOperator_IsNot_Is", "ReplaceUnaryOperator_Delete_USub", "ReplaceUnaryOperator_Delete_Not", "AddNot",
    "ReplaceTrueWithFalse", "ReplaceFalseWithTrue", "ReplaceAndWithOr", "ReplaceOrWithAnd", "ReplaceBreakWithContinue",
    "ReplaceContinueWithBreak", "NumberReplacer", "ZeroIterationForLoop",
)  # fmt: skip


@dataclass(frozen=True)
class Fault:
    """One small fault. path: of the module; operator: of the library; occurrence: which place; line: of it."""

    path: str
    operator: str
    occurrence: int
    line: int


def install() -> None:
    """Put the two libraries into a folder for temporary files, where they are not there."""
    if not (TOOLS / "cosmic_ray").exists():
        said = [sys.executable, "-m", "pip", "install", "-q", "--disable-pip-version-check", "--target", str(TOOLS)]
        subprocess.run([*said, *PINNED], check=True, stderr=subprocess.DEVNULL)
    sys.path.append(str(TOOLS))


def copied(folder: Path) -> Path:
    """The committed files in a folder of their own."""
    folder.mkdir(parents=True)
    archive = subprocess.run(["git", "-C", str(ROOT), "archive", "HEAD"], check=True, stdout=subprocess.PIPE).stdout
    subprocess.run(["tar", "-x", "-C", str(folder)], input=archive, check=True)
    return folder


Reached = dict[tuple[str, int], set[str]]  # tests by module and line


def mapped(copy: Path, kept: Path) -> tuple[Reached, dict[str, float]]:
    """Which tests reach each line, and how long each takes. kept: folder that remembers it."""
    from coverage import CoverageData

    data, report = kept / "reached", kept / "report.xml"
    if not data.exists():
        kept.mkdir(parents=True, exist_ok=True)
        settings = f"[run]\ndynamic_context = test_function\ndata_file = {data}\nsource = steady_tide/core\n"
        (kept / "rc").write_text(settings)
        run = [sys.executable, "-m", "coverage", "run", f"--rcfile={kept / 'rc'}", "-m", "pytest", "-q", *TESTS]
        run += [f"--junitxml={report}", *(f"--ignore={path}" for path in SKIPPED)]
        subprocess.run(run, cwd=copy, check=True, env={**os.environ, "PYTHONPATH": str(TOOLS)})
    read = CoverageData(basename=str(data))
    read.read()
    reached: Reached = {}
    for file in read.measured_files():
        name = file[file.index("steady_tide/core") :]
        for line, contexts in read.contexts_by_lineno(file).items():
            reached[name, line] = {context for context in contexts if ".test_" in context}
    seconds: dict[str, float] = defaultdict(float)
    for case in ElementTree.parse(report).iter("testcase"):
        seconds[f"{case.get('classname')}.{str(case.get('name')).partition('[')[0]}"] += float(case.get("time") or 0.0)
    return reached, seconds


def faults(copy: Path) -> Iterator[Fault]:
    """All faults that could be put in."""
    from cosmic_ray.ast import ast_nodes, get_ast
    from cosmic_ray.plugins import get_operator

    names = [f"ReplaceBinaryOperator_{a}_{b}" for a in ARITHMETIC for b in ARITHMETIC if a != b]
    names += [f"ReplaceComparisonOperator_{a}_{b}" for a in ORDERED for b in ORDERED if a != b]
    made = {name: get_operator(f"core/{name}")() for name in (*names, *OTHERS)}
    for aim in AIMS:
        for path in sorted((copy / "steady_tide" / "core" / aim).rglob("*.py")):
            if any(path.match(pattern) for pattern in ASIDE):
                continue
            nodes = list(ast_nodes(get_ast(path.read_text())))
            for name, operator in made.items():
                place = 0
                for node in nodes:
                    for (line, _), _ in operator.mutation_positions(node):
                        yield Fault(str(path.relative_to(copy)), name, place, line)
                        place += 1


def preload() -> None:
    """Load what every run needs and no fault touches, once for all runs, which are forked off."""
    import cv2  # noqa: F401
    import httpx  # noqa: F401
    import hypothesis  # noqa: F401
    import numpy as np  # noqa: F401
    import playwright.sync_api  # noqa: F401
    import pydantic  # noqa: F401
    import pytest  # noqa: F401
    import scipy.optimize  # noqa: F401
    import sqlalchemy.orm  # noqa: F401
    import yaml  # noqa: F401


def outcome(copy: Path, tests: list[str]) -> str:
    """Run some tests in a process of their own. Returns killed, survived or hung."""
    child = os.fork()
    if child == 0:
        os.setsid()
        os.chdir(copy)
        sys.path[:0] = [str(copy)]
        os.environ["HYPOTHESIS_STORAGE_DIRECTORY"] = str(copy / ".hypothesis")
        import pytest

        quiet = ["-W", "ignore::pytest.PytestAssertRewriteWarning", "-x", "-q", "-p", "no:cacheprovider"]
        code = 70  # the run itself failed
        try:
            with redirect_stdout(io.StringIO()), redirect_stderr(io.StringIO()):
                code = int(pytest.main([*quiet, f"--rootdir={copy}", *tests]))
        except BaseException:
            traceback.print_exc()
        finally:
            os._exit(code)
    end = time.monotonic() + LOST_S
    while time.monotonic() < end:
        done, status = os.waitpid(child, os.WNOHANG)
        if done:
            code = os.waitstatus_to_exitcode(status)
            if code == 70:
                return "not run"
            return "survived" if code == 0 else "killed"
        time.sleep(0.05)
    os.killpg(child, signal.SIGKILL)
    os.waitpid(child, 0)
    return "hung"


def tried(copy: Path, fault: Fault, tests: list[str], ticket: int) -> tuple[str, str]:
    """Put a fault in, run the tests, take it out. ticket: another for each run. Returns the outcome and the changed lines."""
    from cosmic_ray.mutating import mutate_code
    from cosmic_ray.plugins import get_operator

    path = copy / fault.path
    before = path.read_text()
    after = mutate_code(before, get_operator(f"core/{fault.operator}")(), fault.occurrence)
    if after is None or after == before:
        return "none", ""
    lines = difflib.unified_diff(before.splitlines(), after.splitlines(), lineterm="", n=0)
    told = "\n".join(line for line in lines if line[:1] in "+-" and line[:3] not in ("+++", "---"))
    path.write_text(after)
    os.utime(path, (ticket, ticket))  # a compiled file of the same size and second would be taken for it
    try:
        how = outcome(copy, tests)
        return (outcome(copy, [LAST]) if how == "survived" else how), told
    finally:
        path.write_text(before)


def tests_for(fault: Fault, reached: Reached, seconds: Mapping[str, float]) -> list[str]:
    """The tests that reach a fault's line, the fastest first, as many as fit into the time. Returns what pytest takes."""
    tests: list[str] = []
    spent = 0.0
    names = reached.get((fault.path, fault.line), set())
    if not names:  # a constant: whatever runs its module
        names = {name for (path, _), there in reached.items() if path == fault.path for name in there}
    for name in sorted(names, key=lambda name: seconds.get(name, 1.0)):
        spent += seconds.get(name, 1.0)
        if tests and spent > BUDGET_S:
            break
        module, _, function = name.rpartition(".")
        tests.append(f"{module.replace('.', '/')}.py::{function}")
    return tests


_mine: list[Path] = []  # the copy that a process of the pool works on


def take_copy(free: Any) -> None:
    """Give a process of the pool a copy of its own."""
    _mine.append(free.get())


def run(one: tuple[int, Fault, list[str]]) -> tuple[Fault, str, str]:
    """Try a fault in this process's copy. Returns it, the outcome, and the changed lines."""
    number, fault, tests = one
    if not tests:
        return fault, "never reached", ""
    return (fault, *tried(_mine[0], fault, tests, 1_000_000_000 + number))


def main() -> None:
    """Sample, run, tell."""
    said = argparse.ArgumentParser(description=__doc__)
    said.add_argument("--count", type=int, default=500)
    said.add_argument("--seed", type=int, default=1)
    said.add_argument("--processes", type=int, default=2)
    said.add_argument("--map", type=Path, default=TOOLS / "map")
    asked = said.parse_args()
    install()
    base = Path(tempfile.mkdtemp(prefix="steady-tide-mutants-"))
    os.environ["PYTHONDONTWRITEBYTECODE"] = "1"
    sys.dont_write_bytecode = True
    copies = [copied(base / str(number)) for number in range(asked.processes)]
    reached, seconds = mapped(copies[0], asked.map)
    every = list(faults(copies[0]))
    chosen = random.Random(asked.seed).sample(every, min(asked.count, len(every)))
    print(f"{len(every)} places for a fault, {len(chosen)} tried", flush=True)
    preload()

    work = [(number, fault, tests_for(fault, reached, seconds)) for number, fault in enumerate(chosen)]
    counts: Counter[str] = Counter()
    by_module: dict[str, Counter[str]] = defaultdict(Counter)
    context = multiprocessing.get_context("fork")
    free = context.Queue()
    for copy in copies:
        free.put(copy)
    with context.Pool(asked.processes, take_copy, (free,)) as pool:
        for done, (fault, how, told) in enumerate(pool.imap_unordered(run, work), start=1):
            counts[how] += 1
            by_module[fault.path][how] += 1
            if how in ("survived", "never reached"):
                print(f"{how}: {fault.path}:{fault.line} {fault.operator}\n{told}", flush=True)
            if done % 50 == 0:
                print(f"... {done}: {dict(counts)}", flush=True)
    tried_ = sum(counts.values()) - counts["none"]
    alive = counts["survived"] + counts["never reached"]
    for module, found in sorted(by_module.items(), key=lambda entry: -entry[1]["survived"]):
        if found["survived"] + found["never reached"]:
            print(f"{module}: {dict(found)}")
    print(f"{tried_} faults: {dict(counts)}; {alive} survive, {alive / max(1, tried_):.1%}")
    shutil.rmtree(base)


if __name__ == "__main__":
    main()
