"""Which take of a shot is the best one, by what the shot cares about."""

from __future__ import annotations

from collections.abc import Sequence

from steady_tide.core.quantities.frozen import Frozen
from steady_tide.core.rushes.verdict import Verdict

# What each kind of finding is about.
ABOUT = {
    "blown": "exposure", "drowned": "exposure", "exposure_stops": "exposure", "drift_stops": "exposure", "jumps": "exposure",
    "noise_stops": "noise", "smear_px": "sharpness", "edge_px": "focus", "focus_px": "focus", "shake_share": "steadiness",
    "tilt_deg": "steadiness", "flicker": "light", "repeated": "cadence", "gaps": "cadence", "cast_stops": "colour",
    "colour_drift_stops": "colour", "haze": "glass", "spots": "glass", "clipped": "sound", "wind": "sound",
    "peak_dbfs_under": "sound", "no_sound": "sound", "damaged": "file",
}  # fmt: skip
SET = "settings"


class Take(Frozen):
    """A take in its place among others. cost: what came out otherwise, each as a share of what spoils a take and weighed by
    what the shot cares about; about: what costs it the most, None where nothing does; ahead: of the next one, and in
    what."""

    clip: str
    cost: float
    about: str | None
    ahead: float | None = None
    ahead_in: str | None = None


def about(code: str) -> str:
    """What a finding is about."""
    return ABOUT.get(code, SET)


def best_takes(takes: Sequence[tuple[str, Verdict]], cares: dict[str, float]) -> tuple[Take, ...]:
    """Rank the takes of a shot.

    takes: keys of clips with their verdicts; cares: how much each kind of finding matters to the shot, 1 where it is not
    named. Returns them, the best first; equals keep their order.
    """
    costs = {clip: _costs(verdict, cares) for clip, verdict in takes}
    order = sorted(costs, key=lambda clip: sum(costs[clip].values()))
    found = []
    for place, clip in enumerate(order):
        mine = costs[clip]
        total = sum(mine.values())
        ahead, ahead_in = None, None
        if place + 1 < len(order):
            theirs = costs[order[place + 1]]
            apart = {kind: theirs.get(kind, 0.0) - mine.get(kind, 0.0) for kind in {*mine, *theirs}}
            ahead = sum(theirs.values()) - total
            if ahead > 0.0:
                ahead_in = max(apart, key=lambda kind: (apart[kind], kind))
        found.append(
            Take(
                clip=clip,
                cost=total,
                about=max(mine, key=lambda kind: (mine[kind], kind)) if mine else None,
                ahead=ahead,
                ahead_in=ahead_in,
            )
        )
    return tuple(found)


def _costs(verdict: Verdict, cares: dict[str, float]) -> dict[str, float]:
    """The dearest finding of each kind: they mostly have one cause."""
    found: dict[str, float] = {}
    for finding in verdict.findings:
        kind = about(finding.code)
        found[kind] = max(found.get(kind, 0.0), cares.get(kind, 1.0) * finding.share)
    return found
