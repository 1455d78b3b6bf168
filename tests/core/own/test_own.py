"""One's own numbers: found over many simulated crews, never from fewer than three, and laid in through one door."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.brief.own_numbers import OwnNumber
from steady_tide.core.log.judging import JudgedRung
from steady_tide.core.log.ladder import Ladder, LadderBasis, ladder_of
from steady_tide.core.log.notes import CardNote, GlassNote, HeatNote, Note, ReadoutNote, SteadyingNote
from steady_tide.core.log.take import TakeFields, TakeSeen
from steady_tide.core.own.applying import read_number, with_own_numbers
from steady_tide.core.own.changes import own_changes
from steady_tide.core.own.kinds import BY_ID, KINDS
from steady_tide.core.own.kinds.filmed import hand_of
from steady_tide.core.own.kinds.noted import drawn_w, gave_wh, resistance_of
from steady_tide.core.own.own_kind import Clock, Evidence
from steady_tide.core.own.readings import Found, find_all
from steady_tide.core.physics.motion import excursion_deg, left_over_deg
from steady_tide.core.planning.own_used import APPLIES
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.rushes.clip_plan import ClipPlan, clip_plan
from steady_tide.services.own_numbers import NOTE
from steady_tide.standins.crew import Habits, measured_take, ran_down
from steady_tide.words.own import OWN_WORDS, how_many, own_title
from tests.briefs import brief

KIT, KNOWN = library.demo_kit(), library.knowledge()
LIMITS = KNOWN.limits
NOON = datetime(2026, 10, 17, 12, tzinfo=UTC)
SCATTER = {"content_stops": 0.0, "meter_stops": 0.08, "hand": 0.18, "snr": 0.1}


def habits(**true: Any) -> Habits:
    nothing: dict[str, Any] = {
        "metering": {}, "shake": {}, "noise": {}, "draw": {}, "capacity": {}, "glass": {}, "faults": [], "scatter": SCATTER,
    }  # fmt: skip
    return Habits(**{**nothing, **true})


def planned(**fields: Any) -> ClipPlan:
    what = brief(
        **{"light": {"kind": "meter", "ev100": [11, 13]}, "delivery": {"width": 3840, "height": 2160}, **fields}
    )
    made = plan_shot(what, KIT, KNOWN, schools=False)
    sheet = next(one for one in KIT.cameras if one.id == made.camera.id)
    return clip_plan(what, made, sheet, KNOWN)


@pytest.fixture(scope="module")
def on_foot() -> ClipPlan:
    return planned(camera_move={"mount": "walking"}, pins={"camera": "yawl-12"})


def filmed(plan: ClipPlan, hands: str, count: int, true: Habits, seed: int, shot: str = "a") -> list[TakeSeen]:
    rng = np.random.default_rng(seed)
    takes = []
    for number in range(count):
        at = NOON + timedelta(minutes=number)
        said = TakeFields(at=at, camera=plan.camera, mount=plan.mount, hands=hands)
        takes.append(
            TakeSeen(
                key=f"{shot}{number}",
                at=at,
                said=said,
                shot=shot,
                light=plan.light_kind,
                measures=measured_take(plan, hands, 0.0, 20.0, true, rng),
                plan=plan,
            )
        )
    return takes


def found_in(
    takes: Sequence[TakeSeen] = (),
    notes: Sequence[Note] = (),
    judged: Sequence[JudgedRung] = (),
    clocks: Sequence[Clock] = (),
) -> dict[str, Found]:
    found = find_all(Evidence(takes, judged, notes, clocks, KIT, KNOWN))
    return {"/".join((one.kind.id, *one.of.values())): one for one in found}


def test_a_meters_habit_of_half_a_stop_is_found_after_five_clips(on_foot: ClipPlan) -> None:
    assert on_foot.light_kind == "day"
    true = habits(metering={"yawl-12": {"day": 0.5}})
    errors, covered = [], 0
    for seed in range(50):
        one = found_in(filmed(on_foot, "Wren", 5, true, seed))["metering/yawl-12/day"]
        assert one.number is not None
        errors.append(abs(one.number.value - 0.5))
        covered += one.number.low <= 0.5 <= one.number.high
    assert np.mean(np.array(errors) <= 0.1) >= 0.9
    assert covered >= 45


def steadying_ladder() -> Ladder:
    what = brief(camera_move={"mount": "walking"}, pins={"camera": "limpet-7"})
    made = plan_shot(what, KIT, KNOWN, schools=False)
    sheet = KIT.camera(made.camera.id)
    assert sheet is not None
    basis = LadderBasis(what, made, sheet, KNOWN, lambda it: plan_shot(it, KIT, KNOWN, schools=False, only="limpet-7"))
    return ladder_of(basis, "stabilisation", [entry.value for entry in made.profiles["stabilisation"] if entry.legal])


def test_what_steadying_lets_through_is_found_on_a_ladder_of_it() -> None:
    ladder = steadying_ladder()
    assert {rung.planned.settings.stabilisation for rung in ladder.rungs} == {rung.value for rung in ladder.rungs}
    assert 0.0 in {rung.planned.margin_deg for rung in ladder.rungs}
    sheet = KIT.camera("limpet-7")
    assert sheet is not None
    true = habits(shake={"Wren": {"walking": 9.0}})
    hits = told = 0
    for seed in range(30):
        rng = np.random.default_rng(seed)
        takes = []
        for number, rung in enumerate(ladder.order * 2):
            plan = ladder.rungs[rung].planned
            really = plan.model_copy(update={"leak": min(1.0, 2.0 * (plan.leak or 0.0))})  # twice what the sheet says
            at = NOON + timedelta(minutes=number)
            measures = measured_take(really, "Wren", 0.0, 12.0, true, rng)
            said = TakeFields(at=at, camera=plan.camera, mount=plan.mount, hands="Wren")
            takes.append(TakeSeen(str(number), at, said, "a", measures=measures, plan=plan, ladder="it", rung=rung))
        found = found_in(takes)
        for level in sheet.stabilisation:
            one = found.get(f"leak/limpet-7/{level.id}")
            if level.leak and one is not None and one.number is not None:
                told += 1
                hits += one.number.low <= min(1.0, 2.0 * level.leak) <= one.number.high
    assert told >= 30
    assert hits >= 0.8 * told


def test_a_take_that_was_set_otherwise_tells_nothing_of_what_that_bears_on(on_foot: ClipPlan) -> None:
    true = habits(metering={"yawl-12": {"day": 0.5}}, shake={"Tam": {"walking": 19.0}})
    takes = filmed(on_foot, "Tam", 5, true, 1)
    assert {"metering/yawl-12/day", "shake/Tam/walking"} <= set(found_in(takes))
    for dial, gone, stays in (
        ("exposure_compensation", "metering/yawl-12/day", "shake/Tam/walking"),
        ("stabilisation", "shake/Tam/walking", "metering/yawl-12/day"),
    ):
        otherwise = [replace(take, said=take.said.model_copy(update={"settings": {dial: "another"}})) for take in takes]
        found = found_in(otherwise)
        assert gone not in found
        assert found[stays].count == 5


def test_every_kind_of_own_number_has_its_words() -> None:
    assert set(OWN_WORDS) == set(BY_ID)
    for kind in KINDS:
        assert own_title(kind.id, dict.fromkeys(kind.parts, "it"))
        assert how_many(kind.id, 2).endswith("s")


def test_a_hand_is_found_behind_its_steadying(on_foot: ClipPlan) -> None:
    true = habits(shake={"Tam": {"walking": 19.0}, "Wren": {"walking": 9.0}})
    errors = []
    for seed in range(50):
        found = found_in([*filmed(on_foot, "Tam", 5, true, seed), *filmed(on_foot, "Wren", 5, true, 900 + seed, "b")])
        for who, truth in (("Tam", 19.0), ("Wren", 9.0)):
            number = found[f"shake/{who}/walking"].number
            assert number is not None
            errors.append(abs(np.log2(number.value / truth)))
        assert found["shake//walking"].count == 10
    assert np.mean(np.array(errors) < 0.25) >= 0.95


@pytest.mark.parametrize("hand", [0.6, 3.0, 12.0, 40.0, 90.0])
@pytest.mark.parametrize(("margin", "leak"), [(0.0, 0.06), (4.0, 0.06), (12.0, 0.02)])
def test_steadying_is_turned_about(hand: float, margin: float, leak: float) -> None:
    left = float(left_over_deg(excursion_deg(hand, 0.25), margin, leak)) / 0.25
    assert hand_of(left, 0.25, margin, leak) == pytest.approx(hand, rel=0.01)


def test_a_hand_that_steadying_hides_is_not_guessed_from_the_shakiest_takes(on_foot: ClipPlan) -> None:
    takes = filmed(on_foot, "Tam", 10, habits(shake={"Tam": {"walking": 19.0}}), 3)
    hidden = []
    for number, take in enumerate(takes):
        assert take.measures is not None
        motion = take.measures.motion.model_copy(update={"shake_px": 0.2 if number else 0.7})
        measures = take.measures.model_copy(update={"motion": motion})
        hidden.append(TakeSeen(**{**take.__dict__, "measures": measures}))
    assert not any(key.startswith("shake") for key in found_in(hidden))


def test_no_number_comes_from_fewer_than_three(on_foot: ClipPlan) -> None:
    true = habits(metering={"yawl-12": {"day": 0.5}}, shake={"Wren": {"walking": 9.0}})
    for count in (1, 2, 3):
        found = found_in(filmed(on_foot, "Wren", count, true, 4))
        assert {key: one.number is not None for key, one in found.items()} == {
            "metering/yawl-12/day": count >= 3, "shake/Wren/walking": count >= 3, "shake//walking": count >= 3,
        }  # fmt: skip
        assert all(one.count == count for one in found.values())


def judged(who: str, amount: float, accepted: bool, answer: int) -> JudgedRung:
    return JudgedRung(who, "a", "snr", 0, amount, accepted, True, answer, NOON, {})


def test_a_noise_limit_needs_three_answers_not_three_frames() -> None:
    two = [judged("Wren", amount, amount > 8, answer) for answer in (0, 1) for amount in (12.0, 6.0)]
    assert found_in(judged=two)["noise/Wren"].number is None
    three = [*two, judged("Wren", 12.0, True, 2), judged("Wren", 6.0, False, 2)]
    number = found_in(judged=three)["noise/Wren"].number
    assert number is not None
    assert 6.0 < number.value < 12.0
    assert number.count == 3


def test_a_run_down_tells_what_a_camera_draws_and_a_charger_what_its_cell_holds() -> None:
    true = habits(draw={"limpet-7": 1.25}, capacity={"limpet-7": 6.2})
    rng = np.random.default_rng(8)
    notes = []
    for to_percent, air_c, rate in ((22, 12, 25), (40, 3, 50), (10, 21, 25), (30, 15, 100)):
        note = {
            "kind": "charge", "camera": "limpet-7", "width": 1920, "height": 1080, "frame_rate": rate, "to_percent": to_percent,
            "air_c": air_c, "at": NOON, "charger": True,
        }  # fmt: skip
        notes.append(NOTE.validate_python(ran_down(note, KIT, KNOWN, true, rng)))
    found = found_in(notes=notes)
    capacity, draw = found["capacity/limpet-7"].number, found["draw/limpet-7"].number
    assert capacity is not None
    assert draw is not None
    assert capacity.value == pytest.approx(6.2, rel=0.03)
    assert draw.value == pytest.approx(1.25, rel=0.04)
    assert draw.low < 1.25 < draw.high * 1.02


def test_charges_of_a_few_per_cent_say_too_little() -> None:
    with pytest.raises(ValueError, match="says too little"):
        NOTE.validate_python(
            {
                "kind": "charge", "camera": "limpet-7", "width": 1920, "height": 1080, "frame_rate": 25, "from_percent": 30,
                "to_percent": 25, "minutes": 4, "air_c": 10, "at": NOON,
            }
        )  # fmt: skip


def test_heat_stops_tell_how_a_body_sheds_heat() -> None:
    sheet = next(one for one in KIT.cameras if one.id == "limpet-7")
    note = HeatNote(
        kind="heat", at=NOON, camera="limpet-7", width=3840, height=2160, frame_rate=50, minutes=30, air_c=25
    )
    resistance = resistance_of(sheet, note)
    assert resistance is not None
    # The formula itself: T_air + P R (1 - exp(-t / tau)) is the limit after those minutes.
    power = sheet.power
    warmed = drawn_w(sheet, note) * resistance * (1.0 - np.exp(-30 * 60 / power.tau_s))
    assert 25 + warmed == pytest.approx(power.heat_limit_c, abs=0.1)


def test_readout_crop_glass_and_cards_are_read_from_their_notes() -> None:
    notes: list[Note] = []
    for lean in (59.0, 60.0, 61.5):
        notes.append(ReadoutNote(kind="readout", at=NOON, camera="limpet-7", lean_px=lean, pan_px=120, frame_rate=25))
    for cm in (81.0, 82.0, 81.5):
        notes.append(
            SteadyingNote(kind="steadying", at=NOON, camera="limpet-7", level="strong", without_cm=100, with_cm=cm)
        )
    for stops in (4.3, 4.25, 4.35):
        notes.append(GlassNote(kind="glass", at=NOON, filter="nd16", stops=stops, red_stops=-0.2))
    for held in (231.0, 229.0, 230.0):
        notes.append(CardNote(kind="card", at=NOON, medium="card-240", recorded_gb=held))
    found = found_in(notes=notes)
    values = {key: one.number.value for key, one in found.items() if one.number is not None}
    assert values["readout/limpet-7"] == pytest.approx(20.0, rel=0.02)  # half a frame of 40 ms
    assert values["keeps/limpet-7/strong"] == pytest.approx(0.815, rel=0.01)
    assert values["glass/nd16"] == pytest.approx(4.3, abs=0.03)
    assert values["glass_red/nd16"] == pytest.approx(-0.2, abs=0.03)
    assert values["card/card-240"] == pytest.approx(230.0, rel=0.01)


def test_clocks_are_told_and_enter_no_plan() -> None:
    found = found_in(clocks=[Clock("limpet-7", 3600.0, 5), Clock("yawl-12", -95.0, 2)])
    assert found["clock/limpet-7"].number is not None
    assert found["clock/yawl-12"].number is None
    assert not BY_ID["clock"].enters


def number(kind: str, value: float, *of: str) -> OwnNumber:
    parts = dict(zip(BY_ID[kind].parts, of, strict=True))
    return OwnNumber(kind=kind, of=parts, value=value, low=value * 0.9, high=value * 1.1, spread=0.1, count=5)


OWN = {
    "noise": (number("noise", 6.0, ""), number("noise", 7.0, "Wren")),
    "metering": (number("metering", -0.5, "limpet-7", "day"),),
    "shake": (number("shake", 60.0, "", "chest"), number("shake", 22.0, "Wren", "chest")),
    "leak": (number("leak", 0.15, "limpet-7", "strong"),),
    "keeps": (number("keeps", 0.7, "limpet-7", "strong"),),
    "readout": (number("readout", 30.0, "limpet-7"),),
    "glass": (number("glass", 6.6, "nd64"),),
    "glass_red": (number("glass_red", -0.3, "nd64"),),
    "glass_blue": (number("glass_blue", 0.2, "nd64"),),
    "capacity": (number("capacity", 4.0, "limpet-7"),),
    "draw": (number("draw", 1.5, "limpet-7"),),
    "heat": (number("heat", 20.0, "limpet-7"),),
    "card": (number("card", 100.0, "card-240"),),
}
CHEST = {
    "light": {"kind": "meter", "ev100": [13, 14.5]}, "camera_move": {"mount": "chest", "travel_m_s": 2, "hands": "Wren"},
    "subject": {"distance_m": [1, 8], "speed_m_s": 1}, "pins": {"camera": "limpet-7"},
}  # fmt: skip


PINNED: dict[str, dict[str, Any]] = {
    "leak": {"stabilisation": "strong"}, "keeps": {"stabilisation": "strong"}, "glass": {"nd": "nd64"},
    "glass_red": {"nd": "nd64"}, "glass_blue": {"nd": "nd64"},
}  # fmt: skip


def test_every_kind_that_enters_is_tried_here() -> None:
    assert set(OWN) == {kind.id for kind in KINDS if kind.enters}


@pytest.mark.parametrize("kind", sorted(OWN))
def test_each_kind_enters_by_the_one_door_and_its_plan_says_so(kind: str) -> None:
    what = brief(**CHEST)
    what = what.model_copy(update={"pins": {**what.pins, **PINNED.get(kind, {})}})
    kit, known = with_own_numbers(KIT, KNOWN, OWN[kind])
    made = plan_shot(what, kit, known, schools=False)
    before = plan_shot(what, KIT, KNOWN, schools=False)
    told = [used for used in made.own if used.kind == kind]
    assert len(told) == 1, "the person's own comes before the crew's"
    assert told[0].value == OWN[kind][-1].value
    assert told[0].usual == BY_ID[kind].usual(OWN[kind][-1].of, KIT, KNOWN)
    assert before.own == ()
    assert (kit, known) != (KIT, KNOWN)
    if kind in ("noise", "metering", "shake", "glass", "leak", "keeps", "capacity", "draw", "heat"):
        assert made.model_copy(update={"own": ()}) != before
    else:  # nothing of this shot hangs on it, but there it stands
        assert BY_ID[kind].usual(OWN[kind][-1].of, kit, known) == pytest.approx(OWN[kind][-1].value)
    # Switched off, everything is as it was: the very same kit and knowledge, and the same plan.
    assert with_own_numbers(KIT, KNOWN, ()) == (KIT, KNOWN)
    assert plan_shot(what, *with_own_numbers(KIT, KNOWN, ()), schools=False) == before


def test_own_numbers_of_others_bear_on_nothing() -> None:
    strangers = [number("noise", 3.0, "Tam"), number("shake", 90.0, "Tam", "chest"), number("metering", 2.0, "yawl-12", "day"),
                 number("metering", 2.0, "limpet-7", "water")]  # fmt: skip
    made = plan_shot(brief(**CHEST), *with_own_numbers(KIT, KNOWN, strangers), schools=False)
    assert made == plan_shot(brief(**CHEST), KIT, KNOWN, schools=False)


def test_what_is_gone_from_the_kit_is_left_out() -> None:
    assert with_own_numbers(KIT, KNOWN, [number("readout", 9.0, "no-such-camera")]) == (KIT, KNOWN)


def test_the_order_of_what_a_number_is_of_does_not_matter_where_it_is_kept() -> None:
    one = OWN["metering"][0]
    plain = one.model_dump(mode="json")
    plain["of"] = dict(reversed(plain["of"].items()))
    assert read_number(plain).key == one.key


def test_a_noise_limit_is_the_balanced_schools_and_others_keep_their_distance() -> None:
    known = with_own_numbers(KIT, KNOWN, OWN["noise"])[1]
    assert known.noise_limit_snr("balanced", "Wren") == pytest.approx(7.0)
    assert known.noise_limit_snr("balanced", "Tam") == pytest.approx(6.0)
    for school in ("quiet", "bright", "get_it"):
        ratio = KNOWN.weights.noise_limit_snr[school] / KNOWN.weights.noise_limit_snr["balanced"]
        assert known.noise_limit_snr(school, None) == pytest.approx(6.0 * ratio)


def test_what_a_number_changed_is_the_plan_without_it() -> None:
    numbers = (*OWN["shake"], *OWN["metering"])
    kit, known = with_own_numbers(KIT, KNOWN, numbers)
    what = brief(**CHEST)
    made = plan_shot(what, kit, known, schools=False)
    for change in own_changes(what, made, None, (KIT, KNOWN), numbers):
        rest = [one for one in numbers if one.key != change.used.key]
        other = plan_shot(what, *with_own_numbers(KIT, KNOWN, rest), schools=False, only="limpet-7")
        assert change.without_stops == other.given_up_stops
        assert {one.dial for one in change.dials} == {
            dial for dial, value in made.chosen.items() if other.chosen.get(dial, value) != value
        }
    compensation = made.chosen["exposure_compensation"]
    assert compensation == 0.5  # half a stop too little is given back


@pytest.mark.parametrize("screen", ["back", "off", "both"])
def test_the_screen_is_counted_once(screen: str) -> None:
    """A camera that draws just what its sheet says, with one of its screens on: its own number is one."""
    sheet = next(one for one in KIT.cameras if one.id == "limpet-7")
    power = sheet.power
    watts = power.base_w + power.per_gigapixel_s_w * 1920 * 1080 * 25 / 1e9 + power.screen_w[screen]
    base = {
        "kind": "charge", "camera": "limpet-7", "width": 1920, "height": 1080, "frame_rate": 25, "to_percent": 20,
        "air_c": 21, "at": NOON, "screen": screen,
    }  # fmt: skip
    notes = []
    for _ in range(4):
        first = NOTE.validate_python({**base, "minutes": 100})
        minutes = gave_wh(sheet, first, KNOWN, power.battery_wh) / watts * 60.0  # a warm cell gives all it has
        notes.append(NOTE.validate_python({**base, "minutes": round(minutes, 2)}))
    draw = found_in(notes=notes)["draw/limpet-7"].number
    assert draw is not None
    assert draw.value == pytest.approx(1.0, abs=0.02)


def test_each_kind_that_the_planner_uses_says_which_plans_it_is_used_in() -> None:
    assert set(APPLIES) == {kind.id for kind in KINDS if kind.enters}
