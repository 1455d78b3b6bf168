"""The word to stop is never lost, whenever it comes."""

from __future__ import annotations

import signal
import weakref
from collections.abc import Iterator
from types import SimpleNamespace

import pytest

from steady_tide.launch.__main__ import kept_alive
from steady_tide.launch.stopping import Stopping
from tests.waiting import until


@pytest.fixture
def stopping() -> Iterator[Stopping]:
    before = signal.getsignal(signal.SIGINT), signal.getsignal(signal.SIGTERM)
    ours = Stopping()
    ours.listen()
    yield ours
    signal.signal(signal.SIGINT, before[0])
    signal.signal(signal.SIGTERM, before[1])


class Thing:
    """Something a weak reference can point at."""


@pytest.mark.filterwarnings("ignore::pytest.PytestUnraisableExceptionWarning")
def test_a_word_that_falls_into_a_weak_references_callback_is_read_at_the_next_step(stopping: Stopping) -> None:
    thing = Thing()
    reference = weakref.ref(thing, lambda _: signal.raise_signal(signal.SIGINT))
    del thing  # Python swallows what is raised here
    assert reference() is None
    with pytest.raises(KeyboardInterrupt):
        stopping.check()


@pytest.mark.parametrize("how", [signal.SIGINT, signal.SIGTERM])
def test_before_the_server_runs_the_word_breaks_into_the_work_once(stopping: Stopping, how: signal.Signals) -> None:
    stopping.check()
    with pytest.raises(KeyboardInterrupt):
        signal.raise_signal(how)
    signal.raise_signal(how)  # the second does not break into the orderly stop


def test_a_server_is_told_and_nothing_is_raised(stopping: Stopping) -> None:
    server = SimpleNamespace(should_exit=False)
    stopping.hand_to(server)
    assert not server.should_exit
    signal.raise_signal(signal.SIGINT)
    assert server.should_exit


def test_a_server_made_after_a_lost_word_does_not_begin(stopping: Stopping) -> None:
    stopping.told = True
    server = SimpleNamespace(should_exit=False)
    stopping.hand_to(server)
    assert server.should_exit


def test_the_watcher_of_the_database_outlives_any_error(capsys: pytest.CaptureFixture[str]) -> None:
    """A right that was taken, a full disk: said once, and tried again until it goes."""

    class Flaky:
        tries = 0

        def revive(self) -> bool:
            self.tries += 1
            if self.tries <= 3:
                raise PermissionError(13, "Permission denied")
            return self.tries == 4

    flaky = Flaky()
    with kept_alive(flaky):  # type: ignore[arg-type]
        until(lambda: flaky.tries >= 5, 20)
    told = capsys.readouterr().err
    assert told.count("Permission denied") == 1
    assert "it was started again" in told
