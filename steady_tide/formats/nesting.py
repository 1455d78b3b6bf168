"""How deep JSON is nested, told before anything reads it: readers go down by calling themselves, and end where Python does."""

from __future__ import annotations

import re

DEEPEST = 60  # what we write goes some twelve levels down

_SIGNS = re.compile(rb'\\.|["\[\]{}]', re.DOTALL)


class Nesting:
    """The nesting of a text that comes in parts."""

    def __init__(self) -> None:
        self._depth, self._in_text, self._left = 0, False, b""

    def deepest_of(self, part: bytes) -> int:
        """How deep the next part leads. part: any bytes, in their order. Takes time in proportion to them."""
        part = self._left + part
        held = (len(part) - len(part.rstrip(b"\\"))) % 2  # what it escapes comes with the next part
        part, self._left = part[: len(part) - held], part[len(part) - held :]
        deepest = self._depth
        for sign in _SIGNS.findall(part):
            if sign == b'"':
                self._in_text = not self._in_text
            elif self._in_text or sign[:1] == b"\\":
                continue
            elif sign in (b"[", b"{"):
                self._depth += 1
                deepest = max(deepest, self._depth)
            else:
                self._depth -= 1
        return deepest


def is_too_deep(data: bytes) -> bool:
    """Whether a text as JSON is nested deeper than anything of ours. data: UTF-8."""
    return Nesting().deepest_of(data) > DEEPEST
