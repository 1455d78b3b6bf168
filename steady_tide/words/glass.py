"""When glass is changed, in words."""

from __future__ import annotations

from collections.abc import Mapping

from steady_tide.core.planning.glass_times import GlassSpan

_NONE_SERVES = {"too_dark": "too dark", "too_bright": "too bright", "between": "between two densities"}


class SpanText(GlassSpan):
    """A span of the day with the glass that serves it, named; or why none does."""

    name: str


def span_words(span: GlassSpan, names: Mapping[str, str]) -> str:
    """The glass of a span, or why none serves. names: of glass by id. Returns words."""
    if span.why_not is not None:
        return _NONE_SERVES[span.why_not]
    return " + ".join(names.get(piece, piece) for piece in span.nd or ()) or "no filter"


def span_text(span: GlassSpan, names: Mapping[str, str]) -> SpanText:
    """A span with its words."""
    return SpanText(**span.model_dump(), name=span_words(span, names))
