"""The light of a day as a drawing: the tide of light with its windows, for print and for other papers."""

from __future__ import annotations

from datetime import datetime, timedelta, tzinfo
from xml.sax.saxutils import escape

from steady_tide import library
from steady_tide.core.light.day import DayOfLight

WIDTH, HEIGHT, LEFT, TOP, BASE = 1000, 300, 44, 20, 262
LOWEST, HIGHEST = -8.0, 17.0
SHOWN = {"low_sun": "low sun", "civil": "twilight", "harsh": "harsh"}


def write_day_svg(day: DayOfLight, zone: tzinfo, title: str) -> str:
    """Draw a day. day: the light; zone: of the place; title: above the drawing. Returns SVG text."""
    span = float(day.seconds[-1])
    colours = library.palette().grounds["day"]

    def x(seconds: float) -> float:
        return LEFT + (WIDTH - LEFT - 10) * seconds / span

    def y(ev: float) -> float:
        share = (min(max(ev, LOWEST), HIGHEST) - LOWEST) / (HIGHEST - LOWEST)
        return BASE - (BASE - TOP) * share

    def since(moment: datetime) -> float:
        return (moment - day.start).total_seconds()

    every = max(1, len(day.seconds) // 288)
    points = [
        f"{x(s):.1f},{y(ev):.1f}"
        for s, ev in zip(day.seconds[::every].tolist(), day.level_ev100[::every].tolist(), strict=True)
    ]
    hours = []
    for hour in range(int(span // 3600) + 1):
        moment = (day.start + timedelta(hours=hour)).astimezone(zone)
        hours.append(
            f'<path d="M{x(hour * 3600):.1f} {BASE}v5" stroke="{colours["ink"]}"/>'
            f'<text x="{x(hour * 3600):.1f}" y="{BASE + 18}" text-anchor="middle">{moment:%H}</text>'
        )
    levels = "".join(
        f'<path d="M{LEFT} {y(ev):.1f}H{WIDTH - 10}" stroke="{colours["hair"]}"/>'
        f'<text x="{LEFT - 8}" y="{y(ev) + 4:.1f}" text-anchor="end">{str(ev).replace("-", chr(0x2212))}</text>'
        for ev in range(-8, 17, 4)
    )
    windows = "".join(
        f'<path d="M{x(since(w.start)):.1f} {BASE - 14}v6h{x(since(w.end)) - x(since(w.start)):.1f}v-6" fill="none" stroke="{colours["sun"]}"/>'
        f'<text x="{(x(since(w.start)) + x(since(w.end))) / 2:.1f}" y="{BASE - (32 if w.kind == "civil" else 18)}" text-anchor="middle" font-style="italic">{SHOWN[w.kind]}</text>'
        for w in day.windows
        if w.kind in SHOWN
    )
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH} {HEIGHT}" font-family="sans-serif" font-size="11" fill="{colours["ink"]}">'
        f"<title>{escape(title)}</title>"
        f'<rect width="{WIDTH}" height="{HEIGHT}" fill="{colours["ground"]}"/><text x="{LEFT}" y="13">{escape(title)}: EV at ISO 100</text>'
        f'{levels}<polygon points="{LEFT},{BASE} {" ".join(points)} {WIDTH - 10},{BASE}" fill="{colours["mid"]}"/>'
        f'<polyline points="{" ".join(points)}" fill="none" stroke="{colours["ink"]}" stroke-width="1.4"/>'
        f'{windows}<path d="M{LEFT} {BASE}H{WIDTH - 10}" stroke="{colours["ink"]}"/>{"".join(hours)}</svg>\n'
    )
