"""The pure parts of the front end, bundled once and asked in one Node process."""

from __future__ import annotations

import json
import subprocess
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest

BUNDLE = Path(__file__).parents[2] / "web" / "dist-pure" / "entry.mjs"


@pytest.fixture(scope="session")
def ask() -> Iterator[Callable[..., Any]]:
    """Call a function of the front end by its name, with values that travel as JSON."""
    with subprocess.Popen(
        ["node", str(BUNDLE)], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, bufsize=1
    ) as node:
        assert node.stdin is not None
        assert node.stdout is not None
        sent, told = node.stdin, node.stdout

        def call(name: str, *said: Any) -> Any:
            sent.write(json.dumps({"call": name, "said": said}) + "\n")
            sent.flush()
            answer = json.loads(told.readline())
            assert "error" not in answer, answer["error"]
            return answer["value"]

        yield call
        sent.close()
