"""Fixtures shared by the tests: designs, a throwaway PostgreSQL cluster, the running application."""

import os
import signal
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import httpx
import pytest
from argon2 import PasswordHasher
from hypothesis import Phase, settings
from sqlalchemy import Engine, text
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan, plan
from openfurrow.demo.designs import field, grifo, larkspur, quillay
from openfurrow.demo.seed import CREW_LEAD, PASSWORD, PLANNER, seed
from openfurrow.shots import served
from openfurrow.store import accounts
from openfurrow.store.cluster import private_cluster, throwaway_home
from openfurrow.store.database import migrate, open_database
from openfurrow.web.app import create_app
from tests.designs import plain_larkspur

# Passwords are hashed slowly on purpose; the tests make hundreds of sign-ins.
accounts._hasher = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)

settings.register_profile("furrow", deadline=None, derandomize=True)
settings.load_profile("furrow")
# The run of everything only finds what is broken, of the same draws: the least case of each is looked
# for where one test is run by itself, since that can take longer than all the others.
settings.register_profile(
    "whole",
    deadline=None,
    derandomize=True,
    phases=(Phase.explicit, Phase.reuse, Phase.generate),
)

ROOT = Path(__file__).resolve().parents[1]


@pytest.fixture(scope="session")
def demo() -> Design:
    return larkspur()


@pytest.fixture(scope="session")
def demo_plan(demo: Design) -> Plan:
    return plan(demo)


@pytest.fixture(scope="session")
def plain() -> Design:
    """The demo on the plane that its slope says, with nothing there and every owner answered."""
    return plain_larkspur()


@pytest.fixture(scope="session")
def plain_plan(plain: Design) -> Plan:
    return plan(plain)


@pytest.fixture(scope="session")
def metric_field() -> Design:
    return field(500)


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    with throwaway_home() as home, private_cluster(home, lasting=False) as url:
        yield url


@pytest.fixture(scope="session")
def engine(database_url: str) -> Iterator[Engine]:
    engine = open_database(database_url)
    migrate(engine)
    yield engine
    engine.dispose()


@pytest.fixture
def store(engine: Engine) -> Engine:
    """The demo's people with its jobs, freshly seeded, Larkspur with its first array alone."""
    return seeded(engine, (quillay(), grifo(), larkspur()))


def seeded(engine: Engine, jobs: tuple[Design, ...] | None = None) -> Engine:
    """The demo, or other jobs of its people, and nothing else."""
    with engine.begin() as connection:
        connection.execute(text("truncate account, job, sign_in_try cascade"))
    with Session(engine) as session, session.begin():
        assert seed(session, jobs)
    return engine


@pytest.fixture(scope="session")
def address(engine: Engine) -> Iterator[str]:
    """The application with its built screens on a loopback port."""
    with served(create_app(engine, ROOT / "frontend" / "dist")) as address:
        yield address


@contextmanager
def running(database_url: str, stop_with: signal.Signals = signal.SIGINT) -> Iterator[str]:
    """The start command over a database, until it is stopped as a person would stop it."""
    process = subprocess.Popen(
        [sys.executable, "-m", "openfurrow.cli", "start", "--port", "0", "--no-demo"],
        cwd=ROOT,
        env=os.environ | {"DATABASE_URL": database_url},
        stdout=subprocess.PIPE,
        text=True,
    )
    assert process.stdout
    try:
        address = process.stdout.readline().split()[3]
        deadline = time.monotonic() + 20
        while time.monotonic() < deadline:
            with suppress(httpx.ConnectError):
                httpx.get(f"{address}/healthz")
                break
            time.sleep(0.05)
        yield address
    finally:
        process.send_signal(stop_with)
        try:
            process.wait(timeout=15)
        finally:
            process.kill()
            process.wait()
            process.stdout.close()


@contextmanager
def signed_in(address: str, name: str) -> Iterator[httpx.Client]:
    with httpx.Client(base_url=f"{address}/api", timeout=30) as client:
        answer = client.post("/session", json={"name": name, "password": PASSWORD})
        assert answer.status_code == 200, answer.text
        yield client


@pytest.fixture
def planner(address: str, store: Engine) -> Iterator[httpx.Client]:
    with signed_in(address, PLANNER) as client:
        yield client


@pytest.fixture
def crew_lead(address: str, store: Engine) -> Iterator[httpx.Client]:
    with signed_in(address, CREW_LEAD) as client:
        yield client


@pytest.fixture
def job(planner: httpx.Client) -> str:
    """The address of the demo job."""
    jobs = {line["name"]: line["id"] for line in planner.get("/jobs").json()}
    return f"/jobs/{jobs['Larkspur Ferry landing']}"
