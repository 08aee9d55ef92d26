"""The application: the routers, the errors, the built screens."""

from pathlib import Path

from fastapi import FastAPI, HTTPException, Request, Response
from fastapi.responses import FileResponse
from fastapi.staticfiles import StaticFiles
from sqlalchemy import Engine
from starlette.middleware.base import RequestResponseEndpoint
from starlette.middleware.gzip import GZipMiddleware

from openfurrow import __version__
from openfurrow.web import accounts, ground, jobs, revisions, stages
from openfurrow.web.problems import RESPONSES, add_problem_handlers

# Everything a page needs comes from here; nothing else may run, frame it or be asked.
SAFE = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data:; "
    "style-src 'self' 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
}


def create_app(engine: Engine | None, screens: Path | None = None) -> FastAPI:
    """The server over a database; ``screens`` is the folder of the built front end."""
    app = FastAPI(
        title="Open Furrow", version=__version__, docs_url=None, redoc_url=None,
        openapi_url="/api/openapi.json", responses=RESPONSES,  # type: ignore[arg-type]
    )
    app.state.engine = engine
    # Level 4 costs a quarter of the usual 9 and its answers are a twentieth longer.
    app.add_middleware(GZipMiddleware, minimum_size=1024, compresslevel=4)
    add_problem_handlers(app)

    @app.middleware("http")
    async def safe(request: Request, call_next: RequestResponseEndpoint) -> Response:
        response = await call_next(request)
        response.headers.update(SAFE)
        return response

    for router in (accounts.router, jobs.router, stages.router, ground.router, revisions.router):
        app.include_router(router)

    @app.get("/api/health", include_in_schema=False)
    def health() -> dict[str, str]:
        """Whether the server answers."""
        return {"status": "up"}

    if screens and (screens / "index.html").exists():
        app.mount("/assets", StaticFiles(directory=screens / "assets"))

        @app.get("/{path:path}", include_in_schema=False)
        def screen(path: str) -> FileResponse:
            """The one page; it finds its own way from the address."""
            if path.startswith("api/"):
                raise HTTPException(404, "There is no such address.")
            named = screens / path
            if path and "/" not in path and named.is_file():
                return FileResponse(named)
            return FileResponse(screens / "index.html", headers={"Cache-Control": "no-cache"})

    return app
