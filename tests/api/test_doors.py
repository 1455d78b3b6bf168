"""What somebody could send to a door: no answer by an error of the service, and each refusal says where and how to mend."""

from __future__ import annotations

import base64
import hashlib
import json
import re
import socket
import time
import zipfile
from io import BytesIO
from pathlib import Path
from urllib.parse import urlsplit
from uuid import UUID

import httpx
import pytest

from steady_tide.api import guard
from steady_tide.core.quantities import sizes
from tests.briefs import SUN
from tests.formats.test_outside_files import gpx

TIME = "<time>2026-05-12T10:00:0{}Z</time>"


@pytest.fixture
def shoot(http: httpx.Client) -> str:
    return str(http.post("/api/shoots", json={"title": "doors", "day": "2026-10-11"}).json()["id"])


def raw(address: str, *parts: bytes, pause_s: float = 0.0) -> bytes:
    """Send bytes as they are. Returns the first of the answer."""
    at = urlsplit(address)
    with socket.create_connection((at.hostname or "", at.port or 0), timeout=30) as line:
        for part in parts:
            line.sendall(part.replace(b"HOST", f"{at.hostname}:{at.port}".encode()))
            time.sleep(pause_s)
        return line.recv(4000)


def test_a_damaged_zip_is_told(http: httpx.Client, shoot: str) -> None:
    out = BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        archive.writestr("shoot.json", http.get(f"/api/shoots/{shoot}/shoot.json").content)
    whole = bytearray(out.getvalue())
    statuses = set()
    for at in range(0, len(whole), 7):
        for value in (0, 0xFF):
            broken = bytes(whole[:at]) + bytes([value]) + bytes(whole[at + 1 :])
            statuses.add(http.post("/api/shoots/import", content=broken).status_code)
        statuses.add(http.post("/api/shoots/import", content=bytes(whole[:at])).status_code)
    assert statuses <= {201, 422}


@pytest.mark.parametrize(
    ("text", "added"),
    [
        ("title,start\rA,10:00\rB,11:00\r", 2),
        ('title\n"' + "x" * 140_000 + '"\n', 0),
        ("title\n" + '"' * 5_000 + "\n", 0),
        ("title,near_m\nA,1e308\n", 0),
        ("title\n=A\n", 1),
    ],
    ids=["bare CR", "a cell of 140 kB", "5,000 quotes", "1e308", "formula"],
)
def test_odd_lists_are_read_or_told(http: httpx.Client, shoot: str, text: str, added: int) -> None:
    answer = http.post(f"/api/shoots/{shoot}/shots/import", content=text.encode())
    assert answer.status_code in (200, 422), answer.text
    assert len(answer.json().get("added", [])) == added


@pytest.mark.parametrize(
    "title", ["=1+1", "\n=1+1", " =1+1", "\t@x", "\uff1d1+1", "\uff0bA", "+A", "-A", "\r\n=x"], ids=repr
)
def test_no_cell_of_a_list_is_a_formula(http: httpx.Client, shoot: str, title: str) -> None:
    shot = http.post(f"/api/shoots/{shoot}/shots", json={"brief": {"title": title, "light": SUN}})
    assert shot.status_code == 201
    line = http.get(f"/api/shoots/{shoot}/shots.csv").text
    assert f"'{title}" in line
    again = http.post(f"/api/shoots/{shoot}/shots/import", content=line.encode())
    assert len(again.json()["added"]) == 1, "and it comes in again"


@pytest.mark.parametrize("where", ['lat="52" lon="1e308"', 'lat="1e308" lon="1"', 'lat="52" lon="181"'])
def test_points_that_are_nowhere_are_told(http: httpx.Client, where: str) -> None:
    points = [f"<trkpt {where}>{TIME.format(n)}</trkpt>" for n in range(3)]
    refused = http.post("/api/tracks", content=gpx(*points))
    assert refused.status_code == 422
    assert (
        "fewer than two points with a time, and 3 whose time or place cannot be" in refused.json()["faults"][0]["what"]
    )


@pytest.mark.parametrize("path", ["/%00", "/api/shots/%00", "/assets/%00", "/" + "a/" * 4000, "/..%2f..%2fetc/passwd"])
def test_odd_paths_are_no_error(http: httpx.Client, path: str) -> None:
    assert http.get(path).status_code in (200, 400, 404, 414, 422)


def test_a_chunked_body_over_the_limit_is_refused(address: str) -> None:
    head = (
        b"POST /api/plan HTTP/1.1\r\nHost: HOST\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n"
    )
    chunk = b"%x\r\n" % 100_000 + b"x" * 100_000 + b"\r\n"
    answer = raw(address, head, *[chunk] * (sizes.BODY // 100_000 + 2))
    assert answer.startswith(b"HTTP/1.1 413"), answer[:200]


def test_a_body_that_does_not_come_is_not_waited_for(address: str, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(guard, "BODY_STARTS_S", 0.5)
    head = b"POST /api/plan HTTP/1.1\r\nHost: HOST\r\nContent-Type: application/json\r\nContent-Length: 400\r\n\r\n{"
    began = time.monotonic()
    answer = raw(address, head)
    assert answer.startswith(b"HTTP/1.1 408"), answer[:200]
    assert time.monotonic() - began < 5


@pytest.mark.parametrize(
    ("content", "kind", "says"),
    [
        (b'{"light": 1}', "text/plain", "application/json"),
        (b'{"title": "\xff"}', "application/json", "UTF-8"),
        (b"[" * 100_000, "application/json", "a few levels deep"),
        (b"{", "application/json", "brackets"),
        (b'{"light": {"kind": "meter", "ev100": [1, 2]}}', "application/x-www-form-urlencoded", "application/json"),
    ],
)
def test_a_body_of_another_kind_says_where_and_how(http: httpx.Client, content: bytes, kind: str, says: str) -> None:
    refused = http.post("/api/plan", content=content, headers={"Content-Type": kind})
    assert refused.status_code in (400, 422)
    (fault,) = refused.json()["faults"]
    assert fault["where"]
    assert says in fault["what"] + fault["mend"]


@pytest.mark.parametrize("site", ["cross-site", "same-site"])
def test_another_sites_page_without_an_origin_may_change_nothing(http: httpx.Client, site: str) -> None:
    headers = {"Sec-Fetch-Site": site}
    assert http.post("/api/shoots", json={"title": "foreign"}, headers=headers).status_code == 403
    assert http.get("/api/shoots", headers=headers).status_code == 200
    assert http.post("/api/shoots", json={"title": "own"}, headers={"Sec-Fetch-Site": "same-origin"}).status_code == 201


def test_a_card_is_in_no_frame_and_runs_its_own_script_alone(http: httpx.Client, shoot: str) -> None:
    shot = http.post(f"/api/shoots/{shoot}/shots", json={"brief": {"title": "<script>x</script>", "light": SUN}}).json()
    card = http.get(f"/api/shots/{shot['id']}/card.html")
    policy = card.headers["content-security-policy"]
    assert "frame-ancestors 'none'" in policy
    (script,) = re.findall(r"<script>(.*?)</script>", card.text, re.S)
    digest = base64.b64encode(hashlib.sha256(script.encode()).digest()).decode()
    assert f"script-src 'sha256-{digest}'" in policy
    assert f"script-src 'sha256-{digest}'" in card.text.replace("&#39;", "'"), "saved as a file, too"
    assert "unsafe-inline" not in policy.partition("script-src")[2].partition(";")[0]


@pytest.mark.parametrize(
    "text", ["frame;24\x0c30;50\r6\n1080p;x;x", "5120x2880 0:0 25", "1/0 1080p25", '4K"25', "4K;" * 300], ids=repr
)
def test_odd_mode_tables_are_read_or_told(http: httpx.Client, text: str) -> None:
    assert http.post("/api/sheets/table", json={"text": text}).status_code in (200, 422)


def test_half_a_character_is_told_wherever_it_stands(http: httpx.Client, shoot: str) -> None:
    half = r'"\ud800"'
    doors = [
        ("PUT", "/api/sheets/drafts/6b8b4567-327b-43c6-a3b1-cd1f6b8b4567", f'{{"rough": {{"sheet": {{{half}: 1}}}}}}'),
        ("PUT", "/api/sheets/drafts/6b8b4567-327b-43c6-a3b1-cd1f6b8b4568", f'{{"rough": {{"sheet": {half}}}}}'),
        ("PATCH", f"/api/shoots/{shoot}", f'{{"revision": 1, "change": {{"note": {half}}}}}'),
        ("POST", "/api/shoots", f'{{"title": {half}}}'),
        ("PUT", "/api/kit/things/filters/half", f'{{"thing": {{"name": {half}}}}}'),
        ("POST", f"/api/shoots/{shoot}/shots", f'{{"brief": {{"title": {half}, "light": {{}}}}}}'),
    ]
    for method, path, body in doors:
        refused = http.request(method, path, content=body.encode(), headers={"Content-Type": "application/json"})
        assert refused.status_code == 422, (path, refused.text)
        assert refused.json()["faults"]


def test_bodies_nested_deep_are_refused_in_words_everywhere(http: httpx.Client) -> None:
    document = json.loads(Path("docs/openapi.json").read_text())
    asked = 0
    for path, ways in document["paths"].items():
        url = re.sub(r"\{[^}]*\}", str(UUID(int=1)), path)
        for method, way in ways.items():
            form = way.get("requestBody", {}).get("content", {}).get("application/json")
            if form is None:
                continue
            named = form["schema"].get("$ref", "").rpartition("/")[2]
            fields = document["components"]["schemas"].get(named, {}).get("properties", {})
            deep = ["[" * 900 + "]" * 900, '{"a":' * 900 + "1" + "}" * 900]
            for body in [*deep, *(f'{{"{field}": {one}}}' for field in fields for one in deep)]:
                answer = http.request(method, url, content=body, headers={"Content-Type": "application/json"})
                assert answer.status_code in (400, 404, 422), (method, path, body[:30])
                assert answer.headers["content-type"] == "application/problem+json"
                assert len(answer.content) < 1000
                asked += 1
    assert asked > 100


@pytest.mark.parametrize("way", ["/api/kit/import", "/api/uses/import", "/api/shoots/import", "/api/log/import"])
def test_files_nested_deep_are_refused_in_words(http: httpx.Client, way: str) -> None:
    for deep in (b'{"a":' * 900 + b"1" + b"}" * 900, b"[" * 900 + b"]" * 900):
        for kind in ("application/octet-stream", "application/json", "text/csv"):
            answer = http.post(way, content=deep, headers={"Content-Type": kind})
            assert answer.status_code in (400, 415, 422), answer.text
            assert answer.headers["content-type"] == "application/problem+json"
