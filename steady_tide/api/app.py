"""The application: guard, problems, routes, and the built front end."""

from __future__ import annotations

from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from datetime import datetime
from pathlib import Path
from tempfile import TemporaryDirectory
from threading import Thread, Timer

from fastapi import FastAPI, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from pydantic import BaseModel, ValidationError
from starlette.exceptions import HTTPException

from steady_tide import __version__
from steady_tide.api import (
    bench,
    card,
    demo,
    edit,
    files,
    kit,
    kit_in,
    ladders,
    light,
    log,
    look,
    measure,
    order,
    outing,
    own,
    places,
    practice,
    problems,
    recipes,
    rushes,
    sheets,
    shoots,
    shots,
    story,
    uses,
)
from steady_tide.api.guard import Guard
from steady_tide.api.request_log import RequestLog
from steady_tide.api.services import Services, put_services, services_at, services_of
from steady_tide.api.station import station
from steady_tide.core.planning.catalogue import USUAL
from steady_tide.core.planning.judgement import Judgement
from steady_tide.devices.light_meter import LightMeter
from steady_tide.devices.sky import SkyService
from steady_tide.services.days import PresetShelf
from steady_tide.services.frame_cache import LookShelf, look_desk
from steady_tide.services.plan_refresh import Keeper
from steady_tide.services.planning_pool import Desk
from steady_tide.services.plans import Plans
from steady_tide.services.uses import StandingShelf
from steady_tide.standins.sky import SimulatedSky
from steady_tide.store.database import Database

MOST_ASIDE, ASIDE_EACH = 20, 25  # that wait; after which the process, which grows with each, makes room for another
LOOK_STARTS_S = 4.0
FRONT_END = Path(__file__).parents[2] / "web" / "dist"


class LastBackup(BaseModel):
    """The last night's backup, and what was found when it was read back, or why it failed."""

    made_at: datetime
    file: str
    holds: str | None = None
    problem: str | None = None


class Health(BaseModel):
    """Whether the service can work."""

    version: str
    database: bool
    backup: LastBackup | None = None


@asynccontextmanager
async def _running(app: FastAPI) -> AsyncIterator[None]:
    """While the service runs: the desks, and whoever keeps plans fresh, if there is one."""
    services = services_of(app)
    desk = services.plans.desk
    if desk is not None:
        # Its workers load for a second or two; meanwhile everything else is answered.
        Thread(target=desk.start, name="desk-start", daemon=True).start()
        # Who draws comes after who plans; whoever looks before then does not wait for this.
        drawing = Timer(LOOK_STARTS_S, services.frames.desk.start)
        drawing.daemon = True
        drawing.start()
    if services.refresh is not None:
        services.refresh.start()
    yield
    if desk is not None:
        drawing.cancel()
    for closed in (desk, services.files, services.frames):  # first, so that nobody waits for what is not made any more
        if closed is not None:
            await run_in_threadpool(closed.close)
    if services.refresh is not None:
        await run_in_threadpool(services.refresh.stop)
    if services.passing is not None:
        services.passing.cleanup()


def make_app(
    database: Database,
    front_end: Path = FRONT_END,
    meter: LightMeter | None = None,
    sky: SkyService | None = None,
    judgement: Judgement = USUAL,
    keeps_fresh: bool = False,
    desk: Desk | None = None,
    backups: Path | None = None,
    looks: Path | None = None,
    drops: Path | None = None,
    docs_page: bool = False,
) -> FastAPI:
    """Put the service together.

    database: migrated; front_end: folder of the built interface; meter: a light meter, if there is one;
    sky: who knows the clouds to come, the stand-in unless said otherwise; judgement: the dials and items that plans
    are made with; keeps_fresh: whether kept plans are made anew in the background; desk: where is planned, in this
    process where there is none; backups: folder of the night's, if some are made; looks: folder
    of pictures that were drawn; drops: folder of clips that are handed over, a passing one where it is left out; docs_page: whether the API shows its
    documentation at `/api/docs`. Returns the application, which starts the desk and closes it.
    """
    app = FastAPI(
        title="Steady Tide",
        version=__version__,
        openapi_url="/api/openapi.json",
        docs_url=None,
        redoc_url=None,
        lifespan=_running,
    )
    plans = Plans(judgement, desk)
    files_pool = Desk(workers=1, most_waiting=MOST_ASIDE, tasks_each=ASIDE_EACH)
    passing = None if drops is not None else TemporaryDirectory(prefix="steady-tide-drops-")
    put_services(
        app,
        Services(
            database=database,
            plans=plans,
            refresh=Keeper(database, plans) if keeps_fresh else None,
            files=files_pool,
            frames=LookShelf(look_desk(), looks),
            drops=Path(passing.name) if passing is not None else drops or Path(),
            presets=PresetShelf(files_pool),
            standing=StandingShelf(files_pool),
            sky=sky or SimulatedSky(),
            meter=meter,
            passing=passing,
        ),
    )
    app.add_middleware(Guard)
    app.add_middleware(RequestLog)
    problems.install(app)
    service = station("service")

    @service.get("/health")
    def health(request: Request) -> Health:
        """Whether the service and its database answer."""
        return Health(
            version=__version__, database=services_at(request).database.answers(), backup=_last_backup(backups)
        )

    app.router.routes += service.routes
    # Files come first: /shoots/import is no shoot called import.
    for part in (
        files,
        shoots,
        shots,
        bench,
        recipes,
        light,
        log,
        own,
        look,
        rushes,
        edit,
        story,
        uses,
        practice,
        outing,
        places,
        order,
        kit,
        kit_in,
        ladders,
        sheets,
        measure,
        card,
        demo,
    ):
        app.router.routes += part.router.routes
    if docs_page:
        from steady_tide.api.docs_page import serve_docs_page  # its templates take a moment to load

        serve_docs_page(app)
    _serve_front_end(app, front_end)
    app.openapi = lambda: problems.document(app)  # type: ignore[method-assign]
    return app


def _last_backup(folder: Path | None) -> LastBackup | None:
    try:
        return None if folder is None else LastBackup.model_validate_json((folder / "last.json").read_bytes())
    except (OSError, ValidationError):
        return None


def _file_of(folder: Path, path: str) -> Path | None:
    """A file of the build. Returns None where there is none of that name, or could be none."""
    try:
        wanted = (folder / path).resolve()
        return wanted if wanted.is_file() and wanted.is_relative_to(folder.resolve()) else None
    except (OSError, ValueError):
        return None


def _serve_front_end(app: FastAPI, folder: Path) -> None:
    if (folder / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=folder / "assets"), name="assets")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> FileResponse:
        """Files of the build, and its one page for everything else."""
        if path == "api" or path.startswith("api/"):
            raise HTTPException(404, f"There is nothing at /{path}.")
        if path and (wanted := _file_of(folder, path)):
            return FileResponse(wanted)
        if not (folder / "index.html").is_file():
            raise HTTPException(503, "The interface is not built. Run ./start, which builds it.")
        return FileResponse(folder / "index.html", headers={"Cache-Control": "no-cache"})
