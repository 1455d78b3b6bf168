"""Files and texts that somebody could send, broken in many ways, to every door that reads them.

Usage: .venv/bin/python bench/fuzz.py [--inputs 20000] [--seed 1] [--keep DIR]

Starts a service of its own on loopback. Nothing may be answered by 500, and nothing may take longer than the limit.
What does is kept in DIR with the door it was sent to; put it into tests/api/test_doors.py.
"""

from __future__ import annotations

import argparse
import io
import json
import random
import sys
import tempfile
import time
import zipfile
from collections import Counter
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import httpx
from serving import service

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))  # for the tests' clips

LIMIT_S = 10.0
SLOW = ("clip", "still", "glass")
MEANT = {200, 201, 204, 400, 404, 405, 409, 411, 413, 415, 422, 503}
Door = Callable[[httpx.Client, bytes], httpx.Response]

TOKENS = (
    b"\x00", b"\r", b"\n", b"\r\n", b'"', b'""', b"'", b"=", b"\xff", b"\xef\xbb\xbf", b"1e308", b"-1e308", b"1e999", b"NaN",
    b"Infinity", b"9999-12-31T23:59:59Z", b"0001-01-01T00:00:00Z", b"[" * 60, b"{" * 60, b"\xed\xa0\x80", b"\xf0\x9f\x98\x80",
    b"\\u0000", b"\\ud800", b"%00", b"../", b"<!DOCTYPE a>", b"&a;", b"*a", b"&a ", b"!!python/object:x", b"null", b"true",
    b"99999999999999999999999999", b"-0", b"0x10", b"1_000", b"\xe2\x80\xae", b"," * 300, b";" * 300, b"1 or " * 50, b"9" * 400,
)  # fmt: skip


def broken(good: bytes, chance: random.Random) -> bytes:
    """One of many ways to break something. good: as it should be; chance: seeded. Returns another."""
    data = bytearray(good)
    for _ in range(chance.choice((1, 1, 1, 2, 3, 8))):
        at = chance.randrange(len(data) + 1)
        how = chance.randrange(8)
        if how == 0 and data:
            data[min(at, len(data) - 1)] ^= 1 << chance.randrange(8)
        elif how == 1:
            data[at:at] = chance.choice(TOKENS)
        elif how == 2:
            del data[at : at + chance.choice((1, 3, 10, 100))]
        elif how == 3:
            del data[at:]
        elif how == 4:
            piece = bytes(data[at : at + chance.choice((4, 40, 400))])
            data[at:at] = piece * chance.choice((1, 2, 50))
        elif how == 5:
            token = chance.choice(TOKENS)
            data[at : at + len(token)] = token
        elif how == 6:
            other = chance.randrange(len(data) + 1)
            data[at:at] = data[other : other + 30]
        else:
            data[at : at + 4] = chance.randbytes(4)
    return bytes(data[:400_000])


def seeds(client: httpx.Client) -> list[tuple[str, Door, bytes]]:
    """Every door with something good to break. client: of the service."""
    from tests.sample_media import clip, still

    shoot = client.get("/api/shoots").json()["items"][0]["id"]
    shot = client.get(f"/api/shoots/{shoot}/shots").json()["items"][1]["id"]
    brief = json.dumps(client.get(f"/api/shots/{shot}").json()["brief"]).encode()
    sheet = client.get("/api/cameras/cockle-3/sheet").content
    rough = json.dumps(client.get("/api/cameras/cockle-3/rough").json()["rough"]).encode()
    kit_yaml = client.get("/api/kit/file", params={"spelling": "yaml"}).content
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("shoot.json", client.get(f"/api/shoots/{shoot}/shoot.json").content)
    points = "".join(
        f'<trkpt lat="52.0{n}" lon="1.3"><ele>4</ele><time>2026-05-12T10:00:{n:02d}Z</time></trkpt>' for n in range(30)
    )
    gpx = f'<?xml version="1.0"?><gpx version="1.1" creator="x" xmlns="http://www.topografix.com/GPX/1/1"><trk><trkseg>{points}</trkseg></trk></gpx>'
    uddf = '<uddf version="3.2.0"><profiledata><repetitiongroup id="a"><dive id="b"><informationbeforedive><datetime>2026-05-12T10:00:00Z</datetime></informationbeforedive><samples>' + "".join(
        f"<waypoint><divetime>{10 * n}</divetime><depth>{n}</depth></waypoint>" for n in range(20)
    ) + "</samples></dive></repetitiongroup></profiledata></uddf>"  # fmt: skip
    table = "frame;24;25;30;50;60\n4K 3840x2160;x;x;x;x;x\n1440p 2560x1440;x;x;x;;x\n1080p;wide/linear;x;x;x;120, 240\n"
    folder = Path(tempfile.mkdtemp(prefix="steady-tide-fuzz-"))
    film, picture = clip(folder / "a.mp4", 320, 240, "25").read_bytes(), still(folder / "a.png").read_bytes()

    def body(method: str, path: str, kind: str = "application/json", **params: Any) -> Door:
        def send(client: httpx.Client, data: bytes) -> httpx.Response:
            return client.request(method, path, content=data, headers={"Content-Type": kind}, params=params)

        return send

    def form(path: str, field: str, name: str) -> Door:
        return lambda client, data: client.post(path, files=[(field, (name, data)), ("without", (name, data))])

    def of_clip(client: httpx.Client, data: bytes) -> httpx.Response:
        return client.post(
            "/api/sheets/clips", params={"name": "a.mp4", "size": len(data), "head": len(data)}, content=data
        )

    def of_text(client: httpx.Client, data: bytes) -> httpx.Response:
        return client.post("/api/sheets/table", json={"text": data.decode("utf-8", "replace")})

    def of_path(client: httpx.Client, data: bytes) -> httpx.Response:
        return client.get("/" + "".join(chr(byte) if 32 < byte < 127 else f"%{byte:02x}" for byte in data[:3000]))

    things = {"thing": client.get("/api/kit").json()["filters"][0]["thing"], "keeping": {"where": "bag"}}
    change = {"revision": 0, "change": {"note": "a", "day": "2026-10-11", "latitude": 52.0, "zone": "Europe/London"}}
    rules = {"revision": 0, "change": {"earliest": "2026-10-11T04:00:00Z", "windows": [{"name": "a", "start": "2026-10-11T04:00:00Z", "end": "2026-10-11T05:00:00Z"}]}}  # fmt: skip
    return [
        ("brief", body("POST", "/api/bench", only="limpet-7", whole=False), brief),
        ("shot", body("PATCH", f"/api/shots/{shot}"), b'{"revision": 0, "change": ' + brief + b"}"),
        ("sheet", body("POST", "/api/kit/import", "application/octet-stream"), sheet),
        ("kit as YAML", body("POST", "/api/kit/import", "application/octet-stream"), kit_yaml[:20_000]),
        ("rough sheet", body("POST", "/api/sheets/complete"), rough),
        (
            "draft",
            body("PUT", "/api/sheets/drafts/6b8b4567-327b-43c6-a3b1-cd1f6b8b4567"),
            b'{"rough": ' + rough + b"}",
        ),
        ("shoot in a ZIP", body("POST", "/api/shoots/import", "application/octet-stream"), packed.getvalue()),
        (
            "shoot",
            body("POST", "/api/shoots/import", "application/octet-stream"),
            json.dumps(
                {**(made := client.get(f"/api/shoots/{shoot}/shoot.json").json()), "shots": made["shots"][:1]}
            ).encode(),
        ),
        (
            "list of shots",
            body("POST", f"/api/shoots/{shoot}/shots/import", "text/csv"),
            b"start,title,ev_dim,ev_bright,near_m,take_s\n2026-10-11 10:00,A,12.00,15.00,2,30\n11:00,=B,,,1,5\n",
        ),
        ("track", body("POST", "/api/tracks", "application/xml"), gpx.encode()),
        ("dive", body("POST", "/api/dives", "application/xml"), uddf.encode()),
        ("mode table", of_text, table.encode()),
        ("clip", of_clip, film[:60_000]),
        ("still", form("/api/measure/grey-step", "files", "a.png"), picture),
        ("glass", form("/api/measure/glass", "with_glass", "a.png"), picture),
        ("thing", body("PUT", "/api/kit/things/filters/fuzzed"), json.dumps(things).encode()),
        ("shoot's fields", body("PATCH", f"/api/shoots/{shoot}"), json.dumps(change).encode()),
        ("rules", body("PATCH", f"/api/shoots/{shoot}/rules"), json.dumps(rules).encode()),
        ("path", of_path, b"api/shots/6b8b4567-327b-43c6-a3b1-cd1f6b8b4567/card.pdf?paper=a6"),
    ]


def main() -> None:
    """Break, send, count."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--inputs", type=int, default=20_000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--keep", type=Path, default=Path(tempfile.gettempdir()) / "steady-tide-fuzz")
    asked = parser.parse_args()
    asked.keep.mkdir(exist_ok=True)
    with service(8495) as (address, _), httpx.Client(base_url=address, timeout=120) as client:
        doors = seeds(client)
        # What is read by a process of its own takes a second each: it comes ten times less often.
        line = [door for door in doors if door[0] not in SLOW] * 10 + [door for door in doors if door[0] in SLOW]
        counts: dict[str, Counter[str]] = {name: Counter() for name, _, _ in doors}
        slowest: dict[str, float] = dict.fromkeys(counts, 0.0)

        def send(number: int) -> None:
            name, door, good = line[number % len(line)]
            data = broken(good, random.Random(f"{asked.seed} {number}"))
            began = time.monotonic()
            try:
                status = str(door(client, data).status_code)
            except (httpx.InvalidURL, httpx.LocalProtocolError):
                status = "not sent"
            except httpx.HTTPError as error:
                status = type(error).__name__
            took = time.monotonic() - began
            slowest[name] = max(slowest[name], took)
            counts[name][status] += 1
            if (int(status) not in MEANT if status.isdigit() else status != "not sent") or took > LIMIT_S:
                (asked.keep / f"{name.replace(' ', '_')}-{status}-{number}").write_bytes(data)

        with ThreadPoolExecutor(4) as crowd:
            list(crowd.map(send, range(asked.inputs)))
        for name, statuses in counts.items():
            print(f"{name:16s} slowest {slowest[name]:5.2f} s  {dict(sorted(statuses.items()))}")
        bad = sum(n for statuses in counts.values() for s, n in statuses.items() if s.isdigit() and int(s) not in MEANT)
        print(f"{asked.inputs} inputs, {bad} answered by an error of the service; kept in {asked.keep}")
        assert client.get("/api/health").json()["database"]


if __name__ == "__main__":
    main()
