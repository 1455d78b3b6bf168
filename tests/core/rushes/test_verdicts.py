"""Verdicts, takes, the day's report, and what is learned for next time."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from steady_tide import library
from steady_tide.core.brief.brief import School
from steady_tide.core.planning.planner import plan as plan_shot
from steady_tide.core.rushes.clip_plan import ClipPlan, clip_plan
from steady_tide.core.rushes.content import content_stops
from steady_tide.core.rushes.measures import (
    CadenceMeasure,
    ClipMeasures,
    ColourMeasure,
    Doubt,
    ExposureMeasure,
    FlickerMeasure,
    MotionMeasure,
    NoiseMeasure,
    SoundMeasure,
)
from steady_tide.core.rushes.next_time import learned_from, light_of, next_time
from steady_tide.core.rushes.report import report
from steady_tide.core.rushes.takes import ABOUT, best_takes
from steady_tide.core.rushes.timeline import Timeline, coarser
from steady_tide.core.rushes.verdict import GRADES, Verdict, verdict
from steady_tide.words import verdicts as words
from tests.briefs import brief, decided

LIMITS = library.knowledge().limits
KIT, KNOWLEDGE = library.demo_kit(), library.knowledge()


def planned_clip(**fields: Any) -> ClipPlan:
    asked = brief(**fields)
    found = decided(**fields)
    sheet = next(one for one in KIT.cameras if one.id == found.camera.id)
    return clip_plan(asked, found, sheet, KNOWLEDGE)


PLAN = planned_clip(pins={"camera": "limpet-7"}, sound={"wanted": True})


def clip(plan: ClipPlan | None = PLAN, **more: Any) -> ClipMeasures:
    settings = (plan or PLAN).settings
    said: dict[str, Any] = {
        "file": "a.mp4", "width": settings.width, "height": settings.height, "frame_rate": settings.frame_rate,
        "seconds": 10.0, "codec": "hevc", "bits": settings.bit_depth, "bit_rate_mb_s": settings.bit_rate_mb_s,
        "frames_measured": 250, "sound": SoundMeasure(peak_dbfs=-9.0, loudness_lufs=-20.0, clipped_share=0.0, wind_share=0.0),
    }  # fmt: skip
    return ClipMeasures.model_validate({**said, **more})


def codes(judged: Verdict) -> list[str]:
    return [finding.code for finding in judged.findings]


def test_what_is_as_planned_is_good_and_says_so() -> None:
    judged = verdict(clip(exposure=ExposureMeasure(median_stops=PLAN.target_stops, white_share=0.001)), PLAN, LIMITS)
    assert judged.kind == "good"
    assert words.verdict_text(judged, planned=True).line == "As planned."


@pytest.mark.parametrize(
    ("more", "code"),
    [
        ({"exposure": ExposureMeasure(white_share=0.3)}, "blown"),
        ({"exposure": ExposureMeasure(black_share=0.5)}, "drowned"),
        ({"exposure": ExposureMeasure(median_stops=PLAN.target_stops + 2.0)}, "exposure_stops"),
        ({"exposure": ExposureMeasure(jumps_at_s=(1.0, 2.0))}, "jumps"),
        ({"motion": MotionMeasure(shake_px=50.0)}, "shake_share"),
        ({"flicker": FlickerMeasure(depth=0.2, hz=4.0)}, "flicker"),
        ({"cadence": CadenceMeasure(repeated_share=0.25)}, "repeated"),
        ({"cadence": CadenceMeasure(gaps_at_s=(1.0,))}, "gaps"),
        ({"frame_rate": PLAN.settings.frame_rate * 1.2}, "set/frame_rate"),
        ({"width": 1280, "height": 720}, "set/width"),
        (
            {"noise": NoiseMeasure(snr_grey=PLAN.exposure.snr * PLAN.settings.width / PLAN.delivered_px / 4)},
            "noise_stops",
        ),
        ({"sound": None}, "no_sound"),
        ({"sound": SoundMeasure(peak_dbfs=0.0, clipped_share=0.05, wind_share=0.0)}, "clipped"),
        ({"sound": SoundMeasure(peak_dbfs=-9.0, clipped_share=0.0, wind_share=0.8)}, "wind"),
        ({"doubts": (Doubt(field="seconds", why="it ends early"),)}, "damaged"),
    ],
)
def test_each_fault_is_found_and_said(more: dict[str, Any], code: str) -> None:
    judged = verdict(clip(**more), PLAN, LIMITS)
    assert code in codes(judged)
    assert judged.kind != "good"
    told = words.verdict_text(judged, planned=True)
    assert all(one.text for one in told.findings)
    assert told.line.endswith(".")
    assert all(a.share >= b.share for a, b in zip(judged.findings, judged.findings[1:], strict=False))


def test_more_of_a_fault_never_makes_a_better_take() -> None:
    before = None
    for white in np.linspace(0.0, 0.6, 25):
        judged = verdict(clip(exposure=ExposureMeasure(white_share=float(white))), PLAN, LIMITS)
        (take,) = best_takes([("a", judged)], {})
        assert before is None or take.cost >= before - 1e-12
        before = take.cost


def test_what_is_doubted_says_nothing() -> None:
    noisy = {"noise": NoiseMeasure(snr_grey=1.0), "doubts": (Doubt(field="noise.snr_grey", why="thin"),)}
    assert "noise_stops" not in codes(verdict(clip(**noisy), PLAN, LIMITS))
    cast = {"colour": ColourMeasure(red_stops=1.0, blue_stops=-1.0)}
    doubted = {**cast, "doubts": (Doubt(field="colour", why="dark"),)}
    assert PLAN.settings.white_balance == "locked"
    assert "cast_stops" in codes(verdict(clip(**cast), PLAN, LIMITS))
    assert "cast_stops" not in codes(verdict(clip(**doubted), PLAN, LIMITS))


def test_every_finding_has_its_words_its_kind_and_its_limits() -> None:
    assert set(words.FINDINGS) == set(words.KINDS)
    for code in words.FINDINGS:
        assert code.startswith("set/") or ABOUT[code] in words.ABOUT
    assert len(GRADES) > 15
    for code, limits_of in GRADES.items():
        noticed, spoils = limits_of(LIMITS)
        assert 0 < noticed < spoils, code


def test_takes_are_ranked_by_what_the_shot_cares_about() -> None:
    shaky = verdict(clip(motion=MotionMeasure(shake_px=PLAN.settings.width * 0.006)), PLAN, LIMITS)
    windy = verdict(clip(sound=SoundMeasure(peak_dbfs=-9.0, clipped_share=0.0, wind_share=0.5)), PLAN, LIMITS)
    fine = verdict(clip(), PLAN, LIMITS)
    takes = [("shaky", shaky), ("windy", windy), ("fine", fine)]
    assert next(take.clip for take in best_takes(takes, {})) == "fine"
    assert [take.clip for take in best_takes(takes, {"sound": 5.0})] == ["fine", "shaky", "windy"]
    assert [take.clip for take in best_takes(takes, {"sound": 0.0})][-1] == "shaky"
    best, *_ = best_takes(takes, {})
    assert words.take_words(best, 0, 3).startswith("Best for ")


def test_a_day_is_reported_with_its_dearest_fault_first() -> None:
    entries = []
    for n in range(6):
        one = clip(exposure=ExposureMeasure(median_stops=0.0, white_share=0.2 if n < 4 else 0.0))
        entries.append((str(n), one, verdict(one, PLAN, LIMITS), PLAN))
    one = clip(flicker=FlickerMeasure(depth=0.03))
    entries.append(("lamp", one, verdict(one, PLAN, LIMITS), PLAN))
    found = report(entries, LIMITS)
    assert found.clips == 7
    assert found.faults[0].code == "blown"
    assert found.faults[0].clips == 4
    assert found.first is not None
    assert found.first.dial == "nd"
    told = words.report_text(found, {"limpet-7": "Limpet 7"})
    assert "Limpet 7" in told.first
    assert "7 clips" in told.line
    assert words.report_text(report([], LIMITS), {}).line == "No clip is measured yet."


def flat_line(medians: list[float]) -> Timeline:
    count = len(medians)
    return Timeline(
        at_s=tuple(float(n) for n in range(count)), low_stops=tuple(m - 1 for m in medians), median_stops=tuple(medians),
        high_stops=tuple(m + 1 for m in medians), white_share=(0.0,) * count, black_share=(0.0,) * count,
        move_px=(1.0,) * count,
    )  # fmt: skip


def filmed(plan: ClipPlan, ev100: float, content: float = 0.0, **more: Any) -> tuple[ClipMeasures, Timeline, ClipPlan]:
    """A take in a light that is known: the camera holds it within its reach, and not beyond."""
    low, high = plan.exposure.reach_ev100
    metered = min(max(ev100, low + plan.target_stops), high + plan.target_stops)
    median = (plan.target_stops + (ev100 - metered)) + content
    measured = clip(plan, exposure=ExposureMeasure(median_stops=median, white_share=0.0), **more)
    return measured, flat_line([median] * 8), plan


@pytest.mark.parametrize("ev", [13.0, 14.0, 15.5, 17.0])
def test_light_is_told_where_exposure_was_fixed(ev: float) -> None:
    plan = planned_clip(pins={"camera": "limpet-7", "iso_floor": 100, "iso_ceiling": 100, "shutter_s": 1 / 50})
    found, told = light_of([filmed(plan, ev)], LIMITS, 0.0)
    assert told
    assert found is not None
    assert found[0] == pytest.approx(ev, abs=0.1)


def test_light_beyond_the_reach_is_told_and_within_it_only_held() -> None:
    plan = planned_clip(pins={"camera": "limpet-7", "iso_floor": 100, "iso_ceiling": 1600, "shutter_s": 1 / 50})
    low, high = plan.exposure.reach_ev100
    assert high - low > 2
    inside, told = light_of([filmed(plan, (low + high) / 2)], LIMITS, 0.0)
    assert not told
    assert inside is not None
    above, told = light_of([filmed(plan, high + plan.target_stops + 2.0)], LIMITS, 0.0)
    assert told
    assert above is not None
    assert above[1] == pytest.approx(high + plan.target_stops + 2.0, abs=0.1)
    below, told = light_of([filmed(plan, low + plan.target_stops - 1.5)], LIMITS, 0.0)
    assert told
    assert below is not None
    assert below[0] == pytest.approx(low + plan.target_stops - 1.5, abs=0.1)


def test_takes_of_one_shot_tell_what_fills_it() -> None:
    plan = planned_clip(pins={"camera": "limpet-7", "iso_floor": 100, "iso_ceiling": 100, "shutter_s": 1 / 50})
    middle = sum(plan.exposure.ev100) / 2
    for content in (-0.6, 0.5):
        few = [filmed(plan, middle, content)[::2] for _ in range(1)]
        many = [filmed(plan, middle + apart, content)[::2] for apart in (0.1, -0.2, 0.0, 0.1, 2.5)]
        one, all_of_them = content_stops(few, LIMITS), content_stops(many, LIMITS)
        assert abs(all_of_them - content) < abs(one - content)
        # Light that was judged a little wrong would look the same: half of it is believed.
        assert all_of_them == pytest.approx(content, abs=0.3)
    dark = plan.model_copy(update={"own_contrast": True})
    assert content_stops([filmed(dark, middle, -5.0)[::2]], LIMITS) == pytest.approx(-5.0, abs=0.3)


def replan(asked: Any, kit: Any, knowledge: Any, crew: School, camera: str) -> Any:
    return plan_shot(asked, kit, knowledge, crew=crew, only=camera, schools=False)


def test_next_time_is_the_plan_of_the_light_that_there_was() -> None:
    fields: dict[str, Any] = {
        "pins": {"camera": "limpet-7"},
        "camera_move": {"mount": "tripod"},
        "sound": {"wanted": False},
    }
    asked, plan = brief(**fields), planned_clip(**fields)
    takes = [filmed(plan, 17.0), filmed(plan, 17.2)]
    learned = learned_from(takes, takes, asked, KIT, KNOWLEDGE, School())
    assert learned.told
    assert learned.ev100 is not None
    found = next_time(learned, plan, asked, KIT, KNOWLEDGE, School(), replan)
    assert found.was_stops is not None
    # By the planner's own account the settings of then lose more in that light.
    direct = brief(**{**fields, "light": {"kind": "meter", "ev100": list(learned.ev100)}})
    assert found.now_stops < found.was_stops
    assert found.now_stops <= replan(direct, KIT, KNOWLEDGE, School(), "limpet-7").given_up_stops + 0.15
    assert found.changes
    told = words.next_time_text(found)
    assert "The light was EV" in told.text
    assert all(" instead of " in change for change in told.changes)


def test_as_planned_nothing_is_set_otherwise() -> None:
    fields: dict[str, Any] = {
        "pins": {"camera": "limpet-7"},
        "camera_move": {"mount": "tripod"},
        "sound": {"wanted": False},
    }
    asked, plan = brief(**fields), planned_clip(**fields)
    low, high = plan.exposure.ev100
    takes = [filmed(plan, ev) for ev in (low, (low + high) / 2, high)]
    learned = learned_from(takes, takes, asked, KIT, KNOWLEDGE, School())
    found = next_time(learned, plan, asked, KIT, KNOWLEDGE, School(), replan)
    assert found.was_stops is not None
    assert found.was_stops - found.now_stops == pytest.approx(0.0, abs=0.05)


@pytest.mark.parametrize("times", [0.5, 2.0])
def test_a_hand_is_told_by_what_steadying_lets_through(times: float) -> None:
    fields: dict[str, Any] = {
        "pins": {"camera": "limpet-7", "stabilisation": "off"},
        "camera_move": {"mount": "walking"},
    }
    asked, plan = brief(**fields), planned_clip(**fields)
    usual = KNOWLEDGE.mounts["walking"].shake_deg_s
    takes = [filmed(plan, 14.5, motion=MotionMeasure(shake_px=9.0, shake_deg_s=times * usual)) for _ in range(3)]
    learned = learned_from(takes, takes, asked, KIT, KNOWLEDGE, School())
    assert learned.shake_times == pytest.approx(times, rel=0.01)
    found = next_time(learned, plan, asked, KIT, KNOWLEDGE, School(), replan)
    assert ("as shaky" in words.learned_words(learned)) == (times > 1)
    assert found.now_stops >= 0.0


def test_a_meter_that_gives_more_than_its_sheet_says_is_found_from_three_clips() -> None:
    fields: dict[str, Any] = {"pins": {"camera": "limpet-7", "iso_floor": 100, "iso_ceiling": 1600}}
    asked, plan = brief(**fields), planned_clip(**fields)
    takes = [filmed(plan, 14.5, content=0.4) for _ in range(3)]
    assert learned_from(takes[:2], takes[:2], asked, KIT, KNOWLEDGE, School()).habit_stops is None
    habit = learned_from(takes, takes, asked, KIT, KNOWLEDGE, School()).habit_stops
    assert habit == pytest.approx(0.4, abs=0.05)


def test_a_timeline_in_fewer_steps_keeps_its_extremes() -> None:
    rng = np.random.default_rng(3)
    line = flat_line([float(value) for value in rng.normal(0, 1, 100)])
    few = coarser(line, 20)
    assert len(few.at_s) == 20
    assert max(few.high_stops) == max(line.high_stops)
    assert min(few.low_stops) == min(line.low_stops)
    assert coarser(line, 200) is line
