"""Look over HTTP: frames with their numbers, films, stills of one's own; what is kept, and what is refused."""

from __future__ import annotations

import io
import json
import time
from concurrent.futures import Future
from pathlib import Path
from typing import Any

import av
import httpx
import numpy as np
import pytest
from PIL import Image

from steady_tide.core.brief.brief import School
from steady_tide.core.quantities.errors import NotFound, Overtaken
from steady_tide.services import frame_cache as look_shelf
from steady_tide.services.crew_kit import typical_kit
from steady_tide.services.frame_cache import FEW, LookShelf
from steady_tide.services.look_frames import LookAsked, Looked, Looker, OwnStill
from tests.briefs import LANTERNS, QUAY, SUN, brief
from tests.waiting import until

GEAR = typical_kit()
NIGHT = {"title": "Punts", "light": LANTERNS, "scenario": "low_light"}
SMALL = {"size": 160}


def numbers_of(answer: httpx.Response) -> dict[str, Any]:
    found: dict[str, Any] = json.loads(answer.headers["Look-Numbers"])
    return found


def test_a_frame_comes_with_its_numbers(http: httpx.Client) -> None:
    made = http.post("/api/look/frame", json={"brief": NIGHT, **SMALL, "at": 0.0}, timeout=60)
    assert made.status_code == 200, made.text
    assert made.headers["content-type"] == "image/webp"
    with Image.open(io.BytesIO(made.content)) as image:
        assert (image.format, image.size) == ("WEBP", (160, 90))
    numbers = numbers_of(made)
    planned = http.post("/api/plan", json=NIGHT).json()
    assert numbers["camera"] == planned["camera"]["name"]
    assert numbers["scene"] == "punts"
    assert numbers["snr_grey"] == pytest.approx(numbers["snr_plan"], rel=0.1)
    # The gain ends before the light does: grey comes out dark, and so noisier than where it is met.
    assert numbers["over_stops"] < 0
    assert numbers["snr_plan"] < planned["exposure"]["snr"]
    assert numbers["given_up_stops"] == pytest.approx(planned["given_up_stops"])
    assert numbers["iso"] == planned["exposure"]["iso_used"][0]
    again = http.post("/api/look/frame", json={"brief": NIGHT, **SMALL, "at": 0.0})
    assert again.content == made.content


def test_pins_and_chosen_values_are_seen(http: httpx.Client) -> None:
    def asked(**more: Any) -> dict[str, Any]:
        made = http.post("/api/look/frame", json={"brief": NIGHT, **SMALL, "at": 0.0, **more}, timeout=60)
        assert made.status_code == 200, made.text
        return numbers_of(made)

    chosen = {
        "camera": "limpet-7",
        "view": "rectilinear",
        "frame": "3840x2160",
        "stabilisation": "standard",
        "shutter_s": 0.02,
    }
    low, high = (asked(settings={**chosen, "iso_ceiling": iso}) for iso in (800, 1600))
    assert (low["iso"], high["iso"]) == (800, 1600)
    assert high["over_stops"] == pytest.approx(low["over_stops"] + 1.0)
    assert low["snr_grey"] == pytest.approx(high["snr_grey"], rel=0.15), "the same light, whatever the gain"
    pinned = {**NIGHT, "pins": {**chosen, "iso_ceiling": 800}}
    assert asked(brief=pinned) == low


def test_png_loupe_marks_and_upright(http: httpx.Client) -> None:
    upright = {**NIGHT, "delivery": {"width": 1080, "height": 1920}}
    for more, size in (
        ({"form": "png"}, (160, 90)),
        ({"loupe": [0.1, -0.1]}, (160, 90)),
        ({"marked": True, "graded": False}, (160, 90)),
        ({"brief": upright}, (160, 284)),
    ):
        made = http.post("/api/look/frame", json={"brief": NIGHT, **SMALL, **more}, timeout=60)
        assert made.status_code == 200, made.text
        with Image.open(io.BytesIO(made.content)) as image:
            assert image.size == size


@pytest.mark.parametrize(
    ("more", "where"),
    [
        ({"scene": "castle"}, "scene"),
        ({"brief": {**NIGHT, "subject": {"distance_m": [9, 2]}}}, "brief.subject.distance_m"),
        ({"at": 1.5}, "at"),
        ({"loupe": [2, 0]}, "loupe[0]"),
        ({"size": 9}, ""),
        ({"settings": {"iso_ceiling": 77}}, "pins.iso_ceiling"),
        ({"brief": {**NIGHT, "delivery": {"width": 16, "height": 9000}}}, ""),
    ],
)
def test_what_cannot_be_drawn_is_refused_with_its_place(http: httpx.Client, more: dict[str, Any], where: str) -> None:
    made = http.post("/api/look/frame", json={"brief": NIGHT, **SMALL, **more}, timeout=60)
    assert made.status_code == 422
    assert where in [fault["where"] for fault in made.json()["faults"]] or (not where and made.json()["faults"])


def test_where_there_is_no_plan_that_is_said(http: httpx.Client) -> None:
    chosen = {"camera": "limpet-7", "frame_rate": 25, "shutter_s": 1 / 24}
    made = http.post(
        "/api/look/frame", json={"brief": {**NIGHT, "light": SUN}, **SMALL, "settings": chosen}, timeout=60
    )
    assert made.status_code == 409
    assert "shutter" in made.json()["detail"]


def test_another_edition_of_a_sheet_is_seen_with_its_own_numbers() -> None:
    winkle = next(sheet for sheet in GEAR.kit.cameras if sheet.id == "winkle")
    lenses = tuple(
        lens.model_copy(update={"sensor": lens.sensor.model_copy(update={"read_noise_e": 12.0})})
        for lens in winkle.lenses
    )
    worse = winkle.model_copy(update={"lenses": lenses, "edition": 2})
    cameras = tuple(worse if sheet.id == "winkle" else sheet for sheet in GEAR.kit.cameras)
    snr = []
    for kit in (GEAR.kit, GEAR.kit.model_copy(update={"cameras": cameras})):
        what = asked(at=0.0, settings={"camera": "winkle", "iso_ceiling": 1600})
        looker = Looker()
        snr.append(looker.frame(what, looker.taking(what, School(), kit, GEAR.knowledge)).numbers.snr_grey)
    assert snr[0] > 1.2 * snr[1]


def test_two_frames_are_compared_in_words(http: httpx.Client) -> None:
    frames = [
        numbers_of(
            http.post(
                "/api/look/frame",
                json={
                    "brief": NIGHT,
                    **SMALL,
                    "at": 0.0,
                    "settings": {"camera": "limpet-7", "iso_ceiling": iso, "view": "rectilinear", "frame": "3840x2160"},
                },
                timeout=60,
            )
        )
        for iso in (800, 3200)
    ]
    told = http.post("/api/look/told", json={"left": frames[0], "right": frames[1]}).json()
    assert "Left is 2.0\u202fstops darker" in told["text"]
    rows = {row["item"]: row for row in told["rows"]}
    assert rows["over"]["worse"] == "left"
    assert told["made"][0].startswith("ISO\u202f800 · 1/")
    same = http.post("/api/look/told", json={"left": frames[0], "right": frames[0]}).json()
    assert same["text"] == "Nobody would see a difference between the two."
    alone = http.post("/api/look/told", json={"left": frames[0]}).json()
    assert "darker than metered" in alone["text"]
    assert alone["rows"][0]["right"] is None


def test_a_film_is_drawn_told_and_handed_over(http: httpx.Client) -> None:
    plan = {"brief": {**NIGHT, "title": "film"}, "size": 96}
    begun = http.post("/api/look/clip", json={"plans": [plan, {**plan, "at": 1.0}], "seconds": 0.4}, timeout=60)
    assert begun.status_code == 202, begun.text
    film = begun.json()
    assert film["total"] == 10
    until(lambda: http.get(f"/api/look/clips/{film['id']}").json()["state"] != "drawing", 60)
    state = http.get(f"/api/look/clips/{film['id']}").json()
    assert (state["state"], state["done"]) == ("done", 10)
    data = http.get(f"/api/look/clips/{film['id']}/file").content
    with av.open(io.BytesIO(data)) as box:
        frames = [frame.to_ndarray(format="rgb24") for frame in box.decode(video=0)]
        assert float(box.streams.video[0].average_rate or 0) == 25.0
    assert len(frames) == 10
    assert frames[0].shape == (54, 192, 3)
    dim, bright = frames[0][:, :96].mean(), frames[0][:, 96:].mean()
    assert abs(float(bright) - float(dim)) < 40
    assert http.delete(f"/api/look/clips/{film['id']}").status_code == 204
    assert http.get(f"/api/look/clips/{film['id']}").status_code == 404


def test_a_film_that_cannot_be_is_said_to(http: httpx.Client) -> None:
    plan = {"brief": NIGHT, "size": 96}
    slower = {**plan, "brief": {**NIGHT, "delivery": {"fps": 30}}}
    refused = http.post("/api/look/clip", json={"plans": [plan, slower]})
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["where"] == "plans[1]"
    chosen = {"camera": "limpet-7", "frame_rate": 25, "shutter_s": 1 / 24}
    begun = http.post("/api/look/clip", json={"plans": [{**plan, "settings": chosen}], "seconds": 0.4}).json()
    until(lambda: http.get(f"/api/look/clips/{begun['id']}").json()["state"] == "failed", 60)
    assert "shutter" in http.get(f"/api/look/clips/{begun['id']}").json()["problem"]
    assert http.get(f"/api/look/clips/{begun['id']}/file").status_code == 409


def test_a_still_of_ones_own_stands_as_a_scene(http: httpx.Client) -> None:
    half = np.zeros((300, 500, 3), np.uint8)
    half[:, :250], half[:, 250:] = (200, 40, 40), (40, 40, 200)
    out = io.BytesIO()
    Image.fromarray(half).save(out, "JPEG", quality=95)
    added = http.post(
        "/api/look/stills", content=out.getvalue(), params={"name": "two halves.jpg", "distance_m": 4},
        headers={"Content-Type": "application/octet-stream"}, timeout=60,
    )  # fmt: skip
    assert added.status_code == 201, added.text
    still = added.json()
    assert still["own"]
    assert still["id"] in [scene["id"] for scene in http.get("/api/look/scenes").json()["items"]]
    made = http.post(
        "/api/look/frame",
        json={"brief": {**QUAY, "light": SUN}, "scene": still["id"], "form": "png", **SMALL},
        timeout=60,
    )
    assert made.status_code == 200, made.text
    with Image.open(io.BytesIO(made.content)) as image:
        left, right = image.getpixel((40, 45)), image.getpixel((120, 45))
    assert left[0] > left[2] + 30  # type: ignore[index,operator]
    assert right[2] > right[0] + 30  # type: ignore[index,operator]
    assert http.delete(f"/api/look/stills/{still['id']}").status_code == 204
    gone = http.post("/api/look/frame", json={"brief": NIGHT, "scene": still["id"], **SMALL})
    assert gone.status_code == 404


def bomb() -> bytes:
    """A PNG that says it is far larger than anybody's camera."""
    out = io.BytesIO()
    Image.new("1", (30_000, 30_000)).save(out, "PNG")
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"GIF89a" + bytes(200), "no JPEG and no PNG"),
        (b"\x89PNG\r\n\x1a\n" + bytes(300), "cannot be read"),
        (b"\xff\xd8\xff\xe0" + bytes(5000), "cannot be read"),
    ],
)
def test_hostile_stills_are_refused_and_nothing_stays(http: httpx.Client, data: bytes, why: str) -> None:
    before = http.get("/api/look/scenes").json()["total"]
    refused = http.post(
        "/api/look/stills", content=data, params={"name": "x.png"},
        headers={"Content-Type": "application/octet-stream"}, timeout=60,
    )  # fmt: skip
    assert refused.status_code == 422, refused.text
    assert why in refused.text
    assert http.get("/api/look/scenes").json()["total"] == before


def test_a_still_that_unfolds_to_too_much_is_refused(http: httpx.Client) -> None:
    refused = http.post(
        "/api/look/stills", content=bomb(), params={"name": "bomb.png"},
        headers={"Content-Type": "application/octet-stream"}, timeout=60,
    )  # fmt: skip
    assert refused.status_code == 422
    assert "cannot be read" in refused.text


class Drawer:
    """Takes what is to be drawn, and draws when it is told to."""

    def __init__(self) -> None:
        self.asked: list[tuple[Any, tuple[Any, ...], Future[Any]]] = []
        self.looker = Looker()

    def ask(self, call: Any, given: tuple[Any, ...], turn: Any, editor: str | None = None) -> Future[Any]:
        self.asked.append((call, given, Future()))
        return self.asked[-1][2]

    def draw(self) -> None:
        for call, given, future in self.asked:
            if not future.done():
                future.set_result(call(*given))

    def close(self) -> None:
        pass


def asked(**more: Any) -> LookAsked:
    return LookAsked(brief=brief(**NIGHT), size=96, **more)


def test_what_is_drawn_is_drawn_once_and_kept_over_a_restart(tmp_path: Path) -> None:
    drawer = Drawer()
    shelf = LookShelf(drawer, tmp_path)  # type: ignore[arg-type]
    first, second = (shelf.ask(asked(), School(), GEAR, None, None) for _ in range(2))
    assert first is second
    drawer.draw()
    picture = first.result().picture
    again = LookShelf(Drawer(), tmp_path)  # type: ignore[arg-type]
    assert again.ask(asked(), School(), GEAR, None, None).result().picture == picture
    # Another moment, another way of the crew, another kit: another picture.
    for other in (
        again.key(asked(at=0.0), School(), GEAR, None),
        again.key(asked(), School(noise="quiet"), GEAR, None),
        again.key(asked(), School(), GEAR, OwnStill("a", "a", b"", 3.0)),
    ):
        assert other != again.key(asked(), School(), GEAR, None)


def test_the_folder_does_not_grow_for_ever(tmp_path: Path) -> None:
    (tmp_path / "left.part").write_bytes(b"of a service that was killed")
    drawer = Drawer()
    shelf = LookShelf(drawer, tmp_path, most_bytes=40_000)  # type: ignore[arg-type]
    assert not (tmp_path / "left.part").exists()
    drawn = Looked(
        b"x" * 1000, Looker().frame(asked(), Looker().taking(asked(), School(), GEAR.kit, GEAR.knowledge)).numbers
    )
    for number in range(80):
        shelf._keep(f"key{number:03}", drawn)
        time.sleep(0.002)
    kept = sorted(file.name for file in tmp_path.iterdir())
    assert FEW <= len(kept) < 40
    assert kept[-1] == "key079.look"
    assert "key000.look" not in kept
    (tmp_path / "key079.look").write_bytes(b"cut off")
    assert shelf._kept("key079") is None


def test_a_picture_whose_place_was_taken_says_so(tmp_path: Path) -> None:
    drawer = Drawer()
    shelf = LookShelf(drawer, tmp_path)  # type: ignore[arg-type]
    waiting = shelf.ask(asked(), School(), GEAR, None, "me")
    drawer.asked[0][2].set_exception(Overtaken())
    with pytest.raises(Overtaken):
        waiting.result()
    assert shelf.ask(asked(), School(), GEAR, None, "me") is not waiting


def test_a_stopped_film_ends_and_is_forgotten(tmp_path: Path) -> None:
    drawer = Drawer()
    shelf = LookShelf(drawer, tmp_path)  # type: ignore[arg-type]
    film = shelf.begin_film([(asked(), None)], School(), GEAR, 2.0)
    until(lambda: len(drawer.asked) == 1)
    shelf.stop_film(film.id)
    drawer.draw()
    time.sleep(0.3)
    assert len(drawer.asked) == 1
    with pytest.raises(NotFound):
        shelf.film_state(film.id)
    assert look_shelf.PART_FRAMES < 50


def test_numbers_from_outside_are_told_whatever_they_name(http: httpx.Client) -> None:
    made = http.post("/api/look/frame", json={"brief": NIGHT, **SMALL, "at": 0.0}, timeout=60)
    numbers = {**numbers_of(made), "ledger": [["nobody_knows", 3.0], ["noise", 1.0]]}
    told = http.post("/api/look/told", json={"left": numbers})
    assert told.status_code == 200, told.text
    assert [price["item"] for price in told.json()["prices"]] in (["noise"], [])
    assert http.post("/api/look/told", json={"left": {**numbers, "shutter_s": 0.0}}).status_code == 422
