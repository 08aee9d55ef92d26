"""Filling an empty store with the demo jobs and the two people who work on them."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from openfurrow.core.design import Design
from openfurrow.demo.designs import grifo, quillay
from openfurrow.demo.field_day import first_day
from openfurrow.demo.larkspur import LARKSPUR, larkspur_with_pump_house
from openfurrow.demo.marram import marram
from openfurrow.demo.varnbeck import varnbeck
from openfurrow.store.accounts import create_account
from openfurrow.store.field_records import add_records
from openfurrow.store.jobs import create_job, share
from openfurrow.store.tables import Account

PASSWORD = "larkspur-demo"
PLANNER, CREW_LEAD = "Wren Alder", "Tobin Reed"


def demo_jobs() -> tuple[Design, ...]:
    """The demo's jobs, the one that was worked on last at the end."""
    return marram(), quillay(), varnbeck(), grifo(), larkspur_with_pump_house()


def seed(session: Session, jobs: tuple[Design, ...] | None = None) -> bool:
    """Add the demo, or other jobs of its people, where nobody has an account yet; whether it did."""
    if session.scalar(select(Account).limit(1)):
        return False
    planner = create_account(session, PLANNER, PASSWORD)
    create_account(session, CREW_LEAD, PASSWORD)
    for design in jobs or demo_jobs():
        job = create_job(session, planner, design, "after the site visit")
        share(session, planner, job, CREW_LEAD, "editor")
        # What was measured is the demo's own: other jobs begin without.
        if jobs is None and design.name == LARKSPUR:
            crew = session.scalars(select(Account).where(Account.name == CREW_LEAD)).one()
            add_records(session, crew, job, first_day(design))
    return True
