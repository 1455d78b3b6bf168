"""What only reads, asked at random."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Any

import pytest
import requests
import schemathesis

from steady_tide.launch.cluster import Cluster
from tests.api.fuzzing import DOCUMENT, FEW, TAKE_BRIEFS, assert_stands, schema
from tests.service import own_database, serving

asked = schema.exclude(method=["POST", "PUT", "PATCH", "DELETE"])


@pytest.fixture(scope="module")
def apart(cluster: Cluster) -> Iterator[str]:
    """A service on a database of its own: what is asked at random may put the whole kit away."""
    with own_database(cluster, "fuzz_reads", demo=False) as database, serving(database) as at:
        yield at


@pytest.fixture(scope="module")
def line() -> Iterator[requests.Session]:
    """One connection for thousands of requests."""
    with requests.Session() as made:
        made.trust_env = False
        yield made


def test_of_what_takes_a_brief_one_is_tried_with_every_value() -> None:
    document = json.loads(DOCUMENT.read_text())
    schemas = document["components"]["schemas"]

    def holds_brief(part: Any, seen: set[str]) -> bool:
        if isinstance(part, list):
            return any(holds_brief(one, seen) for one in part)
        if not isinstance(part, dict):
            return False
        name = part.get("$ref", "").rpartition("/")[2]
        if name == "Brief":
            return True
        if name and name not in seen:
            seen.add(name)
            if holds_brief(schemas[name], seen):
                return True
        return any(holds_brief(value, seen) for value in part.values())

    takes = {
        f"{method.upper()} {path}"
        for path, operations in document["paths"].items()
        for method, operation in operations.items()
        if holds_brief(operation.get("requestBody"), set())
    }
    assert takes == {*TAKE_BRIEFS, "POST /api/plan"}


@asked.parametrize()
@FEW
def test_nothing_that_reads_brings_the_service_down(
    case: schemathesis.Case, apart: str, line: requests.Session
) -> None:
    assert_stands(case, apart, line)
