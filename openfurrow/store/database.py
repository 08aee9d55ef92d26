"""The connection to PostgreSQL and its schema."""

from importlib.resources import files

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine

from openfurrow.store.errors import StoreError


def open_database(url: str) -> Engine:
    """An engine for a PostgreSQL address. Raises StoreError for another kind of database."""
    address = url.replace("postgres://", "postgresql://", 1)
    if not address.startswith("postgresql"):
        raise StoreError("DATABASE_URL must begin with postgresql://")
    address = address.replace("postgresql://", "postgresql+psycopg://", 1)
    return create_engine(address, pool_size=8, max_overflow=8, pool_pre_ping=True)


def migrate(engine: Engine) -> None:
    """Bring the schema up to date; safe to repeat."""
    config = Config()
    config.set_main_option("script_location", str(files("openfurrow.store") / "migrations"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
