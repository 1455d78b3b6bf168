"""Being told to stop, at any moment from the first step to the last.

Python drops an exception that a signal raises inside a destructor or a weak reference's callback. So the
word is written down first and raised second: whoever comes to the next step reads it there.
"""

from __future__ import annotations

import signal
from types import FrameType
from typing import Protocol


class Stoppable(Protocol):
    """A running server that looks at a flag of its own."""

    should_exit: bool


class Stopping:
    """Whether somebody has asked us to stop (Ctrl-C or SIGTERM)."""

    def __init__(self) -> None:
        """Nobody has, yet."""
        self.told = False
        self._server: Stoppable | None = None

    def listen(self) -> None:
        """Take the two signals over, for the main thread of this process."""
        signal.signal(signal.SIGINT, self._hear)
        signal.signal(signal.SIGTERM, self._hear)

    def check(self) -> None:
        """Between two steps. Raises KeyboardInterrupt where we have been told to stop."""
        if self.told:
            raise KeyboardInterrupt

    def hand_to(self, server: Stoppable) -> None:
        """From now on nothing is raised: the server is told instead, at once if the word came before."""
        self._server = server
        server.should_exit = self.told

    def _hear(self, _number: int, _frame: FrameType | None) -> None:
        again, self.told = self.told, True
        if self._server is not None:
            self._server.should_exit = True
        elif not again:  # a second word must not break into the orderly stop that the first began
            raise KeyboardInterrupt
