"""What changes something, asked at random."""

from __future__ import annotations

import requests
import schemathesis

from tests.api.fuzzing import FEW, assert_stands, schema

asked = schema.exclude(method="GET")


@asked.parametrize()
@FEW
def test_nothing_that_writes_brings_the_service_down(
    case: schemathesis.Case, apart: str, line: requests.Session
) -> None:
    assert_stands(case, apart, line)
