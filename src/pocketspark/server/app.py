"""Puts the web app together: routes, problems, database, and the built front end."""

from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, PlainTextResponse
from starlette.middleware.gzip import GZipMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.responses import Response
from starlette.staticfiles import StaticFiles

from pocketspark import __version__
from pocketspark.demo import demo_inventory, demo_projects
from pocketspark.server import (
    benchwork,
    fits,
    inventory,
    live,
    photos,
    projects,
    questions,
    reference,
    training,
    wirings,
)
from pocketspark.server.jobs import Jobs
from pocketspark.server.live_runs import LiveRuns
from pocketspark.server.problems import answer_with_problems
from pocketspark.server.settings import Settings
from pocketspark.store import Inventory, LiveLogs, Meters, Photos, Projects
from pocketspark.store.database import open_database

# Everything ships with the app: nothing may be loaded from elsewhere.
CONTENT_POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:"


def create_app(settings: Settings | None = None) -> FastAPI:
    """The app on its own data. With `settings.demo`, an empty database is filled with the demo conversions."""
    settings = settings or Settings()
    app = FastAPI(title="Pocket Spark", version=__version__, docs_url=None, redoc_url=None)
    engine = open_database(settings.data)
    app.state.projects, app.state.inventory, app.state.photos = Projects(engine), Inventory(engine), Photos(engine)
    app.state.meters = Meters(engine)
    app.state.sweeps, app.state.live_runs = Jobs(), LiveRuns(LiveLogs(engine))
    if settings.demo and not app.state.projects.summaries():
        for project in reversed(demo_projects()):
            app.state.projects.add(project)
        for kind, body, stock in demo_inventory():
            app.state.inventory.add(kind, body, stock)
    # A page from elsewhere cannot talk to this server by renaming itself: only known host names are answered.
    app.add_middleware(TrustedHostMiddleware, allowed_hosts=settings.hosts, www_redirect=False)
    app.add_middleware(GZipMiddleware, minimum_size=2000, compresslevel=4)
    app.include_router(projects.router)
    app.include_router(photos.router)
    app.include_router(inventory.router)
    app.include_router(benchwork.router)
    app.include_router(live.router)
    app.include_router(training.router)
    app.include_router(fits.router)
    app.include_router(wirings.router)
    app.include_router(wirings.paper)
    app.include_router(questions.router)
    app.include_router(reference.router)
    answer_with_problems(app)
    _serve_front_end(app, settings.web)
    return app


def _serve_front_end(app: FastAPI, web: Path) -> None:
    """The built pages. Every path that is neither file nor API is the front end's own to route."""
    if (web / "assets").is_dir():
        app.mount("/assets", StaticFiles(directory=web / "assets"), name="assets")

    @app.get("/api/{path:path}", include_in_schema=False)
    def no_such_route(path: str) -> Response:
        return PlainTextResponse(f"there is nothing at /api/{path}", 404)

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        index = web / "index.html"
        if not index.is_file():
            return PlainTextResponse("The front end is not built yet: run ./spark demo once.", 503)
        named = (web / path).resolve()
        file = named if path and named.is_file() and named.is_relative_to(web.resolve()) else index
        return FileResponse(file, headers={"Content-Security-Policy": CONTENT_POLICY, "Cache-Control": "no-cache"})
