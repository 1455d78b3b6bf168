"""A take as it is logged, and the faults that it may have."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, model_validator

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.quantities.moments import Moment
from steady_tide.core.rushes.clip_plan import ClipPlan
from steady_tide.core.rushes.measures import ClipMeasures
from steady_tide.core.rushes.verdict import Verdict

Rating = Literal["keep", "maybe", "no"]
FaultCode = Literal[
    "blown", "under", "noise", "colour", "blur", "shake", "stutter", "bands", "tilt", "fog", "focus", "sound", "framing"
]  # fmt: skip
FAULTS: tuple[FaultCode, ...] = (
    "blown", "under", "noise", "colour", "blur", "shake", "stutter", "bands", "tilt", "fog", "focus", "sound", "framing",
)  # fmt: skip
# What a fault is called where it was measured.
_MEASURED: dict[str, FaultCode] = {
    "blown": "blown", "drowned": "under", "noise_stops": "noise", "cast_stops": "colour", "colour_drift_stops": "colour",
    "smear_px": "blur", "shake_share": "shake", "repeated": "stutter", "gaps": "stutter", "flicker": "bands",
    "tilt_deg": "tilt", "haze": "fog", "spots": "fog", "edge_px": "focus", "focus_px": "focus", "clipped": "sound",
    "wind": "sound", "peak_dbfs_under": "sound", "no_sound": "sound",
}  # fmt: skip

DAYS_BEFORE = 1  # a zone and a night may lie between a shoot's day and its first take
LONGEST_NOTE = 2001  # two of a thousand characters, from when there were two fields
Words = Annotated[str, Field(max_length=1000, pattern=r"^[^\x00]*$")]
TakeNote = Annotated[str, Field(max_length=LONGEST_NOTE, pattern=r"^[^\x00]*$")]
Short = Annotated[str, Field(max_length=120, pattern=r"^[^\x00]*$")]
SettingWord = Annotated[str, Field(min_length=1, max_length=60, pattern=r"^[^\x00]*$")]
DialName = Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,59}$")]


def _each_once(value: tuple[FaultCode, ...]) -> tuple[FaultCode, ...]:
    return tuple(dict.fromkeys(value))


class TakeFields(Frozen):
    """What a person says of a take. at: when it began; settings: words by dial, of what was set otherwise than planned;
    seconds: how long it ran."""

    at: Moment
    camera: Short | None = None
    mount: Short | None = None
    hands: Annotated[Short | None, Field(description="who held the camera")] = None
    settings: Annotated[dict[DialName, SettingWord], Field(max_length=60)] = Field(default_factory=dict)
    rating: Rating | None = None
    faults: Annotated[tuple[FaultCode, ...], Field(max_length=len(FAULTS)), AfterValidator(_each_once)] = ()
    note: TakeNote = ""
    seconds: Annotated[float | None, Field(ge=0, le=172_800)] = None

    @model_validator(mode="before")
    @classmethod
    def _one_note(cls, said: Any) -> Any:
        return with_one_note(said) if isinstance(said, dict) else said


def with_one_note(said: Mapping[str, Any]) -> dict[str, Any]:
    """What is said of a take, in today's form: what went wrong stood in a field of its own once, and is part of the note.

    said: of a take, by field. Returns another."""
    kept = {name: value for name, value in said.items() if name != "wrong"}
    if wrong := said.get("wrong"):
        kept["note"] = "\n".join(part for part in (str(wrong), str(said.get("note") or "")) if part)
    return kept


@dataclass(frozen=True)
class TakeSeen:
    """A take with what is known about it, as statistics take it. light: kind of light, see `kind_of_light`; verdict: on its
    clip; rung: its place on a ladder."""

    key: str
    at: datetime
    said: TakeFields
    shot: str | None = None
    scenario: str | None = None
    place: str | None = None
    light: str | None = None
    measures: ClipMeasures | None = None
    plan: ClipPlan | None = None
    verdict: Verdict | None = None
    ladder: str | None = None
    rung: int | None = None

    @property
    def faults(self) -> tuple[FaultCode, ...]:
        """What went wrong: as a person said it, and as measured."""
        return tuple(dict.fromkeys((*self.said.faults, *measured_faults(self.verdict))))


def days_before(at: datetime, day: date | None) -> int | None:
    """By how many days a take comes before its shoot, as a rehearsal does, or what a wrong clock logs. day: of the shoot,
    None where it has none. Returns None where it does not, or by so little that a zone or a night explains it."""
    days = 0 if day is None else (day - at.date()).days
    return days if days > DAYS_BEFORE else None


def as_of(said: Mapping[str, Any], old: Mapping[str, Any], new: Mapping[str, Any]) -> dict[str, Any]:
    """What is said of a take that goes to another shot. said: of it; old, new: camera, mount and hands of both plans. What
    it had of the old plan it has of the new one; what a person said otherwise stays."""
    return {**said, **{name: new.get(name) for name in PLANNED if said.get(name) == old.get(name)}}


PLANNED = ("camera", "mount", "hands")


def measured_faults(verdict: Verdict | None) -> tuple[FaultCode, ...]:
    """What went wrong with a clip, in a take's faults. verdict: on it, None where it was not measured."""
    found: list[FaultCode] = []
    for finding in () if verdict is None else verdict.findings:
        if finding.code == "exposure_stops":
            found.append("under" if finding.amount < 0 else "blown")
        elif finding.code in _MEASURED:
            found.append(_MEASURED[finding.code])
    return tuple(dict.fromkeys(found))
