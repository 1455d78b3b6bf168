"""The shell command in a test: as a process of its own, or, where only the answer matters, in this one."""

from __future__ import annotations

import contextlib
import io
import subprocess
import sys
from pathlib import Path
from unittest.mock import patch

from steady_tide import cli

COMMAND = Path(sys.executable).with_name("steady-tide")


def steady_tide(folder: Path, *words: str) -> subprocess.CompletedProcess[str]:
    """Run the command as a person would. folder: where it runs. Returns what came of it."""
    return subprocess.run([str(COMMAND), *words], capture_output=True, text=True, timeout=240, cwd=folder)


def answer(folder: Path, *words: str) -> subprocess.CompletedProcess[str]:
    """The same in this process, which saves loading everything again."""
    out, err = io.StringIO(), io.StringIO()
    code = 0
    with (
        contextlib.chdir(folder),
        patch.object(sys, "argv", ["steady-tide", *words]),
        contextlib.redirect_stdout(out),
        contextlib.redirect_stderr(err),
    ):
        try:
            cli.run()
        except SystemExit as left:
            code = left.code if isinstance(left.code, int) else 1
    return subprocess.CompletedProcess(list(words), code, out.getvalue(), err.getvalue())
