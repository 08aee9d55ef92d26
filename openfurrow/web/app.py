"""The application: the routers, the errors, the built screens."""

import mimetypes
from pathlib import Path

from fastapi import FastAPI, HTTPException, Response
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from sqlalchemy import Engine, text
from sqlalchemy.exc import SQLAlchemyError
from starlette.middleware.gzip import GZipMiddleware

from openfurrow import __version__
from openfurrow.jobs.apart import have_ready
from openfurrow.web import (
    accounts,
    as_set,
    energy,
    field,
    filling,
    ground,
    jobs,
    look,
    materials,
    revisions,
    stages,
    structures,
    ways,
    work,
)
from openfurrow.web.guard import LOOPBACK, Guard
from openfurrow.web.kept import PACKING
from openfurrow.web.problems import RESPONSES, add_problem_handlers

# Not every host's list of types knows what installs a page.
mimetypes.add_type("application/manifest+json", ".webmanifest")


def create_app(
    engine: Engine | None,
    screens: Path | None = None,
    hosts: frozenset[str] = LOOPBACK,
    authority: Path | None = None,
) -> FastAPI:
    """The server over a database, asked by the names ``hosts``; ``screens``: the built front end.

    ``authority`` is the certificate of the authority that a phone has to trust first.
    """
    app = FastAPI(
        title="Open Furrow",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        responses=RESPONSES,  # type: ignore[arg-type]
    )
    app.state.engine = engine
    app.add_middleware(GZipMiddleware, minimum_size=1024, compresslevel=PACKING)
    app.add_middleware(Guard, hosts=hosts)
    add_problem_handlers(app)
    have_ready(
        "openfurrow.web.files_read",
        "openfurrow.web.look",
        "openfurrow.web.filling",
        "openfurrow.web.ways",
        "openfurrow.exchange.weather_in",
    )
    for router in (
        accounts.router,
        jobs.router,
        stages.router,
        ground.router,
        energy.router,
        structures.router,
        as_set.router,
        materials.router,
        filling.router,
        ways.router,
        field.router,
        revisions.router,
        work.router,
        look.router,
    ):
        app.include_router(router)
    _add_health(app)
    if authority:
        _add_authority(app, authority)
    if screens and (screens / "index.html").exists():
        _add_screens(app, screens)
    return app


def _add_health(app: FastAPI) -> None:
    @app.get("/healthz", include_in_schema=False)
    def alive() -> dict[str, str]:
        """Whether the server answers."""
        return {"status": "up"}

    @app.get("/readyz", include_in_schema=False)
    def ready() -> Response:
        """Whether the database answers too."""
        try:
            with app.state.engine.connect() as connection:
                connection.execute(text("select 1"))
        except SQLAlchemyError:
            return Response(
                '{"status": "the database is away"}', 503, {"Retry-After": "1"}, "application/json"
            )
        return Response('{"status": "ready"}', media_type="application/json")


def _add_authority(app: FastAPI, authority: Path) -> None:
    @app.get("/authority.crt", include_in_schema=False)
    def trusted() -> FileResponse:
        """What a phone has to trust before it keeps anything of this server."""
        return FileResponse(authority, media_type="application/x-x509-ca-cert")


def _add_screens(app: FastAPI, screens: Path) -> None:
    app.mount("/assets", StaticFiles(directory=screens / "assets"))

    @app.get("/{path:path}", include_in_schema=False)
    def screen(path: str) -> FileResponse:
        """The one page; it finds its own way from the address."""
        if path.startswith("api/"):
            raise HTTPException(404, "There is no such address.")
        # No file has so long a name, and asking for one is an error of its own.
        named = screens / path if 0 < len(path) < 200 and "/" not in path and "\0" not in path else None
        if named and named.is_file():
            # By their names nobody can tell whether they are new.
            return FileResponse(named, headers={"Cache-Control": "no-cache"})
        return FileResponse(screens / "index.html", headers={"Cache-Control": "no-cache"})
