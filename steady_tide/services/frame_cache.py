"""Pictures that were drawn lately, by a digest of all they were made from, in a folder that does not grow for ever."""

from __future__ import annotations

import contextlib
import os
import tempfile
from concurrent.futures import CancelledError, Future
from pathlib import Path
from threading import Lock, Thread
from typing import Any
from uuid import uuid4

from pydantic import ValidationError

from steady_tide.core.brief.brief import School
from steady_tide.core.look.numbers import LookNumbers
from steady_tide.core.quantities.errors import DeskBusy, NoLegalPlan, NotFound, Overtaken
from steady_tide.core.quantities.frozen import Frozen
from steady_tide.formats.compressed import film
from steady_tide.services import look_work
from steady_tide.services.crew_kit import CrewKit, packed
from steady_tide.services.digests import digest_of, planner_digest
from steady_tide.services.look_frames import LookAsked, Looked, OwnStill
from steady_tide.services.planning_pool import Desk, Turn

MOST_BYTES = 150_000_000
FEW = 20  # pictures that are kept however large
ENDING = ".look"
PART_FRAMES = 5  # of a film, drawn at a time, so that pictures come between
MOST_FILMS = 8  # that are kept; older ones are forgotten
NICE = 10


def look_desk() -> Desk:
    """The worker that draws: one process, which lets planning go first."""
    return Desk(workers=1, most_waiting=60, work="steady_tide.services.look_work", nice=NICE)


class FilmState(Frozen):
    """How far a film is. done, total: frames; problem: why there is none."""

    id: str
    state: str
    done: int
    total: int
    problem: str | None = None


class _Film:
    def __init__(self, total: int) -> None:
        self.id, self.total = uuid4().hex, total
        self.done, self.file, self.problem = 0, None, None  # type: int, bytes | None, Exception | None
        self.stopped = False

    def state(self) -> str:
        if self.stopped:
            return "stopped"
        if self.problem is not None:
            return "failed"
        return "drawing" if self.file is None else "done"


class LookShelf:
    """Where pictures are asked for."""

    def __init__(self, desk: Desk, folder: Path | None = None, most_bytes: int = MOST_BYTES) -> None:
        """desk: who draws; folder: for what was drawn, one for this process alone where it is left out; most_bytes: that
        it may hold."""
        self._own = tempfile.TemporaryDirectory(prefix="steady-tide-look-") if folder is None else None
        self.folder = Path(self._own.name) if self._own is not None else folder or Path()
        self.desk, self.most_bytes = desk, most_bytes
        self._doing: dict[str, Future[Looked]] = {}
        self._films: dict[str, _Film] = {}
        self._lock = Lock()
        self.folder.mkdir(parents=True, exist_ok=True)
        for left in self.folder.glob("*.part"):  # of a service that was killed
            left.unlink(missing_ok=True)

    def close(self) -> None:
        """End: films stop, and an own folder goes."""
        for one in list(self._films.values()):
            one.stopped = one.file is None
        self.desk.close()
        if self._own is not None:
            self._own.cleanup()

    def ask(
        self, asked: LookAsked, crew: School, gear: CrewKit, still: OwnStill | None, editor: str | None
    ) -> Future[Looked]:
        """Have a frame drawn, or take the one that is there.

        asked: what is to be seen; crew, gear: whose; still: of a scene of one's own; editor: whose newest request takes
        the place of his older one. Returns what will be the picture; it fails as the planner does.
        """
        key = self.key(asked, crew, gear, still)
        kept = self._kept(key)
        if kept is not None:
            return _done(kept)
        with self._lock:
            doing = self._doing.get(key)
        if doing is not None and not doing.cancelled():
            return doing
        drawn: Future[Looked] = Future()
        drawing = self.desk.ask(look_work.look_of, (asked, crew, packed(gear), still), Turn.HAND, editor)
        with self._lock:
            self._doing[key] = drawn

        def over(done: Future[Any]) -> None:
            with self._lock:
                self._doing.pop(key, None)
            if done.cancelled():
                drawn.set_exception(Overtaken())
            elif (error := done.exception()) is not None:
                drawn.set_exception(error)
            elif isinstance(found := done.result(), NoLegalPlan):
                drawn.set_exception(found)
            else:
                self._keep(key, found)
                drawn.set_result(found)

        drawing.add_done_callback(over)
        return drawn

    def key(self, asked: LookAsked, crew: School, gear: CrewKit, still: OwnStill | None) -> str:
        """What a picture hangs on, the code that draws it among it."""
        return digest_of(
            [
                asked.model_dump(mode="json"),
                crew.model_dump(mode="json"),
                gear.kit_digest,
                gear.knowledge_digest,
                planner_digest(),
                None if still is None else [still.id, still.distance_m],
            ]
        )

    def _kept(self, key: str) -> Looked | None:
        file = self.folder / f"{key}{ENDING}"
        try:
            head, _, picture = file.read_bytes().partition(b"\n")
            os.utime(file)
            return Looked(picture, LookNumbers.model_validate_json(head))
        except (OSError, ValidationError):
            return None

    def _keep(self, key: str, drawn: Looked) -> None:
        part = self.folder / f"{key}.{uuid4().hex}.part"
        # A full disk keeps no pictures, and shows them all the same.
        with contextlib.suppress(OSError):
            part.write_bytes(drawn.numbers.model_dump_json().encode() + b"\n" + drawn.picture)
            part.replace(self.folder / f"{key}{ENDING}")
            self._make_room()
        part.unlink(missing_ok=True)

    def _make_room(self) -> None:
        """Let the oldest go, where there is too much."""
        files = sorted((file.stat().st_mtime, file.stat().st_size, file) for file in self.folder.glob(f"*{ENDING}"))
        total = sum(size for _, size, _ in files)
        for _, size, file in files[:-FEW]:
            if total <= self.most_bytes:
                return
            file.unlink(missing_ok=True)
            total -= size

    def begin_film(
        self, asked: list[tuple[LookAsked, OwnStill | None]], crew: School, gear: CrewKit, seconds: float
    ) -> FilmState:
        """Begin a film of one plan, or of several side by side. seconds: on the screen. Returns its state. Raises DeskBusy."""
        fps = asked[0][0].brief.delivery.fps
        made = _Film(max(1, round(seconds * fps)))
        with self._lock:
            if sum(one.state() == "drawing" for one in self._films.values()) >= MOST_FILMS:
                raise DeskBusy("Eight films are being drawn. Ask again when one of them is done.")
            while len(self._films) >= MOST_FILMS:
                self._films.pop(next(name for name, one in self._films.items() if one.state() != "drawing"))
            self._films[made.id] = made
        given = (asked, crew, packed(gear), seconds)
        Thread(target=self._draw_film, args=(made, given, fps), name="look-film", daemon=True).start()
        return self._state_of(made)

    def _draw_film(self, made: _Film, given: tuple[Any, ...], fps: float) -> None:
        def frames() -> Any:
            for start in range(0, made.total, PART_FRAMES):
                stop = min(made.total, start + PART_FRAMES)
                part = self.desk.ask(look_work.film_of, (*given, start, stop), Turn.OTHERS).result()
                if isinstance(part, NoLegalPlan):
                    raise part
                for frame in part:
                    if made.stopped:
                        return
                    yield frame

        try:
            for found in film(frames(), fps):
                if isinstance(found, int):
                    made.done = found
                elif not made.stopped:
                    made.file = found
        except (Exception, CancelledError) as error:  # whoever asks is told
            made.problem = error if isinstance(error, Exception) else DeskBusy("It was taken from the line. Ask again.")

    def film_state(self, film_id: str) -> FilmState:
        """How far a film is. Raises NotFound."""
        return self._state_of(self._film(film_id))

    def film_file(self, film_id: str) -> bytes:
        """A film as MP4. Raises NotFound where it is not done, and whatever it failed with."""
        one = self._film(film_id)
        if one.problem is not None:
            raise one.problem
        if one.file is None:
            raise NotFound("That film is not drawn to its end.")
        return one.file

    def stop_film(self, film_id: str) -> None:
        """Stop a film and forget it. Raises NotFound."""
        self._film(film_id).stopped = True
        with self._lock:
            self._films.pop(film_id, None)

    def _film(self, film_id: str) -> _Film:
        with self._lock:
            found = self._films.get(film_id)
        if found is None:
            raise NotFound("There is no such film any more. Ask for it again.")
        return found

    @staticmethod
    def _state_of(one: _Film) -> FilmState:
        problem = None if one.problem is None else str(one.problem)
        return FilmState(id=one.id, state=one.state(), done=one.done, total=one.total, problem=problem)


def _done(found: Looked) -> Future[Looked]:
    future: Future[Looked] = Future()
    future.set_result(found)
    return future
