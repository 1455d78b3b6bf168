"""What all tests share: a throw-away PostgreSQL cluster, a service on it, and a browser."""

from __future__ import annotations

import gc
import json
import os
import shutil
import tempfile
from collections import Counter
from collections.abc import Iterator
from pathlib import Path

import httpx
import pytest
from hypothesis import settings
from playwright.sync_api import Browser, Page, expect, sync_playwright

from steady_tide.launch.cluster import Cluster
from steady_tide.launch.logs import log_lines
from steady_tide.services.memory import keep_freed, look_seldom
from steady_tide.store.database import Database
from tests.examples import MANY, examples_of
from tests.service import own_database, serving

# A loaded machine must not fail a property by its clock.
settings.register_profile("small", deadline=None, max_examples=examples_of(20))
settings.register_profile("large", deadline=None, max_examples=examples_of(20))
settings.load_profile("large" if MANY else "small")

# All is asked of loopback; each client would read the certificates of the world first, which takes longer than to ask.
os.environ.pop("SSL_CERT_FILE", None)
os.environ["SSL_CERT_DIR"] = tempfile.gettempdir()  # without any

MEMORY_BYTES = 6 << 30

# As a worker of the desk does, and the command.
keep_freed()
look_seldom()

# Tests that look at the log ask for it.
log_lines("error")

# Two browsers and two services share a small machine; what is expected may take its time, but must come.
expect.set_options(timeout=30_000)

# The same Chromium without windows, where it is there: a page takes two thirds of the time.
CHROMIUM = shutil.which("chromium-headless-shell") or "/usr/bin/chromium"
CHROMIUM_FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
    "--disable-background-networking", "--disable-component-update", "--disable-sync",
]  # fmt: skip


# Whole files go to the process that is free: the long ones first, so that none waits for another's last.
DURATIONS: dict[str, float] = json.loads((Path(__file__).parent / "durations.json").read_text())


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Put the files that take long before the others; what is new is taken for short."""
    root = Path(__file__).parents[1]

    def seconds(item: pytest.Item) -> float:
        path = item.path
        return DURATIONS.get(str(path.relative_to(root)) if path.is_relative_to(root) else "", 0.0)

    items.sort(key=lambda item: -seconds(item))
    gc.freeze()  # what the tests are stays; it need not be looked through for what can go
    # The operations of the document come under one name; two processes would take them for one test.
    names: Counter[str] = Counter()
    for item in items:
        names[item.nodeid] += 1
        if names[item.nodeid] > 1:
            item._id = f"{item.nodeid}[{names[item.nodeid]}]"  # type: ignore[assignment]


def roomy() -> Path | None:
    """Memory that is a folder, where there is enough: a database there waits for no disk. Returns None where there is not."""
    memory = Path("/dev/shm")
    enough = memory.is_dir() and os.access(memory, os.W_OK) and shutil.disk_usage(memory).free >= MEMORY_BYTES
    return memory if enough else None


@pytest.fixture(scope="session")
def scratch() -> Iterator[Path]:
    """A folder that the postgres user can reach."""
    folder = Path(tempfile.mkdtemp(prefix="steady-tide-test-", dir=roomy()))
    folder.chmod(0o755)
    yield folder
    shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def cluster(scratch: Path) -> Iterator[Cluster]:
    """A cluster of its own for each test process."""
    made = Cluster(scratch / f"cluster-{os.getpid()}")
    made.start()
    yield made
    made.stop()


@pytest.fixture(scope="session")
def database(cluster: Cluster) -> Iterator[Database]:
    """A migrated database with the demo data."""
    with own_database(cluster, "shared") as made:
        yield made


@pytest.fixture(scope="session")
def address(database: Database) -> Iterator[str]:
    """Address of a running service."""
    with serving(database) as at:
        yield at


@pytest.fixture
def http(address: str) -> Iterator[httpx.Client]:
    """A client of the service."""
    with httpx.Client(base_url=address, timeout=20) as client:
        yield client


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    """Debian's Chromium, headless."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=CHROMIUM_FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def page(chromium: Browser) -> Iterator[Page]:
    """A page of desktop size; a script error in it fails the test."""
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, accept_downloads=True)
    made = context.new_page()
    errors: list[str] = []
    made.on("pageerror", lambda error: errors.append(str(error)))
    yield made
    context.close()
    assert errors == []
