"""Ways of recording, what is put before a lens, microphones, gain by channel, front lenses, stills."""

from __future__ import annotations

from math import atan, degrees, radians, tan
from typing import Any

import pytest

from steady_tide import library
from steady_tide.core.brief.brief import read_brief
from steady_tide.core.cameras.sheet_reading import read_sheet
from steady_tide.core.gear.attachments import with_attachments
from steady_tide.core.gear.items import Attachment
from steady_tide.core.gear.kit import Kit
from steady_tide.core.gear.sheet import CameraSheet, Lens
from steady_tide.core.planning.plan import Plan
from steady_tide.core.planning.planner import plan
from steady_tide.core.quantities.errors import BadSheet, NoLegalPlan
from steady_tide.words.plans import plan_text
from tests.small_sheet import manifold_sheet, small_sheet_data

KIT, KNOWN = library.demo_kit(), library.knowledge()
SUN = {"kind": "place", "place": "full_sun"}
OFFICE = {"kind": "place", "place": "office"}
STILL = {"mount": "tripod"}
VOICE = {"voice": True, "wind_m_s": 1}
WATER = {"kind": "water", "surface": SUN, "depth_m": [8, 10], "water_type": "IB"}
CLOUDS = {"scenario": "lapse", "light": SUN, "take": {"length_s": 3600}}


def made(cameras: list[str], kit: Kit = KIT, **fields: Any) -> Plan:
    """The plan of a brief on some cameras of the demo kit."""
    taken = {**fields.pop("kit_list", {}), "cameras": cameras}
    brief = read_brief({"title": "x", "light": OFFICE, "camera_move": STILL, **fields, "kit": taken})
    return plan(brief, kit, KNOWN, schools=False)


def codes(found: Plan) -> set[str]:
    """What is warned of."""
    return {warning.code for warning in found.warnings}


def lens(sheet: CameraSheet, name: str) -> Lens:
    """A lens by its id."""
    return next(entry for entry in sheet.lenses if entry.id == name)


class TestBeforeTheLens:
    """Thin lenses in contact: their powers add up."""

    def test_a_close_up_lens_brings_far_and_near_closer(self) -> None:
        piece = Attachment(id="close", name="close-up", fits=("limpet",), lenses=("main",), dioptres=4)
        sheet = with_attachments(manifold_sheet(), (piece,))
        worn = lens(sheet, "main+close")
        # 1/(4 + 1/0.3) = 0.1364 m; what is at infinity comes to 1/4 m.
        assert worn.closest_m == pytest.approx(0.13636, abs=1e-5)
        assert worn.farthest_m == pytest.approx(0.25)
        assert worn.fields_deg["wide"] == pytest.approx(120)
        assert {mode.lens for mode in sheet.modes} == {"main", "long", "front", "main+close"}

    def test_a_wide_converter_widens_by_its_factor(self) -> None:
        piece = Attachment(id="wider", name="wider", fits=("limpet",), lenses=("long",), factor=0.5, softer_stops=0.3)
        worn = lens(with_attachments(manifold_sheet(), (piece,)), "long+wider")
        # Twice the width on the wall: tan of half the field doubles.
        assert tan(radians(worn.fields_deg["rectilinear"] / 2)) == pytest.approx(2 * tan(radians(20)))
        assert worn.fields_deg["rectilinear"] == pytest.approx(degrees(2 * atan(2 * tan(radians(20)))))
        assert worn.softer_stops == pytest.approx(0.3)
        assert worn.farthest_m is None

    def test_it_is_chosen_where_nothing_else_is_sharp_and_not_beyond(self) -> None:
        near = made(["limpet-7"], subject={"distance_m": [0.09, 0.11], "size_m": 0.03}, scenario="product")
        assert near.settings.attachment == "limpet-close"
        assert "attached" in codes(near)
        assert "too_near" not in codes(near)
        bare = made(
            ["limpet-7"],
            subject={"distance_m": [0.09, 0.11], "size_m": 0.03},
            scenario="product",
            kit_list={"attachments": []},
        )
        assert "too_near" in codes(bare)
        far = made(["limpet-7"], subject={"distance_m": [2, 3]})
        assert far.settings.attachment is None
        assert "attached" not in codes(far)

    def test_its_light_is_lost_to_the_exposure(self) -> None:
        dense = Attachment(id="dense", name="dense", fits=("clip",), lenses=("main",), factor=0.9, stops=1.0)
        clear = dense.model_copy(update={"stops": 0.0})
        pins = {"attachment": "dense", "shutter_s": "1/50", "iso_floor": 50, "iso_ceiling": 800}
        pins["exposure_compensation"] = -0.7
        fields: dict[str, Any] = {"light": {"kind": "meter", "ev100": [6, 6]}, "pins": pins}
        lost, kept = (
            made(["lugger-5"], KIT.model_copy(update={"attachments": (piece,)}), **fields) for piece in (dense, clear)
        )
        assert max(lost.exposure.iso_used) == pytest.approx(2 * max(kept.exposure.iso_used), rel=0.02)
        # Counted there and nowhere else: at the same gain the picture is as clean.
        pins["iso_floor"], pins["iso_ceiling"] = 400, 400
        lost, kept = (
            made(["lugger-5"], KIT.model_copy(update={"attachments": (piece,)}), **fields) for piece in (dense, clear)
        )
        assert lost.exposure.snr == pytest.approx(kept.exposure.snr)

    def test_no_glass_goes_on_one_without_a_thread(self) -> None:
        worn = made(["lugger-5"], light=SUN, pins={"attachment": "clip-wide"})
        assert worn.settings.nd == ()
        legal = {value.value for value in worn.profiles["nd"] if value.legal}
        assert legal == {"none"}
        assert made(["lugger-5"], light=SUN).settings.nd != ()


class TestRecorders:
    """A phone's own recorder against one that is worked by hand."""

    def test_its_own_recorder_sets_nothing_by_hand(self) -> None:
        own = made(["yawl-12"], pins={"recorder": "own"})
        settings = own.settings
        assert (settings.shutter_s, settings.white_balance_k) == (None, None)
        assert (settings.iso_floor, settings.iso_ceiling) == (64, 6400)
        assert settings.codec == "efficient"
        assert "own_recorder" in codes(own)
        for dial in ("shutter_s", "white_balance_k", "iso_ceiling"):
            assert len([value for value in own.profiles[dial] if value.legal]) == 1, dial
        hand = made(["yawl-12"], pins={"recorder": "hand"})
        assert hand.settings.shutter_mode == "fixed"
        assert "own_recorder" not in codes(hand)

    def test_what_it_cannot_do_is_blamed_on_the_pins(self) -> None:
        with pytest.raises(NoLegalPlan) as refused:
            made(["yawl-12"], pins={"recorder": "own", "shutter_s": "1/50"})
        assert set(refused.value.pins) == {"recorder", "shutter_s"}
        with pytest.raises(NoLegalPlan) as refused:
            made(["yawl-12"], pins={"recorder": "own", "white_balance_k": 5500})
        assert set(refused.value.pins) == {"recorder", "white_balance_k"}
        with pytest.raises(NoLegalPlan) as refused:
            made(["yawl-12"], pins={"recorder": "own", "iso_ceiling": 400})
        assert set(refused.value.pins) == {"recorder", "iso_ceiling"}

    def test_a_body_with_one_recorder_does_not_speak_of_it(self) -> None:
        rows = {row.id for row in plan_text(made(["limpet-7"])).rows}
        assert "recorder" not in rows
        assert "recorder" not in plan_text(made(["limpet-7"])).settled_says
        assert "recorder" in {row.id for row in plan_text(made(["yawl-12"])).rows}

    @pytest.mark.parametrize(
        ("recorder", "where", "what"),
        [
            ({"id": "a", "name": "a", "codecs": ["foreign"]}, "recorders[0].codecs[0]", "not among"),
            ({"id": "a", "name": "a", "stabilisation": ["foreign"]}, "recorders[0].stabilisation[0]", "not among"),
        ],
    )
    def test_a_sheet_that_contradicts_itself_is_refused(self, recorder: dict[str, Any], where: str, what: str) -> None:
        with pytest.raises(BadSheet) as refused:
            read_sheet({**small_sheet_data(), "recorders": [recorder]})
        assert any(fault.where == where and what in fault.what for fault in refused.value.faults)

    def test_stills_need_intervals(self) -> None:
        data = small_sheet_data()
        data["modes"][0]["still_mb"] = 20
        with pytest.raises(BadSheet) as refused:
            read_sheet(data)
        assert [fault.where for fault in refused.value.faults] == ["modes[0].still_mb"]


class TestSound:
    """A microphone by distance, wind and edit."""

    def test_the_farther_a_voice_the_nearer_the_microphone(self) -> None:
        chosen = [
            made(["limpet-7"], subject={"distance_m": [at, at * 1.1]}, sound=VOICE).settings.microphone
            for at in (0.6, 2.0, 8.0)
        ]
        assert chosen[0] is None
        assert chosen[1] == "gun"
        assert chosen[2] in ("lapel", "pocket-recorder")

    def test_wind_is_stood_by_the_one_that_is_heard(self) -> None:
        fields: dict[str, Any] = {"subject": {"distance_m": [2, 2.2]}, "pins": {"microphone": "gun"}}
        calm = made(["limpet-7"], sound={"voice": True, "wind_m_s": 8}, **fields)
        storm = made(["limpet-7"], sound={"voice": True, "wind_m_s": 18}, **fields)
        wind = [next((item.stops for item in found.ledger if item.item == "wind"), 0.0) for found in (calm, storm)]
        assert wind[0] == 0.0
        assert wind[1] == pytest.approx(1.0)  # eighteen is twice the nine that it stands

    def test_without_a_voice_nobody_is_wired(self) -> None:
        assert made(["limpet-7"], subject={"distance_m": [8, 9]}).settings.microphone is None
        quiet = made(["limpet-7"], subject={"distance_m": [8, 9]}, sound={"voice": True}, kit_list={"microphones": []})
        assert "voice_far" in codes(quiet)

    def test_a_phone_would_rather_not_lay_sound_under_the_picture(self) -> None:
        fields: dict[str, Any] = {"subject": {"distance_m": [8, 9]}, "sound": VOICE}
        only = {"kit_list": {"microphones": ["pocket-recorder"]}}
        desk, phone = (
            made(["limpet-7"], delivery={"edit_device": device}, **fields, **only) for device in ("desktop", "phone")
        )
        cost = [next(i.stops for i in found.ledger if i.item == "microphone") for found in (desk, phone)]
        assert cost[1] > cost[0]


class TestRedGain:
    """More red by gain, beside filter, lamps and balance."""

    def test_it_lowers_the_cast_and_raises_noise(self) -> None:
        fields: dict[str, Any] = {"scenario": "underwater", "light": WATER, "camera_move": {"mount": "tray"}}
        off, on = (
            made(["limpet-7"], **fields, kit_list={"filters": []}, pins={"red_gain_stops": gain}) for gain in (0, 1)
        )
        stops = [{item.item: item.stops for item in found.ledger} for found in (off, on)]
        assert stops[1]["cast"] < stops[0]["cast"] - 0.15
        assert stops[1]["red_noise"] == pytest.approx(1.0)

    def test_in_the_dry_there_is_none(self) -> None:
        found = made(["limpet-7"])
        assert found.settings.red_gain_stops == 0
        assert [value.value for value in found.profiles["red_gain_stops"]] == [0]


class TestStills:
    """An interval film kept as stills."""

    def test_they_fill_the_card_frame_by_frame(self) -> None:
        kept = made(["limpet-7"], **CLOUDS, pins={"kept_as": "stills", "interval_s": 4})
        assert kept.endurance.frames == 901
        assert kept.endurance.recorded_gb == pytest.approx(901 * 28 / 1000)
        assert {"stills", "interval_film"} <= codes(kept)
        assert "kept as stills" in next(row.value for row in plan_text(kept).rows if row.id == "rate")

    def test_a_phone_edits_a_film(self) -> None:
        assert made(["limpet-7"], **CLOUDS, delivery={"edit_device": "phone"}).settings.kept_as == "film"


class TestFilmingOneself:
    """A lens or a screen in front."""

    def test_one_wants_to_see_the_frame(self) -> None:
        by_lens = made(["yawl-12"], camera_move={**STILL, "self_framed": True})
        assert by_lens.settings.lens == "front"
        by_screen = made(["limpet-7"], camera_move={**STILL, "self_framed": True})
        assert by_screen.settings.screen == "both"
        assert "frame_unseen" not in codes(by_lens) | codes(by_screen)
        assert "frame_unseen" in codes(made(["cockle-3"], camera_move={**STILL, "self_framed": True}))

    def test_nothing_else_is_filmed_by_a_lens_that_looks_back(self) -> None:
        for fields in ({}, {"light": SUN}, {"subject": {"distance_m": [0.3, 0.5]}}):
            assert made(["yawl-12"], **fields).settings.lens != "front"
