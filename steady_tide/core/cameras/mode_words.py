"""What stands in a cell of a manual's mode table: sizes, rates, views, stabilisation, codecs, depths, bit rates, colours."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

from steady_tide.core.quantities.frame_rates import written_rate

# What a range such as 24 to 60 holds.
USUAL_RATES = (24.0, 25.0, 30.0, 48.0, 50.0, 60.0, 100.0, 120.0, 200.0, 240.0)
# Widths that a name stands for, at 16:9; other names are rounded up to the next 16.
_NAMED_WIDTHS = {"8": 7680, "6": 6144, "5": 5120, "4": 3840, "3": 3072, "2": 2048}
_LINES = {4320: 7680, 2880: 5120, 2160: 3840, 1440: 2560, 1080: 1920, 960: 1280, 720: 1280, 480: 848}

# Every repetition is bounded and no two that touch can share what they take, so that no text takes long.
_SIZE = re.compile(r"(?<!\d)(\d{3,5})\s{0,4}[x×*✕]\s{0,4}(\d{3,5})(?!\d)", re.I)
_K = re.compile(r"(?<![\w.])(c|dci[\s-]?)?(\d(?:[.,]\d)?)\s?k(?![a-z])", re.I)
_P = re.compile(r"(?<!\d)(4320|2880|2160|1440|1080|960|720|480)\s?[pi]?(?!\d)", re.I)
_SHAPE = re.compile(r"(?<!\d)(\d{1,2}(?:\.\d{1,6})?)\s?[:∶]\s?(\d{1,2}(?:\.\d{1,6})?)(?!\d)")
_SHAPE_WORDS = {
    "wide screen": (16, 9),
    "widescreen": (16, 9),
    "square": (1, 1),
    "upright": (9, 16),
    "vertical": (9, 16),
}
_RATE_AFTER = re.compile(
    r"((?:\d{1,6}(?:\.\d{1,6})?(?:\s{0,4}(?:p|fps))?\s{0,4}(?:/|,|;|\||&|\+|or|and|to|[-–])\s{0,4}){0,30}\d{1,6}(?:\.\d{1,6})?)\s{0,4}(?:fps|frames?(?:\s{0,4}(?:/|per)\s{0,4}s(?:ec(?:ond)?)?)?|hz)(?![a-z])",
    re.I,
)
_RANGE = re.compile(r"(\d{1,6}(?:\.\d{1,6})?)\s{0,4}(?:-|–|to|\.\.\.?|…)\s{0,4}(\d{1,6}(?:\.\d{1,6})?)", re.I)
_NUMBER = re.compile(r"(?<![\w.])(\d{1,6}(?:\.\d{1,6})?)(?![\d.]|\s{0,4}(?:bit|mb|k\b))", re.I)
_BIT_RATE = re.compile(r"(\d{1,6}(?:\.\d{1,6})?)\s{0,4}(?:mbps|mbit(?:s)?/?s?|mb/s|mb/sec|m\b)", re.I)
_DEPTH = re.compile(
    r"(?<!\d)((?:8|10|12)(?:\s{0,4}(?:/|,|or|and|&|\+)\s{0,4}(?:8|10|12)){0,6})\s{0,4}-?\s{0,4}bits?(?!/|\s{0,4}rate|s)",
    re.I,
)

YES = {"y", "yes", "on", "x", "✓", "✔", "•", "●", "○", "o", "√", "true", "available", "ok", "1"}
NO = {"", "n", "no", "-", "–", "—", "n/a", "na", "none", "false", "✗", "✘", "×", "0", "not available"}

_VIEWS: tuple[tuple[str, str], ...] = (
    (r"(?:ultra|extra|super|very)[\s_-]{0,4}wide|fish[\s-]?eye", "fisheye"),
    (
        r"(?:(?:recti)?linear|straight(?:[\s-]?line[ds])?)[\s_,+&-]{0,4}(?:and\s{1,4})?(?:level(?:led|ed)?|horizon(?:tal)?)[\w\s-]{0,40}",
        "rectilinear_level",
    ),
    (r"linear|straight(?:[\s-]?line[ds])?|rectilinear", "rectilinear"),
    (r"wide(?!\s{0,4}(?:range|screen))", "wide"),
    (r"tight|narrow|tele", "tight"),
)
_LEVELS: tuple[tuple[str, str], ...] = (
    (r"strongest|highest", "strongest"),
    (r"strong|high|enhanced|plus", "strong"),
    (r"standard|normal|\bon\b|yes|low|✓|✔|•|●", "standard"),
    (r"\boff\b|none|\bno\b", "off"),
)
_CODECS: tuple[tuple[str, str], ...] = (
    (r"h\.?\s?265|hevc|\bav1\b|efficient", "efficient"),
    (r"h\.?\s?264|\bavc\b|older", "older"),
    (r"intra|all-?i\b|mezzanine", "mezzanine"),
)
_PROFILES: tuple[tuple[str, str], ...] = (
    (r"\blog\b", "log"),
    (r"\bflat\b", "flat"),
    (r"\bvivid\b", "vivid"),
    (r"\bnatural\b|\bstandard\b|\bnormal\b", "natural"),
)
# In the order in which menus have them; the patterns above stand in the order in which they must be tried.
_MENU_ORDER = (
    "fisheye", "wide", "rectilinear", "rectilinear_level", "tight", "off", "standard", "strong", "strongest",
    "efficient", "older", "mezzanine", "vivid", "natural", "flat", "log",
)  # fmt: skip
_LEFT_OUT = re.compile(r"\b(?:but|except|without|not)\b")
_ALL = {"all", "any", "every", "all views", "all modes", "all levels"}


class Unread(Exception):
    """A cell that says nothing that is known."""

    def __init__(self, what: str, mend: str) -> None:
        self.what, self.mend = what, mend
        super().__init__(what)


def size_in(text: str, shape: tuple[float, float] | None = None) -> tuple[int, int, bool] | None:
    """Find a frame size.

    text: of a cell; shape: of the frame, where another cell says it. Returns width, height in pixels and whether
    they were guessed from a name; None where there is none.
    """
    exact = _SIZE.search(text)
    if exact:
        return int(exact[1]), int(exact[2]), False
    wide, high = shape_in(text) or shape or (16, 9)
    named = _K.search(text)
    if named:
        number = named[2].replace(",", ".").removesuffix(".0")
        if float(number) == 0.0:
            return None
        if named[1]:
            return round(1024 * float(number)), _even(1024 * float(number) * 9 / 17 * 0.996), True
        width = _NAMED_WIDTHS.get(number) or -(-round(1000 * float(number)) // 16) * 16
        return width, _even(width * high / wide), True
    lines = _P.search(text)
    if lines:
        height = int(lines[1])
        width = _LINES[height]
        if abs(wide / high - 16 / 9) < 0.02:
            return width, height, height not in (2160, 1080, 720, 1440)
        return _even(height * wide / high), height, True
    return None


def _even(value: float) -> int:
    return (
        int(value / 4 + 0.5) * 4 if abs(value / 4 - round(value / 4)) > 1e-6 and value % 4 > 2 else int(value // 4) * 4
    )


def shape_in(text: str) -> tuple[float, float] | None:
    """Find a frame's shape. text: of a cell. Returns such as (16, 9), or None."""
    found = _SHAPE.search(text)
    if found and float(found[2]) > 0 and 0.3 < float(found[1]) / float(found[2]) < 4:
        return float(found[1]), float(found[2])
    return next((shape for word, shape in _SHAPE_WORDS.items() if word in text.lower()), None)


def rates_in(text: str, alone: bool = True) -> tuple[tuple[float, ...], bool]:
    """Find frame rates.

    text: of a cell; alone: whether the cell holds nothing else, so that bare numbers are rates.
    Returns the rates, rising, and whether a range had to be filled in.
    """
    plain = re.sub(r"(?<=\d),(?=97\b|94\b|98\b|976\b|88\b)", ".", text)
    found: set[float] = set()
    guessed = False
    parts = [plain] if alone else [match[1] for match in _RATE_AFTER.finditer(plain)]
    if not alone:
        parts += re.findall(
            r"(?:\d(?:\.\d)?k|\d{3,4}p)[\s@]{0,4}(\d{2,3}(?:\.\d{1,6})?)(?!\d|\s{0,4}[x×:.])", plain, re.I
        )
    for part in parts:
        for ends in _RANGE.finditer(part):
            low, high = written_rate(float(ends[1])), written_rate(float(ends[2]))
            if low < high <= 1000:
                guessed = True
                found.update(rate for rate in (low, high, *USUAL_RATES) if low <= rate <= high)
        found.update(
            float(number)
            for number in _NUMBER.findall(re.sub(r"(?<=\d)\s{0,4}(?:p|i|fps|hz)\b", " ", part, flags=re.I))
        )
    return tuple(sorted({written_rate(rate) for rate in found if 1 <= rate <= 2000})), guessed


def words_in(text: str, kind: str) -> tuple[str, ...]:
    """Find views, levels of stabilisation, codecs or profiles.

    text: of a cell; kind: views, stabilisation, codecs or profiles. Returns ids in the order of the vocabulary;
    ("all",) where the cell says all. Raises Unread where the cell says something else.
    """
    known = _known(kind)
    plain = text.strip().lower()
    if plain in _ALL:
        return ("all",)
    found = _taken(plain, known)
    if found and _LEFT_OUT.search(plain):
        raise Unread(f"“{text.strip()}” says what is left out of {kind}", "Write down what there is.")
    if found or plain in NO:
        return found
    raise Unread(
        f"“{text.strip()}” says nothing known of {kind}", f"Use words such as {', '.join(word for _, word in known)}."
    )


def not_read(text: str, kind: str) -> tuple[str, ...]:
    """What a cell says beside the words that are known. text, kind: as for `words_in`. Returns it part by part."""
    known = _known(kind)
    parts = (part.strip() for part in re.split(r"[,;/|+&]|\band\b|\bor\b|\n", text))
    return tuple(
        part[:60]
        for part in parts
        if part
        and any(c.isalpha() for c in part)
        and part.lower() not in (*NO, *_ALL)
        and not _taken(part.lower(), known)
    )


def _known(kind: str) -> Sequence[tuple[str, str]]:
    return {"views": _VIEWS, "stabilisation": _LEVELS, "codecs": _CODECS, "profiles": _PROFILES}[kind]


def _taken(plain: str, known: Iterable[tuple[str, str]]) -> tuple[str, ...]:
    found = []
    for pattern, word in known:
        plain, count = re.subn(pattern, " ", plain)
        if count:
            found.append(word)
    return tuple(sorted(found, key=_MENU_ORDER.index))


def loose_words(text: str, kind: str) -> tuple[str, ...]:
    """The same in a line of text that says other things, too; only what is plain is taken."""
    plain = text.lower()
    if kind == "stabilisation":
        said = re.search(
            r"(?:stabili[sz]\w{0,8}|steadying)[:\s]{0,4}([\w\s/,+-]{0,80})|([\w\s/,+-]{0,80}?)\s(?:stabili[sz]\w{0,8}|steadying)",
            plain,
        )
        return _taken((said[1] or said[2] or "") if said else "", _LEVELS)
    return _taken(plain, {"views": _VIEWS, "codecs": _CODECS, "profiles": _PROFILES[:3]}[kind])


def bit_rates_in(text: str, alone: bool) -> tuple[float, ...]:
    """Find bit rates. text: of a cell; alone: whether bare numbers count. Returns Mb/s, rising."""
    plain = text.replace("\u202f", " ")
    found = [float(number) for number in _BIT_RATE.findall(plain)]
    if alone and not found:
        found = [float(number) for number in _NUMBER.findall(plain)]
    elif alone:
        found += [float(n) for n in re.findall(r"(\d{1,6}(?:\.\d{1,6})?)\s{0,4}(?=/|,|;)", _SIZE.sub(" ", plain))]
    return tuple(sorted({value for value in found if 0 < value <= 10_000}))


def depths_in(text: str, alone: bool) -> tuple[int, ...]:
    """Find bit depths. text: of a cell; alone: whether bare numbers count. Returns them, rising."""
    said = " ".join(_DEPTH.findall(text)) or (text if alone else "")
    return tuple(sorted({int(number) for number in re.findall(r"(?<!\d)(8|10|12)(?!\d)", said)}))


def says_yes(text: str) -> bool | None:
    """Whether a cell says yes or no; None where it says something else. text: of a cell."""
    plain = text.strip().lower()
    return True if plain in YES else False if plain in NO else None
