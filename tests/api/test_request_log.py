"""Each request has an id; what happened stands in lines of JSON; the API documents itself where it was asked to."""

from __future__ import annotations

import asyncio
import json
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx
import pytest

from steady_tide.api.app import make_app
from steady_tide.launch.logs import log_lines
from steady_tide.store.database import Database


@pytest.fixture(autouse=True)
def quiet_again() -> Iterator[None]:
    yield
    log_lines("error")


def logged(capsys: pytest.CaptureFixture[str]) -> list[dict[str, object]]:
    return [json.loads(line) for line in capsys.readouterr().err.splitlines()]


def asked(database: Database, folder: Path, path: str, docs_page: bool = False, name: str = "one") -> httpx.Response:
    """The answer of an application in this process."""
    app = make_app(database, docs_page=docs_page, drops=folder)

    async def ask() -> httpx.Response:
        transport = httpx.ASGITransport(app, raise_app_exceptions=False)
        async with httpx.AsyncClient(transport=transport, base_url="http://127.0.0.1") as client:
            return await client.get(path, headers={"X-Request-ID": name})

    with ThreadPoolExecutor(1) as pool:  # a browser of other tests may hold this thread's loop
        return pool.submit(asyncio.run, ask()).result()


def test_a_request_keeps_the_id_that_it_brings_and_gets_one_else(http: httpx.Client) -> None:
    assert http.get("/api/health", headers={"X-Request-ID": "mine-1"}).headers["x-request-id"] == "mine-1"
    first, second = (http.get("/api/health").headers["x-request-id"] for _ in range(2))
    assert first != second
    strange = http.get("/api/health", headers={"X-Request-ID": "a b;c" * 50}).headers["x-request-id"]
    assert strange.isalnum()
    assert http.get("/api/nothing").headers["x-request-id"], "refusals have one, too"


def test_requests_are_told_line_by_line_where_that_is_asked_for(
    database: Database, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    log_lines("info")
    asked(database, tmp_path, "/api/health")
    (line,) = logged(capsys)
    told = {name: line[name] for name in ("event", "method", "path", "status", "request_id", "level")}
    assert told == {
        "event": "request", "method": "GET", "path": "/api/health", "status": 200, "request_id": "one", "level": "info",
    }  # fmt: skip
    assert isinstance(line["ms"], float)


def test_without_a_level_only_trouble_is_told(
    database: Database, tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    log_lines("warning")
    asked(database, tmp_path, "/api/health")
    assert logged(capsys) == []

    def breaks(_: Database) -> bool:
        raise RuntimeError("a fault of ours")

    monkeypatch.setattr(Database, "answers", breaks)
    assert asked(database, tmp_path, "/api/health", name="two").status_code == 500
    (line,) = logged(capsys)
    assert (line["event"], line["request_id"], line["level"]) == ("request failed", "two", "error")
    assert "a fault of ours" in str(line["exception"])


def test_the_api_documents_itself_on_request(database: Database, tmp_path: Path) -> None:
    assert asked(database, tmp_path, "/api/docs").status_code == 404
    page = asked(database, tmp_path, "/api/docs", docs_page=True)
    assert page.status_code == 200
    document = json.loads((Path(__file__).parents[2] / "docs" / "openapi.json").read_text())
    for path in document["paths"]:
        assert f"{path}</code>" in page.text
    for name in document["components"]["schemas"]:
        assert f'id="{name}"' in page.text
    assert "<script" not in page.text
