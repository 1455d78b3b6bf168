"""Every way in which work can be refused, as one tree.

SteadyTideError
├── BadInput            a file, a request or a form says something impossible
│   ├── BadBrief
│   ├── BadSheet
│   └── BadFile         a file from outside that cannot be read: a track, a table, a clip
├── NoLegalPlan         the camera offers no combination that fits
├── NotFound            there is no such thing
├── Conflict            it has been changed meanwhile
│   ├── Clash           what comes in has a name that is taken; the person has to say which stays
│   └── Overtaken       a newer request of the same editor took its place
├── DeskBusy            more is asked at once than can be worked out
├── StoreUnavailable    the database does not answer
│   ├── StoreBusy       it is asked too much at once, or two changes met
│   ├── StoreFull       its disk is full
│   └── WrongVersion    the data was made by a version that this one cannot go on from
└── DeviceSilent        a device or an outside service does not answer
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any


@dataclass(frozen=True)
class Fault:
    """One complaint: where it is, what is wrong, how to mend it."""

    where: str
    what: str
    mend: str = ""

    def __str__(self) -> str:
        return (
            f"{self.where or 'the whole'}: {self.what}{'.' if not self.what.endswith('.') else ''} {self.mend}".strip()
        )


class SteadyTideError(Exception):
    """The root of all our errors."""


class BadInput(SteadyTideError):
    """What came in cannot be used."""

    subject = "input"

    def __init__(self, *faults: Fault) -> None:
        self.faults = faults
        super().__init__("; ".join(str(fault) for fault in faults))

    def __reduce__(self) -> tuple[type[BadInput], tuple[Fault, ...]]:
        return type(self), self.faults  # so that it comes whole from another process


class BadBrief(BadInput):
    """The brief contradicts itself or names what does not exist."""

    subject = "brief"


class BadSheet(BadInput):
    """The camera sheet is unreadable or contradicts itself."""

    subject = "camera sheet"


class BadFile(BadInput):
    """A file from outside that cannot be read."""

    subject = "file"


class NoLegalPlan(SteadyTideError):
    """No combination of the camera fits. `code` and `facts` say why, words are made of them; `pins` is the smallest
    set that excludes itself."""

    def __init__(self, code: str, facts: dict[str, Any], pins: tuple[str, ...] = ()) -> None:
        self.code = code
        self.facts = facts
        self.pins = pins
        super().__init__(f"{code}: {facts}")

    def __reduce__(self) -> tuple[type[NoLegalPlan], tuple[Any, ...]]:
        return type(self), (self.code, self.facts, self.pins)


class NotFound(SteadyTideError):
    """There is nothing under that name."""


class Conflict(SteadyTideError):
    """Someone else has saved a newer version; `faults` name what stands there now, where that is known."""

    def __init__(self, said: str, *faults: Fault) -> None:
        self.faults = faults
        super().__init__(said)


class Overtaken(Conflict):
    """A newer request of the same editor took the place of this one."""

    def __init__(self) -> None:
        super().__init__("A newer request of yours took the place of this one.")

    def __reduce__(self) -> tuple[type[Overtaken], tuple[()]]:
        return type(self), ()


class DeskBusy(SteadyTideError):
    """More is asked at once than can be worked out, or the service is stopping; asking again in a moment helps."""


class Clash(Conflict):
    """Things of the same name are here already, and differ; `faults` name each."""

    def __init__(self, *faults: Fault) -> None:
        super().__init__("; ".join(str(fault) for fault in faults), *faults)


class StoreUnavailable(SteadyTideError):
    """The database cannot be reached; nothing was changed."""


class StoreBusy(StoreUnavailable):
    """The database is asked too much at once, or two changes met; nothing was changed, and asking again helps."""


class StoreFull(StoreUnavailable):
    """The disk of the database is full; nothing was changed."""


class WrongVersion(StoreUnavailable):
    """The tables were made by a version that this one cannot go on from: a newer one, or one that is too old."""


class DeviceSilent(SteadyTideError):
    """A device or an outside service does not answer, or not sensibly."""
