"""Long searches: a few at a time, each in a thread of its own; whoever comes then waits, and is told."""

from __future__ import annotations

from collections.abc import Callable
from threading import Condition, Event

AT_ONCE = 1  # one takes all the cores there are
MOST_WAITING = 20
LOOKS_EVERY_S = 0.2


class Searches:
    """The line before the long searches."""

    def __init__(self, at_once: int = AT_ONCE, most_waiting: int = MOST_WAITING) -> None:
        self._at_once = at_once
        self._most_waiting = most_waiting
        self._running: list[Event] = []
        self._waiting: list[Event] = []
        self._moved = Condition()

    def take(self, stopped: Event, tell: Callable[[int], None]) -> bool:
        """Wait for one's turn.

        stopped: of the search; whoever is stopped while he waits goes; tell: hears how many are before. Returns
        whether it is the turn now; False where it was stopped, or too many wait. After a True, `leave` must follow.
        """
        with self._moved:
            if len(self._waiting) >= self._most_waiting:
                return False
            self._waiting.append(stopped)
            told = -1
            try:
                while not stopped.is_set():
                    before = self._waiting.index(stopped) + len(self._running)
                    if self._waiting[0] is stopped and len(self._running) < self._at_once:
                        self._running.append(stopped)
                        return True
                    if before != told:
                        tell(before)
                        told = before
                    self._moved.wait(LOOKS_EVERY_S)
                return False
            finally:
                self._waiting.remove(stopped)
                self._moved.notify_all()

    def leave(self, stopped: Event) -> None:
        """Make room for the next."""
        with self._moved:
            self._running.remove(stopped)
            self._moved.notify_all()
