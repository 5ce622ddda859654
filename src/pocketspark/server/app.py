"""Puts the web app together: routes, problems, database, and the built front end."""

import gc
import sys
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path
from threading import Thread

from fastapi import FastAPI
from fastapi.responses import FileResponse, PlainTextResponse
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import Response
from starlette.staticfiles import StaticFiles

from pocketspark import __version__
from pocketspark.core.fit.branch_and_bound import get_ready
from pocketspark.demo import demo_inventory, demo_projects
from pocketspark.instruments.ports import Ports
from pocketspark.parts import library, packs_in, parts_of
from pocketspark.server import (
    accuracy,
    backups,
    benchwork,
    build_tests,
    cell_tests,
    clock_routes,
    drawer,
    fits,
    inventory_routes,
    live,
    logs,
    meter_routes,
    pairing,
    photo_routes,
    project_routes,
    proposals,
    question_routes,
    reference,
    shelf_pages,
    supply_sweeps,
    training,
    wirings,
)
from pocketspark.server.backups import clear_left_overs
from pocketspark.server.build_tests import BuildTests
from pocketspark.server.cell_tests import CellTests
from pocketspark.server.doorway import Doorway
from pocketspark.server.housekeeping import Housekeeping
from pocketspark.server.jobs import Jobs
from pocketspark.server.keystrokes import Keystrokes
from pocketspark.server.live_runs import LiveRuns
from pocketspark.server.pairing import Pairing, stranger_check
from pocketspark.server.problems import answer_with_problems, problem
from pocketspark.server.read_as import AsTheyRead
from pocketspark.server.settings import Settings
from pocketspark.server.shelf_lines import ShelfLines
from pocketspark.server.summaries import judged, rules_version
from pocketspark.server.supply_sweeps import SupplySweeps
from pocketspark.store import Connections, Inventory, LiveLogs, LogFiles, Meters, Photos, Projects
from pocketspark.store.copies import Copies
from pocketspark.store.database import close_database, open_database
from pocketspark.store.devices import Devices

# In the order in which paths are held against them.
ROUTERS = (
    shelf_pages.router,
    project_routes.router,
    backups.router,
    pairing.router,
    pairing.page,
    photo_routes.router,
    photo_routes.labels,
    inventory_routes.router,
    proposals.router,
    clock_routes.router,
    benchwork.router,
    live.router,
    supply_sweeps.router,
    build_tests.router,
    cell_tests.router,
    logs.router,
    meter_routes.router,
    drawer.router,
    accuracy.router,
    training.router,
    fits.router,
    wirings.router,
    wirings.paper,
    wirings.files,
    question_routes.router,
    question_routes.keystrokes,
    reference.router,
)


def create_app(settings: Settings | None = None, keystrokes: Keystrokes | None = None) -> FastAPI:
    """The app on its own data. With `settings.demo`, an empty database is filled with the demo conversions.

    `keystrokes`: who answers those, where that has been started already.

    Raises UnusableData, with the sentence that says what to do.
    """
    settings = settings or Settings()
    engine = open_database(settings.data)
    clear_left_overs(settings.data)

    @asynccontextmanager
    async def while_it_runs(app: FastAPI) -> AsyncIterator[None]:
        # Whoever computes hands on to the others ten times sooner than usual: nobody waits for somebody's long work.
        sys.setswitchinterval(0.0005)
        _match_once(app)
        gc.freeze()  # what was loaded stays: no search for garbage in it holds everybody up
        Thread(target=get_ready, daemon=True).start()
        app.state.housekeeping.start()
        app.state.live_runs.take_up(app.state.ports.open)
        yield
        _end_work(app)
        close_database(engine)

    app = FastAPI(title="Pocket Spark", version=__version__, docs_url=None, redoc_url=None, lifespan=while_it_runs)
    app.state.engine, app.state.data = engine, settings.data
    app.state.keystrokes = keystrokes or Keystrokes()
    app.state.shelf_lines = shelf_lines = ShelfLines()
    app.state.projects = Projects(engine, judged, rules_version(), shelf_lines.later, shelf_lines.settle)
    shelf_lines.judge_anew = app.state.projects.shelf.judge_anew
    app.state.inventory, app.state.photos = Inventory(engine), Photos(engine)
    app.state.meters, app.state.devices, app.state.logs = Meters(engine), Devices(engine), LiveLogs(engine)
    app.state.sweeps, app.state.live_runs = Jobs(), LiveRuns(app.state.logs)
    app.state.supply_sweeps, app.state.build_tests = SupplySweeps("sweep"), BuildTests("test")
    app.state.cell_tests = CellTests()
    app.state.proposals, app.state.backups = Jobs(keep=1), Jobs(keep=1)
    app.state.proposal_memories = proposals.Memories()
    app.state.ports, app.state.connections = Ports(settings.ports), Connections(engine)
    app.state.log_files = LogFiles(engine)
    app.state.copies = Copies(engine, settings.data, settings.copies)
    app.state.housekeeping = Housekeeping(app.state.copies, app.state.projects, app.state.devices)
    app.state.pairing, app.state.packs = Pairing(), packs_in(settings.data / "packs")
    app.state.library = library().with_packs(parts_of(app.state.packs))
    if settings.demo and not app.state.projects.shelf.lines(most=1):
        at_once = Projects(engine, judged, rules_version())
        for project in reversed(demo_projects()):
            at_once.add(project)
        for kind, body, stock in demo_inventory():
            app.state.inventory.add(kind, body, stock)
    app.add_middleware(AsTheyRead)
    app.add_middleware(GZipMiddleware, minimum_size=2000, compresslevel=4)
    stranger = stranger_check(app.state.pairing, app.state.devices)
    app.add_middleware(Doorway, hosts=frozenset(settings.hosts), stranger=stranger)
    for router in ROUTERS:
        app.include_router(router)
    answer_with_problems(app, settings.data)
    _serve_front_end(app, settings.web)
    return app


def _end_work(app: FastAPI) -> None:
    """All that goes on beside the questions, the bench first."""
    state = app.state
    for bench in (state.supply_sweeps, state.build_tests):
        bench.stop()
    state.live_runs.stop_all()
    for jobs in (state.sweeps, state.proposals, state.backups):
        jobs.cancel_all()
    for keeper in (state.housekeeping, state.shelf_lines, state.keystrokes):
        keeper.stop()


def _match_once(app: FastAPI) -> None:
    """The framework reads a router's models when a path is first held against it: now, and not while others wait."""
    scope = {"type": "http", "method": "GET", "path": "/api", "root_path": "", "headers": []}
    for route in app.routes:
        route.matches(scope)


def _serve_front_end(app: FastAPI, web: Path) -> None:
    """The built pages. Every path that is neither file nor API is the front end's own to route."""
    if (web / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")

    @app.get("/api/{path:path}", include_in_schema=False)
    def no_such_route(path: str) -> Response:
        return problem(404, f"there is nothing at /api/{path[:200]}")

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        index = web / "index.html"
        if not index.is_file():
            return PlainTextResponse("The front end is not built yet: run ./spark demo once.", 503)
        named = (web / path.replace("\0", "")).resolve()
        try:
            file = named if path and named.is_file() and named.is_relative_to(web.resolve()) else index
        except OSError:  # a name that no file system takes
            file = index
        return FileResponse(file, headers={"Cache-Control": "no-cache"})
