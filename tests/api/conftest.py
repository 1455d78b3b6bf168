"""What the tests that ask at random share."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
import requests

from steady_tide.launch.cluster import Cluster
from tests.service import own_database, serving


@pytest.fixture(scope="module")
def apart(cluster: Cluster, request: pytest.FixtureRequest) -> Iterator[str]:
    """A service on a database of its own: what is asked at random may put the whole kit away."""
    name = request.module.__name__.rpartition(".")[2]
    with own_database(cluster, name, demo=False) as database, serving(database) as at:
        yield at


@pytest.fixture(scope="module")
def line() -> Iterator[requests.Session]:
    """One connection for thousands of requests."""
    with requests.Session() as made:
        made.trust_env = False
        yield made
