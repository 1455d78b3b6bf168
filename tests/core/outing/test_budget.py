"""Budgets: energy and room are conserved, heat follows the published curve, and what mends a failure does."""

from __future__ import annotations

from math import exp

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.gear.items import Cell, Medium
from steady_tide.core.gear.kit import Kit
from steady_tide.core.outing.budget import CameraBudget, ShootBudget, ShotBudget, budget_of
from steady_tide.core.outing.mends import Failing, mends
from steady_tide.core.outing.packing import packing_of
from steady_tide.core.outing.planned import Outing, PlannedShot
from steady_tide.core.physics.endurance import gigabytes, minutes_to_heat, warmth_after_k
from steady_tide.core.planning.outlook import outlook_of
from steady_tide.words.budgets import fail_words
from steady_tide.words.mends import mend_words
from tests.briefs import brief
from tests.checks import at_least_one
from tests.days import MORNING, day, demo_day, replan, shot

KIT = library.demo_kit()
KNOWN = library.knowledge()
LONG = {"camera_move": {"mount": "tripod"}, "take": {"length_s": 7200, "count": 1, "standby_min": 0}}


def with_cells(*cells: Cell, media: tuple[Medium, ...] | None = None) -> Kit:
    return KIT.model_copy(update={"batteries": cells, "media": KIT.media if media is None else media})


def budget(outing: Outing, kit: Kit = KIT) -> ShootBudget:
    return budget_of(outing, kit, KNOWN)


def rows(found: ShootBudget) -> dict[str, ShotBudget]:
    return {row.key: row for camera in found.cameras for row in camera.shots}


def limpet(found: ShootBudget) -> CameraBudget:
    return next(camera for camera in found.cameras if camera.id == "limpet-7")


def test_check_values_of_recording_and_heat() -> None:
    assert float(gigabytes(100, 3600)) == pytest.approx(45)
    assert float(minutes_to_heat(4.5, 14, 600, 25, 70)) * 60 == pytest.approx(752, abs=0.5)
    assert 25 + float(warmth_after_k(0, 4.5, 14, 600, 1e9)) == pytest.approx(88)
    assert float(warmth_after_k(0, 4.5, 14, 600, 752)) == pytest.approx(45, abs=0.02)


def test_a_warm_start_leaves_less_time_and_a_start_past_the_limit_none() -> None:
    cold, warm = (float(minutes_to_heat(4.5, 14, 600, 25, 70, start)) for start in (0, 20))
    assert warm < cold
    assert 60 * cold - 60 * warm == pytest.approx(-600 * np.log((63 - 20) / 63), rel=1e-9), "the time to get so warm"
    assert float(minutes_to_heat(4.5, 14, 600, 25, 70, 45)) == 0
    assert np.isinf(minutes_to_heat(1.0, 14, 600, 25, 70))


def test_what_is_drawn_is_gone_and_nothing_else() -> None:
    outing = day(shot("a", 0, air_c=25), shot("b", 60, air_c=25, take={"length_s": 300, "count": 2}))
    found = rows(budget(outing))
    full = 7.0 + 7.0  # its own cell and the spare
    cold = found["a"].wh_left + found["a"].drawn_wh
    assert found["a"].wh_left - found["b"].wh_left == pytest.approx(found["b"].drawn_wh)
    assert cold <= full + 1e-9
    assert found["a"].gb_left - found["b"].gb_left == pytest.approx(found["b"].recorded_gb)
    for key in "ab":
        planned = outing.shot(key)
        assert planned is not None
        assert found[key].drawn_wh == pytest.approx(planned.plan.endurance.needed_wh)


def test_the_cold_shuts_the_last_part_in_and_warmth_gives_it_back() -> None:
    kit = with_cells()
    outing = day(shot("cold", 0, kit, air_c=-8), shot("warm", 60, kit, air_c=25))
    found = rows(budget(outing, kit))
    share = cold_share(outing.shots[0])
    assert 0.55 < share < 0.8, "a few minutes of work hardly warm the cell"
    assert found["cold"].wh_left == pytest.approx(7.0 * share - found["cold"].drawn_wh)
    assert found["warm"].wh_left == pytest.approx(7.0 - found["cold"].drawn_wh - found["warm"].drawn_wh)


def test_a_take_is_not_begun_on_a_cell_that_cannot_end_it() -> None:
    takes = {"length_s": 3000, "count": 3, "standby_min": 0}
    kit = with_cells(Cell(id="spare", name="spare", wh=7, fits=("limpet-7",)))
    filmed = shot("a", 0, kit, take=takes)
    piece, usable = filmed.plan.endurance.needed_wh / 3, 7.0 * cold_share(filmed)
    assert 2 * piece < usable < 3 * piece
    found = rows(budget(day(filmed), kit))["a"]
    assert found.cell_changes == 1
    assert not found.interrupted, "the cell was changed between two takes"
    assert found.wh_left == pytest.approx(2 * usable - 3 * piece), "what the first cell kept is still there"


def test_a_bank_feeds_what_outlasts_a_cell_and_its_losses_count() -> None:
    bank = Cell(id="bank", name="bank", kind="bank", wh=50)
    kit = with_cells(bank)
    still = rows(
        budget(day(shot("a", 0, kit, **{**LONG, "take": {"length_s": 14400, "count": 1, "standby_min": 0}})), kit)
    )["a"]
    assert still.fails == ()
    assert still.from_bank_wh > 0
    left = budget(day(shot("a", 0, kit, **LONG)), kit).bank_wh_left
    assert left is not None
    assert left <= 50 * KNOWN.limits.bank_efficiency
    walking = shot(
        "b", 0, kit, **{**LONG, "take": {"length_s": 14400, "count": 1}, "camera_move": {"mount": "walking"}}
    )
    assert rows(budget(day(walking), kit))["b"].from_bank_wh == 0, "nobody walks on a cable"


def test_a_card_stays_in_its_camera_and_a_slow_one_is_passed_over() -> None:
    media = (
        Medium(id="slow", name="slow", capacity_gb=1000, write_mb_s=100),
        Medium(id="fast", name="fast", capacity_gb=64, write_mb_s=240),
    )
    kit = with_cells(media=media)
    one = shot("a", 0, kit, delivery={"graded": True})
    other = shot("b", 60, kit, only="cockle-3")
    found = budget(day(one, other), kit)
    assert one.plan.settings.bit_rate_mb_s * 1.25 > 100, "the slow card is too slow for it"
    assert rows(found)["a"].gb_left == pytest.approx(64 - rows(found)["a"].recorded_gb)
    assert rows(found)["b"].gb_left == pytest.approx(1000 - rows(found)["b"].recorded_gb), "the fast one is taken"


def test_a_full_card_fails_and_another_card_mends_it() -> None:
    media = (Medium(id="small", name="small", capacity_gb=10, write_mb_s=240, fits=("limpet-7",)),)
    kit = with_cells(*KIT.batteries, media=media)
    filmed = shot("a", 0, kit, delivery={"graded": True}, take={"length_s": 600, "count": 3, "standby_min": 0})
    outing = day(filmed)
    fail = next(fail for fail in rows(budget(outing, kit))["a"].fails if fail.kind == "card")
    assert fail.short == pytest.approx(filmed.plan.endurance.recorded_gb - 10, abs=0.01)
    found = mends(Failing(outing, filmed, fail, kit, KNOWN, replan))
    card = next(mend for mend in found if mend.id == "card")
    assert card.works
    assert "another card of 32" in mend_words(card, {}).replace("\u202f", " ")
    assert [mend.works for mend in found] == sorted((mend.works for mend in found), reverse=True)


def brute_heat(outing: Outing, step_s: float = 0.5) -> dict[str, float]:
    """The peak of each shot by small steps: dT/dt = (P R - T) / tau."""
    peaks, warm, at = {}, 0.0, None
    for planned in outing.shots:
        power = planned.sheet.power
        assert planned.starts_at is not None

        def run(watts: float, seconds: float, warm: float) -> tuple[float, float]:
            peak = warm
            for _ in range(round(seconds / step_s)):
                rise = watts * power.heat_k_per_w  # noqa: B023
                warm += (rise - warm) * (1 - exp(-step_s / power.tau_s))  # noqa: B023
                peak = max(peak, warm)
            return warm, peak

        if at is not None:
            warm, _ = run(0.0, (planned.starts_at - at).total_seconds(), warm)
        pause = 60 * planned.brief.take.standby_min / planned.takes
        lasts = planned.plan.endurance
        assert lasts.warming_w is not None
        sun = lasts.warming_w - lasts.power_w  # in the pauses, too
        standby = (power.standby_w if power.standby_w is not None else 0.3 * power.base_w) + sun
        highest = warm
        for _ in range(planned.takes):
            warm, peak = run(lasts.warming_w, planned.brief.take.length_s, warm)
            highest = max(highest, peak)
            warm, _ = run(standby, pause, warm)
        peaks[planned.key] = planned.brief.air_c + highest
        at = planned.ends_at
    return peaks


def test_heat_over_takes_pauses_and_shots_is_what_small_steps_give() -> None:
    hot = {"air_c": 30, "sound": {"wind_m_s": 0}, "delivery": {"slow_factor": 4}}
    outing = day(
        shot("a", 0, **hot, take={"length_s": 240, "count": 3, "standby_min": 6}),
        shot("b", 22, **hot, take={"length_s": 400, "count": 2, "standby_min": 2}),
        shot("c", 120, **hot, take={"length_s": 60, "count": 5, "standby_min": 30}),
    )
    expected = brute_heat(outing)
    found = rows(budget(outing))
    for key, peak in expected.items():
        assert found[key].heat.peak_c == pytest.approx(peak, abs=0.05), key
    alone = rows(budget(day(*(entry for entry in outing.shots if entry.key == "b"))))["b"]
    assert found["b"].heat.peak_c > alone.heat.peak_c + 1, "the shot before has warmed it: the order matters"


def test_wind_and_water_carry_heat_away() -> None:
    heat = rows(budget(day(shot("a", 0, air_c=35, delivery={"slow_factor": 4}))))["a"].heat
    minutes = [heat.minutes_still, heat.minutes_wind, heat.minutes_water]
    known = [np.inf if value is None else value for value in minutes]
    assert known[0] < known[1] <= known[2]


def test_a_hot_phone_fails_and_the_failure_says_when() -> None:
    what = brief(
        title="hot",
        air_c=24,
        sound={"wind_m_s": 0},
        take={"length_s": 1200, "count": 1, "standby_min": 0},
        pins={"camera": "lugger-5"},
    )
    hot = PlannedShot("a", what, replan(what, KIT), next(c for c in KIT.cameras if c.id == "lugger-5"), MORNING)
    fail = next(fail for fail in rows(budget(day(hot)))["a"].fails if fail.kind == "heat")
    assert "stops for heat" in fail_words(fail)
    assert fail.unit == "K"
    found = mends(Failing(day(hot), hot, fail, KIT, KNOWN, replan))
    assert any(mend.works and mend.id.startswith("camera-") for mend in found)
    for mend in found:
        if mend.works and mend.pins and "camera" not in mend.pins:
            pinned = hot.brief.model_copy(update={"pins": {**hot.brief.pins, **mend.pins}})
            plan = replan(pinned, KIT, "lugger-5")
            again = rows(budget(day(hot.with_plan(pinned, plan, hot.sheet))))["a"]
            assert "heat" not in {f.kind for f in again.fails}, mend.code
            assert plan.given_up_stops - hot.plan.given_up_stops == pytest.approx(mend.given_up_stops)


def test_a_drone_keeps_its_charge_for_the_way_home() -> None:
    flown = shot(
        "a", 0, only="sandpiper-2", scenario="motion", camera_move={"mount": "drone_gimbal", "travel_m_s": 7},
        take={"length_s": 300, "count": 5, "standby_min": 4},
    )  # fmt: skip
    row = rows(budget(day(flown)))["a"]
    power = flown.sheet.power
    assert row.flight is not None
    whole = power.battery_wh * cold_share(flown) / flown.plan.endurance.power_w * 60
    assert row.flight.minutes_per_charge + row.flight.reserve_min == pytest.approx(whole)
    assert row.flight.reserve_min == pytest.approx(power.reserve_share * whole)
    assert row.flight.flights == 2, "a take is not begun on a charge that would not end it"


def cold_share(planned: PlannedShot) -> float:
    """By the page: what ordinary cells give at their temperature, which is the air's and 0.4 of what the body has
    warmed by the shot's end; the pack of what flies is as cold as the air."""
    brief, power = planned.brief, planned.sheet.power
    hours = brief.running_s / 3600 + brief.take.standby_min / 60
    rise = planned.plan.endurance.needed_wh / hours * power.heat_k_per_w * (1 - exp(-3600 * hours / power.tau_s))
    at_c = brief.air_c + (0.0 if power.motors_w else 0.4 * rise)
    table = sorted(KNOWN.chemistries["ordinary"].left)
    return float(np.interp(at_c, [t for t, _ in table], [s for _, s in table]))


def test_the_demo_days_fail_where_they_should_and_mends_are_tried_for_real() -> None:
    found = budget(demo_day(1))
    assert limpet(found).first_fail == "2"
    outing = demo_day(1)
    failing = outing.shot("2")
    assert failing is not None
    fail = rows(found)["2"].fails[0]
    assert fail.kind == "battery"
    offered = mends(Failing(outing, failing, fail, KIT, KNOWN, replan))
    by = {mend.id: mend for mend in offered}
    assert by["cold_rated"].works
    assert by["more_cells"].works
    assert by["more_cells"].given_up_stops < 0, "the battery leaves the ledger"
    assert by["frame"].works
    assert by["frame"].given_up_stops > 0
    assert not by["frame_rate"].works, "a rate of 24 saves too little"


def test_more_of_anything_never_makes_a_shot_fail() -> None:
    plain = budget(demo_day(0))
    more = KIT.model_copy(
        update={
            "batteries": (*KIT.batteries, Cell(id="x", name="x", wh=7, count=3, fits=("limpet-7",))),
            "media": (*KIT.media, Medium(id="y", name="y", capacity_gb=512, write_mb_s=400)),
        }
    )
    richer = budget(demo_day(0), more)
    for key, row in at_least_one(rows(richer).items()):
        assert {fail.kind for fail in row.fails} <= {fail.kind for fail in rows(plain)[key].fails}
        assert row.wh_left >= rows(plain)[key].wh_left - 1e-9


def test_clips_split_where_the_camera_splits_them() -> None:
    long = shot("a", 0, take={"length_s": 6000, "count": 2, "standby_min": 0})
    limit = long.sheet.clip_limit_min
    assert limit == 52
    assert rows(budget(day(long)))["a"].clips == 2 * 2


def test_a_drive_is_wanted_by_the_modes_that_write_to_one_and_by_no_others() -> None:
    yawl = next(camera for camera in KIT.cameras if camera.id == "yawl-12")
    codec = next(codec for mode in yawl.modes for codec in mode.drive_codecs)
    fields = {"camera_move": {"mount": "tripod"}, "delivery": {"graded": True}}
    asked = {
        (mode.width, mode.height): codec in mode.drive_codecs
        for mode in yawl.modes
        if codec in mode.codecs and not mode.intervals_s and 25 in mode.rates and mode.lens == yawl.lenses[0].id
    }
    assert asked
    for (width, height), wanted in asked.items():
        pins = {"codec": codec, "frame": f"{width}x{height}", "lens": yawl.lenses[0].id, "frame_rate": 25}
        filmed = shot("a", 0, only="yawl-12", pins=pins, **fields)
        assert filmed.on_drive == wanted, pins
        if wanted:
            without = with_cells(*KIT.batteries, media=tuple(m for m in KIT.media if m.kind != "drive"))
            (fail,) = [fail for fail in rows(budget(day(filmed), without))["a"].fails if fail.kind == "card"]
            assert "drive" in fail_words(fail)


def test_one_spare_that_goes_in_and_out_is_packed_once() -> None:
    """Short takes that no cell can end twice: cells are changed to and fro, and there are still only two of them."""
    takes = {"length_s": 4200, "count": 1, "standby_min": 0}
    kit = with_cells(Cell(id="spare", name="spare", wh=7, count=1, fits=("limpet-7",)))
    outing = day(*(shot(name, 120 * n, kit, take=takes, air_c=25) for n, name in enumerate("abc")))
    assert 0.5 < outing.shots[0].plan.endurance.needed_wh / 7 < 0.66
    found = budget(outing, kit)
    assert sum(row.cell_changes for row in limpet(found).shots) >= 2
    assert limpet(found).spares_used == 1
    packed = packing_of(outing, found, kit, KNOWN)
    (line,) = [line for line in packed.lines if line.id == "spare-limpet-7"]
    assert (line.count, line.have) == (1, 1)
    assert not [said for said in packed.missing if said.code == "more"]


@pytest.mark.parametrize("taken", [False, True])
def test_room_of_the_day_and_what_is_left_of_it_agree(taken: bool) -> None:
    media = (
        Medium(id="fast", name="fast", capacity_gb=384, write_mb_s=400),
        Medium(id="small", name="small", capacity_gb=128, write_mb_s=90),
    )
    kit = with_cells(*KIT.batteries, media=media)
    filmed = shot("a", 60, kit, delivery={"graded": True})
    assert filmed.plan.settings.bit_rate_mb_s * 1.25 > 90
    others = [shot("b", 0, kit, only="cockle-3", delivery={"width": 1920, "height": 1080})] if taken else []
    camera = limpet(budget(day(*others, filmed), kit))
    (row,) = camera.shots
    assert camera.cards_gb == 384, "a card that is too slow for it is no room"
    assert row.card_left == pytest.approx(row.gb_left / camera.cards_gb)
    assert row.gb_left == pytest.approx((0 if taken and row.fails else 384) - (0 if row.fails else row.recorded_gb))


def test_a_take_that_no_card_holds_is_told() -> None:
    media = (Medium(id="small", name="small", capacity_gb=16, write_mb_s=240, count=4, fits=("limpet-7",)),)
    kit = with_cells(*KIT.batteries, media=media)
    fields = {"delivery": {"graded": True}, "take": {"length_s": 1800, "count": 1, "standby_min": 0}}
    filmed = shot("a", 0, kit, **fields)
    assert 16 < filmed.plan.endurance.recorded_gb < 64, "the four together hold it"
    (fail,) = [fail for fail in rows(budget(day(filmed), kit))["a"].fails if fail.kind == "card"]
    assert fail.code == "take_over_card"
    assert "ends in the middle" in fail_words(fail)
    told = {warning.code: warning.facts for warning in filmed.plan.warnings}
    assert told["take_over_card"]["largest_gb"] == 16
    assert "card_small" not in told
    twice = shot("b", 0, kit, **{**fields, "take": {"length_s": 900, "count": 2, "standby_min": 0}})
    assert (
        "take_over_card" not in {warning.code for warning in twice.plan.warnings}
        or twice.plan.endurance.recorded_gb > 32
    )


@pytest.mark.parametrize("hours", [0.6, 0.9, 1.2, 1.5, 2.0, 2.6, 3.0, 4.0])
def test_a_battery_that_lasts_is_never_said_not_to(hours: float) -> None:
    kit = with_cells()
    take = {"length_s": 3600 * hours, "count": 1, "standby_min": 0}
    filmed = shot("a", 0, kit, camera_move={"mount": "walking"}, take=take, air_c=20)
    lasts, codes = filmed.plan.endurance, {warning.code for warning in filmed.plan.warnings}
    enough = lasts.needed_wh <= lasts.available_wh
    assert enough == (lasts.hours_per_charge >= hours - 1e-6)
    assert ("battery_short" in codes or "charge_ends_take" in codes) == (not enough)
    assert ("battery_close" in codes) == (enough and lasts.needed_wh * 1.25 > lasts.available_wh)


def test_the_film_picture_and_the_warning_tell_the_same_share_of_a_charge() -> None:
    spare = Cell(id="spare", name="spare", wh=7, count=1, fits=("limpet-7",))
    kit = with_cells(spare)
    fields = {
        "scenario": "lapse", "light": {"kind": "place", "place": "starlight"}, "camera_move": {"mount": "tripod"},
        "take": {"length_s": 6 * 3600, "count": 1, "standby_min": 0}, "air_c": 15,
    }  # fmt: skip
    filmed = shot("a", 0, kit, **fields)
    lapse = outlook_of(filmed.brief, filmed.plan, filmed.sheet, KNOWN).lapse
    warned = next(warning for warning in filmed.plan.warnings if warning.code == "outside_power")
    assert lapse is not None
    assert lapse.available_wh / lapse.needed_wh == pytest.approx(warned.facts["charge_h"] / 6, rel=0.01)
