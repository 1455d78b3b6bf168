"""What changes something, asked at random."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
import requests
import schemathesis

from steady_tide.launch.cluster import Cluster
from tests.api.fuzzing import FEW, assert_stands, schema
from tests.service import own_database, serving

asked = schema.exclude(method="GET")


@pytest.fixture(scope="module")
def apart(cluster: Cluster) -> Iterator[str]:
    """A service on a database of its own: what is asked at random may put the whole kit away."""
    with own_database(cluster, "fuzz_writes", demo=False) as database, serving(database) as at:
        yield at


@pytest.fixture(scope="module")
def line() -> Iterator[requests.Session]:
    """One connection for thousands of requests."""
    with requests.Session() as made:
        made.trust_env = False
        yield made


@asked.parametrize()
@FEW
def test_nothing_that_writes_brings_the_service_down(
    case: schemathesis.Case, apart: str, line: requests.Session
) -> None:
    assert_stands(case, apart, line)
