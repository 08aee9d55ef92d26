"""The connection to PostgreSQL and its schema."""

from importlib.resources import files

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, text

from openfurrow.store.errors import StoreError

# One request holds at most one, and only while it reads or writes: computing holds none.
CONNECTIONS = 16
WAITS_S = 2
# What waits longer than this waits for something that will not come: it is told to come again.
LIMITS = {
    "lock_timeout": "3s",
    "statement_timeout": "10s",
    "idle_in_transaction_session_timeout": "15s",
}


def open_database(url: str) -> Engine:
    """An engine for a PostgreSQL address. Raises StoreError for another kind of database."""
    address = url.replace("postgres://", "postgresql://", 1)
    if not address.startswith("postgresql"):
        raise StoreError("DATABASE_URL must begin with postgresql://")
    address = address.replace("postgresql://", "postgresql+psycopg://", 1)
    options = " ".join(f"-c {name}={value}" for name, value in LIMITS.items())
    return create_engine(
        address,
        pool_size=CONNECTIONS,
        max_overflow=0,
        pool_timeout=WAITS_S,
        pool_pre_ping=True,
        # An error's text must not carry what someone typed, nor a password's hash, into a log.
        hide_parameters=True,
        connect_args={"options": options, "connect_timeout": 5},
    )


def for_reading(engine: Engine) -> Engine:
    """The same connections, in transactions that see one moment, lock nothing and write nothing."""
    return engine.execution_options(isolation_level="REPEATABLE READ", postgresql_readonly=True)


def migrate(engine: Engine) -> None:
    """Bring the schema up to date; safe to repeat."""
    config = Config()
    config.set_main_option("script_location", str(files("openfurrow.store") / "migrations"))
    with engine.begin() as connection:
        # A table that has grown large takes its time.
        connection.execute(text("set local statement_timeout = 0"))
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
