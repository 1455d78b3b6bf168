"""A simulated crew with known habits: takes, judgements and notes as such people and such gear would bring them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.random import Generator

from steady_tide.core.brief.knowledge import Knowledge
from steady_tide.core.gear.kit import Kit
from steady_tide.core.log.judging import Answer, JudgedRung, judged_of, next_pair
from steady_tide.core.log.ladder import Ladder
from steady_tide.core.log.notes import ChargeNote
from steady_tide.core.log.quantities import SNR
from steady_tide.core.own.kinds.noted import gave_wh, recording_w, screen_w
from steady_tide.core.physics.motion import excursion_deg, left_over_deg
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures, ExposureMeasure, MotionMeasure, NoiseMeasure, SoundMeasure

SLIPS, SLOPE = 0.02, 0.2  # of judging: slips of attention, stops from refused to accepted
DISPLAY_PERCENT = 1.0  # a camera shows its charge in whole per cent
RATED = ("keep", "keep", "maybe", "no")


@dataclass(frozen=True)
class Habits:
    """What is true of a crew. metering: stops by camera and kind of light; shake: degrees a second by person and mount; noise: signal
    to noise by person; draw: times of the sheet's, capacity: watt-hours, by camera; glass: stops; faults: that nobody measures, with
    their chances; scatter: of single takes."""

    metering: Mapping[str, Mapping[str, float]]
    shake: Mapping[str, Mapping[str, float]]
    noise: Mapping[str, float]
    draw: Mapping[str, float]
    capacity: Mapping[str, float]
    glass: Mapping[str, float]
    faults: Sequence[Mapping[str, Any]]
    scatter: Mapping[str, float]


def measured_take(
    plan: ClipPlan,
    hands: str,
    content_stops: float,
    seconds: float,
    habits: Habits,
    rng: Generator,
) -> ClipMeasures:
    """A take as it would be measured.

    plan: that it was filmed by; hands: who held the camera; content_stops: of its shot; seconds: its length; habits: of the crew;
    rng: of this take. Returns its measures.
    """
    scatter, settings = habits.scatter, plan.settings
    habit = habits.metering.get(plan.camera, {}).get(plan.light_kind or "", 0.0)
    median = settings.exposure_compensation + habit + content_stops + rng.normal(0.0, scatter["meter_stops"])
    shake = habits.shake.get(hands, {}).get(plan.mount or "")
    motion = MotionMeasure()
    if shake is not None and plan.settle_s and plan.margin_deg is not None and plan.leak is not None:
        hand = shake * 2.0 ** rng.normal(0.0, scatter["hand"])
        left = float(left_over_deg(excursion_deg(hand, plan.settle_s), plan.margin_deg, plan.leak)) / plan.settle_s
        px = left / settings.frame_rate * settings.width / plan.exposure.field_deg
        motion = MotionMeasure(shake_px=px, shake_deg_s=left)
    noise = plan.exposure.snr * plan.delivered_px / settings.width * 2.0 ** rng.normal(0.0, scatter["snr"])
    return ClipMeasures(
        file="", width=settings.width, height=settings.height, frame_rate=settings.frame_rate, seconds=seconds, codec="hevc",
        bits=settings.bit_depth, bit_rate_mb_s=settings.bit_rate_mb_s, frames_measured=round(seconds * settings.frame_rate),
        exposure=ExposureMeasure(
            median_stops=float(median), white_share=float(abs(rng.normal(0.0, 0.001))), black_share=float(abs(rng.normal(0.0, 0.001)))
        ),
        noise=NoiseMeasure(snr_grey=float(noise), snr_error=float(noise) * 0.04),
        motion=motion,
        sound=SoundMeasure(peak_dbfs=-9.0, loudness_lufs=-23.0, clipped_share=0.0, wind_share=0.0) if plan.sound_wanted else None,
    )  # fmt: skip


def faults_of_take(plan: ClipPlan, place: str, habits: Habits, rng: Generator) -> list[str]:
    """Faults that a person notices and nobody measures. place: of the shoot. Returns them."""
    found = []
    for one in habits.faults:
        here = one.get("mount", plan.mount) == plan.mount and one.get("place", place) == place
        if rng.random() < one["chance"] and here:
            found.append(one["fault"])
    return found


def accepts(who: str, snr: float, habits: Habits, rng: Generator) -> bool:
    """Whether somebody takes a picture of some noise. snr: at delivered pixels."""
    chance = 1.0 / (1.0 + np.exp(-(np.log2(snr) - np.log2(habits.noise[who])) / SLOPE))
    return bool(rng.random() < SLIPS + (1.0 - 2.0 * SLIPS) * chance)


def judge_ladder(
    ladder: Ladder,
    amounts: Mapping[int, float],
    who: str,
    times: int,
    usual: float,
    at: Any,
    habits: Habits,
    rng: Generator,
) -> list[Answer]:
    """What somebody says of a ladder's frames, pair after pair as they are asked. amounts: signal to noise of each rung; usual:
    what is typical; at: when the first one is judged. Returns answers."""
    answers: list[Answer] = []
    judged: list[JudgedRung] = []
    for number in range(times):
        left, right = next_pair(judged, SNR, dict(amounts), usual, 1.0)
        good = tuple(rung for rung in (left, right) if accepts(who, amounts[rung], habits, rng))
        answer = Answer(at=at, who=who, how="pair", left=left, right=right, good=good, blind=True)
        answers.append(answer)
        judged += [
            JudgedRung(who, "", SNR, rung, amounts[rung], accepted, True, number, answer.at, {})
            for rung, accepted in judged_of(answer, ladder.best_first)
        ]
    return answers


def ran_down(note: Mapping[str, Any], kit: Kit, knowledge: Knowledge, habits: Habits, rng: Generator) -> dict[str, Any]:
    """A charge note as such a camera would give it. note: without its minutes; charger: whether what was put in was read. Returns it
    whole."""
    fields = {name: value for name, value in note.items() if name != "charger"}
    sheet = kit.camera(note["camera"])
    assert sheet is not None
    capacity = habits.capacity.get(sheet.id, sheet.power.battery_wh)
    hour = ChargeNote.model_validate({**fields, "minutes": 60.0})
    watts = recording_w(sheet, hour) * habits.draw.get(sheet.id, 1.0) + screen_w(sheet, hour)
    minutes = 60.0
    for _ in range(8):  # the cell warms by how long it runs
        tried = ChargeNote.model_validate({**fields, "minutes": minutes})
        minutes = gave_wh(sheet, tried, knowledge, capacity) / watts * 60.0
    run = (fields.get("from_percent", 100.0) - fields["to_percent"]) / 100.0
    shown = 1.0 + rng.normal(0.0, DISPLAY_PERCENT / 2.0) / (100.0 * run)
    fields["minutes"] = round(minutes * shown, 1)
    if note.get("charger"):
        fields["put_in_wh"] = round(
            capacity * run / knowledge.limits.charger_efficiency * (1.0 + rng.normal(0.0, 0.02)), 2
        )
    return fields
