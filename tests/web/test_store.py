"""The cluster, the schema and the command line around them."""

import contextlib
import os
import signal
import subprocess
import sys
import time
from contextlib import suppress
from pathlib import Path

import httpx
import psycopg
import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from sqlalchemy import Engine, text

from openfurrow.demo.seed import PLANNER
from openfurrow.store.cluster import private_cluster, throwaway_home
from openfurrow.store.database import migrate, open_database
from openfurrow.store.errors import StoreError
from openfurrow.store.tables import Base
from tests.conftest import running, signed_in

ROOT = Path(__file__).resolve().parents[2]


def test_the_migrations_make_the_tables_that_are_mapped(engine: Engine) -> None:
    migrate(engine)
    with engine.connect() as connection:
        # The queue's tables are its package's own.
        ours = {"include_name": lambda name, kind, _: not str(name).startswith("procrastinate")}
        context = MigrationContext.configure(connection, opts=ours)
        assert compare_metadata(context, Base.metadata) == []


def test_the_cluster_wants_a_password_and_listens_on_loopback_only(database_url: str) -> None:
    with psycopg.connect(database_url) as connection:
        assert connection.execute("show listen_addresses").fetchone() == ("127.0.0.1",)
        assert connection.execute("show unix_socket_directories").fetchone() == ("",)
    with pytest.raises(psycopg.OperationalError):
        psycopg.connect(database_url.replace("openfurrow:", "openfurrow:wrong"))


def test_a_second_start_is_refused_in_words_and_data_outlives_a_stop() -> None:
    with throwaway_home() as home:
        with private_cluster(home, lasting=False) as url:
            with (
                pytest.raises(StoreError, match="already running"),
                private_cluster(home, lasting=False),
            ):
                pass
            with psycopg.connect(url) as connection:
                connection.execute("create table kept as select 7 as number")
        with pytest.raises(psycopg.OperationalError):
            psycopg.connect(url)
        with private_cluster(home, lasting=False) as again, psycopg.connect(again) as connection:
            assert connection.execute("select number from kept").fetchone() == (7,)


def test_a_server_left_behind_by_a_killed_start_is_ended_first() -> None:
    script = (
        "import sys, os, pathlib\n"
        "from openfurrow.store.cluster import private_cluster, throwaway_home\n"
        "with private_cluster(pathlib.Path(sys.argv[1]), lasting=False) as url:\n"
        "    print(url, flush=True)\n"
        "    os.kill(os.getpid(), 9)\n"
    )
    with throwaway_home() as home:
        killed = subprocess.run(
            [sys.executable, "-c", script, str(home)],
            cwd=ROOT,
            capture_output=True,
            text=True,
            check=False,
        )
        assert killed.returncode == -9
        with psycopg.connect(killed.stdout.strip()) as connection:
            assert connection.execute("select 1").fetchone() == (1,)
        with private_cluster(home, lasting=False) as url, psycopg.connect(url) as connection:
            assert connection.execute("select 1").fetchone() == (1,)
        with pytest.raises(psycopg.OperationalError):
            psycopg.connect(killed.stdout.strip())


def test_another_kind_of_database_is_refused() -> None:
    with pytest.raises(StoreError, match="postgresql://"):
        open_database("sqlite:///x.db")


@pytest.mark.parametrize("number", [signal.SIGINT, signal.SIGTERM])
def test_start_serves_and_stops_cleanly(database_url: str, number: signal.Signals) -> None:
    with running(database_url, number) as address:
        assert httpx.get(f"{address}/healthz").json() == {"status": "up"}
    with pytest.raises(httpx.ConnectError):
        httpx.get(f"{address}/healthz")


def test_a_cluster_that_dies_is_started_again_with_what_it_held() -> None:
    with throwaway_home() as home, private_cluster(home) as url:
        with psycopg.connect(url) as connection:
            connection.execute("create table kept as select 7 as number")
        pid = int((home / "postgres" / "postmaster.pid").read_text().splitlines()[0])
        os.kill(pid, signal.SIGKILL)
        deadline = time.monotonic() + 20
        found = None
        while found is None and time.monotonic() < deadline:
            with contextlib.suppress(psycopg.OperationalError), psycopg.connect(url) as connection:
                found = connection.execute("select number from kept").fetchone()
            time.sleep(0.1)
        assert found == (7,)
    with pytest.raises(psycopg.OperationalError):
        psycopg.connect(url)


def test_the_end_comes_whatever_is_being_computed(database_url: str, store: Engine) -> None:
    """A thread that never returns, a lock that is held: Ctrl-C ends it all the same."""
    script = (
        "import sys, time\n"
        "import openfurrow.web.ground as ground\n"
        "ground.sun_through_day = lambda *a: time.sleep(600)\n"
        "from openfurrow.cli import main\n"
        "sys.exit(main(['start', '--port', '0', '--no-demo']))\n"
    )
    process = subprocess.Popen(
        [sys.executable, "-c", script],
        cwd=ROOT,
        stdout=subprocess.PIPE,
        env=os.environ | {"DATABASE_URL": database_url},
        text=True,
    )
    assert process.stdout
    try:
        address = process.stdout.readline().split()[3]
        # On a busy machine it listens a while after it has said where.
        for _ in range(100):
            with suppress(httpx.ConnectError):
                httpx.get(address)
                break
            time.sleep(0.2)
        with signed_in(address, PLANNER) as client:
            job = client.get("/jobs").json()[0]["id"]
            with pytest.raises(httpx.TimeoutException):
                client.get(f"/jobs/{job}/sun", params={"day": "2026-06-21"}, timeout=0.5)
        process.send_signal(signal.SIGINT)
        assert process.wait(timeout=10) is not None
    finally:
        process.kill()
        process.wait()
        process.stdout.close()


def test_the_demo_is_only_where_its_own_cluster_is(database_url: str, engine: Engine) -> None:
    """Another server's database gets no accounts whose passwords are in the sources."""
    with engine.begin() as connection:
        connection.execute(text("truncate account, job cascade"))
    process = subprocess.Popen(
        [sys.executable, "-m", "openfurrow.cli", "start", "--port", "0"],
        cwd=ROOT,
        text=True,
        env=os.environ | {"DATABASE_URL": database_url},
        stdout=subprocess.PIPE,
    )
    assert process.stdout
    try:
        said = [process.stdout.readline() for _ in range(2)]
        process.send_signal(signal.SIGINT)
        process.wait(timeout=10)
    finally:
        process.kill()
        process.wait()
        process.stdout.close()
    assert "password" not in "".join(said)
    with engine.connect() as connection:
        assert connection.execute(text("select count(*) from account")).scalar_one() == 0


def test_a_worker_ends_with_a_server_that_is_killed_outright(database_url: str, engine: Engine) -> None:
    process = subprocess.Popen(
        [sys.executable, "-m", "openfurrow.cli", "start", "--port", "0", "--no-demo"],
        cwd=ROOT,
        text=True,
        env=os.environ | {"DATABASE_URL": database_url},
        stdout=subprocess.PIPE,
    )
    assert process.stdout
    process.stdout.readline()

    def workers() -> list[Path]:
        found = []
        for entry in Path("/proc").glob("[0-9]*/cmdline"):
            with contextlib.suppress(OSError):
                words = entry.read_bytes().split(b"\0")
                environment = (entry.parent / "environ").read_bytes()
                if b"work" in words and database_url.encode() in environment:
                    found.append(entry)
        return found

    deadline = time.monotonic() + 20
    while not workers() and time.monotonic() < deadline:
        time.sleep(0.1)
    assert workers()
    process.kill()
    process.wait()
    process.stdout.close()
    while workers() and time.monotonic() < deadline + 20:
        time.sleep(0.1)
    assert workers() == []
