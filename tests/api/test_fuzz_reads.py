"""What only reads, asked at random."""

from __future__ import annotations

import json
from typing import Any

import requests
import schemathesis

from tests.api.fuzzing import DOCUMENT, FEW, TAKE_BRIEFS, assert_stands, schema

asked = schema.exclude(method=["POST", "PUT", "PATCH", "DELETE"])


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
