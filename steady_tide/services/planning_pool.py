"""Where planning is done: in processes of their own, by turn, so that the service goes on answering meanwhile.

Saving and reading go before planning, planning before what nobody waits for. Of one editor only the newest request
counts: an older one that still waits is taken from the line. The line has an end, and whoever comes behind it is told.
"""

from __future__ import annotations

import contextlib
import heapq
import importlib
import multiprocessing
import os
import select
import signal
import threading
import time
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from dataclasses import dataclass
from enum import IntEnum
from itertools import count
from multiprocessing import resource_tracker
from multiprocessing.forkserver import ensure_running
from typing import Any

from steady_tide.core.quantities.errors import DeskBusy, Overtaken
from steady_tide.services.memory import keep_freed, look_seldom

MOST_WAITING = 120
WORKERS = max(1, min(4, os.cpu_count() or 1))
NICE = 5  # saving and reading go before planning on the cores, too
WORK = "steady_tide.services.planning_tasks"
TRIES = 2  # where a worker dies over it
STOPPING = "The service is stopping; nothing that was saved is lost. Start it again."


class Turn(IntEnum):
    """Who goes first."""

    SAVING = 0  # and reading
    HAND = 1  # what follows a person's hand
    OTHERS = 2  # what other cameras and ways would do
    NOBODY = 3  # nobody waits for it


# By how much each lets those who come later and go first pass, seconds: however many save, nobody waits for ever.
LETS_PASS_S = {Turn.SAVING: 0.0, Turn.HAND: 1.0, Turn.OTHERS: 4.0, Turn.NOBODY: 15.0}


@dataclass(eq=False)
class _Waiting:
    due: float
    number: int
    turn: Turn
    call: Callable[..., Any]
    given: tuple[Any, ...]
    future: Future[Any]
    editor: str | None = None
    tries: int = TRIES

    def __lt__(self, other: _Waiting) -> bool:
        return (self.due, self.number) < (other.due, other.number)


class Desk:
    """A line of work and those who do it."""

    def __init__(
        self,
        workers: int = WORKERS,
        most_waiting: int = MOST_WAITING,
        tasks_each: int | None = None,
        work: str = WORK,
        nice: int = NICE,
    ) -> None:
        """workers: processes; most_waiting: whoever comes when so many wait is told; tasks_each: after so many a worker
        makes room for a fresh one; work: the module that they load; nice: how far they let others go first. Starts them
        when first needed."""
        self.work, self.nice = work, nice
        self.workers = workers
        self.tasks_each = tasks_each
        self.most_waiting = most_waiting
        self._line: list[_Waiting] = []
        self._at_work: set[_Waiting] = set()
        self._numbers = count()
        self._lock = threading.RLock()
        self._pool: ProcessPoolExecutor | None = None
        self._closed = False

    def start(self) -> None:
        """Let the workers load what they need before anybody waits for them; nothing, where it is closed by then."""
        with contextlib.suppress(DeskBusy):
            for _ in range(self.workers):
                self.ask(_warm, (self.work,), Turn.SAVING)

    def close(self) -> None:
        """End; what waits is not done any more."""
        with self._lock:
            self._closed = True
            waiting, self._line = self._line, []
            at_work, pool, self._pool = list(self._at_work), self._pool, None
        for job in (*waiting, *at_work):
            self._fail(job, DeskBusy(STOPPING))
        if pool is not None:
            workers = list((pool._processes or {}).values())
            pool.shutdown(wait=False, cancel_futures=True)
            for worker in workers:  # planning keeps nothing; what is cut off is asked for again
                worker.terminate()

    def ask(
        self, call: Callable[..., Any], given: tuple[Any, ...], turn: Turn, editor: str | None = None
    ) -> Future[Any]:
        """Have something worked out.

        call: a function of a module; given: what it takes, all of it such as can be handed to a process; turn: who goes
        first; editor: whose request it is: it takes the place of an older one of his of the same turn. Returns what
        will be the result; it fails with Overtaken where a newer request took its place. Raises DeskBusy.
        """
        job = _Waiting(time.monotonic() + LETS_PASS_S[turn], next(self._numbers), turn, call, given, Future(), editor)
        with self._lock:
            if self._closed:
                raise DeskBusy(STOPPING)
            older = self._older(job)
            if older is None and turn > Turn.SAVING and len(self._line) >= self.most_waiting:
                raise DeskBusy(f"{len(self._line)} requests wait already. Nothing is lost; ask again in a moment.")
            if older is not None:
                self._line.remove(older)
                heapq.heapify(self._line)
            heapq.heappush(self._line, job)
        if older is not None and older.future.set_running_or_notify_cancel():
            older.future.set_exception(Overtaken())
        self._go_on()
        return job.future

    def _older(self, job: _Waiting) -> _Waiting | None:
        if job.editor is None:
            return None
        return next((old for old in self._line if (old.editor, old.turn) == (job.editor, job.turn)), None)

    def hurry(self, future: Future[Any], turn: Turn) -> None:
        """Let something that waits go earlier. future: of it; turn: its new one."""
        with self._lock:
            for job in self._line:
                if job.future is future and job.turn > turn:
                    job.due -= LETS_PASS_S[job.turn] - LETS_PASS_S[turn]
                    job.turn, job.editor = turn, None
                    heapq.heapify(self._line)
                    return

    def _go_on(self) -> None:
        """Hand work to whoever is free."""
        while True:
            with self._lock:
                if self._closed or len(self._at_work) >= self.workers or not self._line:
                    return
                job = heapq.heappop(self._line)
                if not job.future.running() and not job.future.set_running_or_notify_cancel():
                    continue
                self._at_work.add(job)
            pool = None
            try:
                pool = self._ready_pool()
                doing = pool.submit(job.call, *job.given)
            except Exception as error:
                # Whatever keeps a process from being started, such as the end of the one that starts them.
                self._failed(job, pool, error)
                continue
            doing.add_done_callback(lambda done, job=job, pool=pool: self._done(job, pool, done))  # type: ignore[misc]

    def _ready_pool(self) -> ProcessPoolExecutor:
        with self._lock:
            if self._pool is None:
                self._pool = _pool(self.workers, self.tasks_each, self.nice)
            return self._pool

    def _done(self, job: _Waiting, pool: ProcessPoolExecutor, done: Future[Any]) -> None:
        error = None if done.cancelled() else done.exception()
        if done.cancelled() or isinstance(error, BrokenProcessPool):
            self._failed(job, pool, error or RuntimeError("the desk is closed"))
        else:
            with self._lock:
                self._at_work.discard(job)
            if error is not None:
                self._fail(job, error)
            elif not job.future.done():
                job.future.set_result(done.result())
        self._go_on()

    def _failed(self, job: _Waiting, pool: ProcessPoolExecutor | None, error: BaseException) -> None:
        """A worker died: another one tries once more."""
        with self._lock:
            self._at_work.discard(job)
            if self._pool is pool:
                self._pool = None
            job.tries -= 1
            again = job.tries > 0 and not self._closed
            if again:
                heapq.heappush(self._line, job)
        if not again:
            self._fail(job, error)
        self._go_on()

    @staticmethod
    def _fail(job: _Waiting, error: BaseException) -> None:
        """Whatever happens, whoever waits is told."""
        if not job.future.done():
            job.future.set_exception(error)


def _pool(workers: int, tasks_each: int | None, nice: int) -> ProcessPoolExecutor:
    context = multiprocessing.get_context("forkserver")
    context.set_forkserver_preload([WORK])
    _begin_forks()
    return ProcessPoolExecutor(
        workers, mp_context=context, initializer=_begin, initargs=(os.getpid(), nice), max_tasks_per_child=tasks_each
    )


def _begin_forks() -> None:
    """Start whoever forks the workers. A Ctrl-C goes to all of a terminal's processes; it is for the service alone, also while
    this one still loads."""
    resource_tracker.ensure_running()  # first, since it lets the signal in again
    signal.pthread_sigmask(signal.SIG_BLOCK, {signal.SIGINT})
    try:
        ensure_running()
    finally:
        signal.pthread_sigmask(signal.SIG_UNBLOCK, {signal.SIGINT})


def _begin(service: int, nice: int) -> None:
    """A worker leaves Ctrl-C and the first turn to the service, and ends when that is gone. service: its process; nice: how
    far it lets others go first."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    os.nice(nice)
    keep_freed()
    look_seldom()
    ended = os.pidfd_open(service)

    def watch() -> None:
        select.select([ended], [], [])
        os._exit(0)

    threading.Thread(target=watch, daemon=True).start()


def _warm(work: str) -> None:
    """Load what the work needs, as the pool's processes do when they begin."""
    importlib.import_module(work)
