"""A framing sketch as a drawing of ink on paper, for files that leave the interface."""

from __future__ import annotations

from html import escape

from steady_tide import library
from steady_tide.core.story.sketch import Point, Sketch

WIDE = 320.0


def sketch_svg(sketch: Sketch, figure: str) -> str:
    """Draw a framing. sketch: in numbers; figure: person, thing or ground. Returns SVG of 320 units width, to scale."""
    high = WIDE / sketch.shape
    colours = library.palette().grounds["day"]
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE:g} {high:.1f}">',
        f'<clipPath id="f"><rect width="{WIDE:g}" height="{high:.1f}"/></clipPath><g clip-path="url(#f)">',
        f'<rect width="{WIDE:g}" height="{high:.1f}" fill="{colours["second"]}"/>',
    ]
    if sketch.horizon:
        low = high * 1.5
        parts.append(
            f'<path d="{_path(sketch.horizon, high)}L{WIDE * 1.5:.1f} {low:.1f}L{-WIDE / 2:.1f} {low:.1f}Z" fill="{colours["shoal"]}"/>'
        )
    elif sketch.ground:
        parts.append(f'<rect width="{WIDE:g}" height="{high:.1f}" fill="{colours["shoal"]}"/>')
    thirds = "".join(f"M{WIDE * n / 3:.1f} 0V{high:.1f}M0 {high * n / 3:.1f}H{WIDE:g}" for n in (1, 2))
    parts.append(f'<path d="{thirds}" stroke="{colours["rule"]}" fill="none"/>')
    if len(sketch.shadow) > 2:
        parts.append(
            f'<path d="{_path(sketch.shadow, high)}Z" fill="{colours["note"]}" fill-opacity=".35" stroke="{colours["note"]}" stroke-width="2"/>'
        )
    if len(sketch.foreground) > 1:
        parts.append(
            f'<path d="{_path(sketch.foreground, high)}" fill="none" stroke="{colours["ink"]}" stroke-width="3"/>'
        )
    parts += _figure(sketch, figure, high)
    for crop in sketch.crops:
        left, top, width, tall = crop.box
        colour = colours["ink"] if crop.whole else colours["note"]
        parts.append(
            f'<rect x="{left * WIDE:.1f}" y="{top * high:.1f}" width="{width * WIDE:.1f}" height="{tall * high:.1f}" fill="none" '
            f'stroke="{colour}" stroke-width="2" stroke-dasharray="7 5"/><text x="{(left + width) * WIDE - 4:.1f}" y="{top * high + 18:.1f}" '
            f'font-size="17" text-anchor="end" fill="{colour}" font-family="sans-serif">{escape(crop.shape)}</text>'
        )
    parts.append(
        f'</g><rect x="1" y="1" width="{WIDE - 2:g}" height="{high - 2:.1f}" fill="none" stroke="{colours["ink"]}" stroke-width="2"/></svg>'
    )
    return "".join(parts)


def _path(points: tuple[Point, ...], high: float) -> str:
    return "".join(f"{'L' if n else 'M'}{x * WIDE:.1f} {y * high:.1f}" for n, (x, y) in enumerate(points))


def _figure(sketch: Sketch, figure: str, high: float) -> list[str]:
    left, top, width, tall = sketch.subject
    colours = library.palette().grounds["day"]
    x, y, w, h = left * WIDE, top * high, width * WIDE, tall * high
    look = (
        f'fill="{colours["ink"]}"'
        if sketch.subject_sharp
        else f'fill="none" stroke="{colours["note"]}" stroke-width="2" stroke-dasharray="3 3"'
    )
    if figure != "person":
        return [f'<rect x="{x:.1f}" y="{y:.1f}" width="{w:.1f}" height="{h:.1f}" rx="{min(w, h) * 0.3:.1f}" {look}/>']
    head = h / 8.0  # of a person
    return [
        f'<ellipse cx="{x + w / 2:.1f}" cy="{y + head / 2:.1f}" rx="{head * 0.38:.1f}" ry="{head / 2:.1f}" {look}/>',
        f'<rect x="{x:.1f}" y="{y + 1.2 * head:.1f}" width="{w:.1f}" height="{h - 1.2 * head:.1f}" rx="{w * 0.4:.1f}" {look}/>',
    ]
