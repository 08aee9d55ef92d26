"""Utility locate: who was asked, who answered, until when the marks stand.

Judged for the day digging starts. The rule is local: both waiting time and life are givens.
"""

from dataclasses import dataclass
from datetime import date
from typing import Literal

import numpy as np

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import table
from openfurrow.core.givens import Thing, given
from openfurrow.core.working import Source

Utility = Literal["power", "gas or fuel", "water", "telecom", "sewer", "other"]
Reply = Literal["none yet", "marked", "nothing here"]
TicketState = Literal["not asked", "waiting", "late", "expired", "marked", "nothing here"]
LOCAL_RULE = Source(
    "common practice: nobody digs before every owner of lines has answered; state or national law "
    "sets the days",
    "common practice",
)


class TicketGivens(Thing):
    """What one owner of buried lines was asked and answered."""

    utility: Utility = given(
        "power",
        "Owner of",
        "choice",
        "Whose lines were asked for.",
        "The one-call centre lists its members; private lines are the customer's to show.",
    )
    who: str = given(
        "",
        "Ticket and name",
        "text",
        "Ticket number, and who took it.",
        "The confirmation.",
        length=120,
    )
    requested: date | None = given(
        None,
        "Asked on",
        "date",
        "The day the locate was asked for.",
        "The confirmation.",
    )
    responded: date | None = given(
        None,
        "Answered on",
        "date",
        "The day the owner answered or the marks were down.",
        "The positive response, or the flags.",
    )
    reply: Reply = given(
        "none yet",
        "Answer",
        "choice",
        "What the owner said.",
        "The positive response.",
    )
    expires: date | None = given(
        None,
        "Stands until",
        "date",
        "Last day the marks may be relied on. Left empty: by the life given for the place.",
        "The ticket.",
    )
    note: str = given("", "Note", "text", "Depth, caution, phone.", "The marker.", length=300)


@dataclass(frozen=True)
class TicketLine:
    """One owner's state on the day digging starts, in words."""

    utility: str
    state: TicketState
    words: str

    @property
    def settled(self) -> bool:
        """Whether digging may start as far as this owner goes."""
        return self.state in ("marked", "nothing here")


@dataclass(frozen=True)
class Locate:
    """Every owner that must answer, and others that were asked."""

    lines: tuple[TicketLine, ...]
    dig_date: date | None

    @property
    def day(self) -> str:
        """The day digging starts, in words."""
        return self.dig_date.isoformat() if self.dig_date else "no day yet"

    @property
    def settled(self) -> bool:
        """Whether every owner has answered and the answers still stand."""
        return self.dig_date is not None and all(line.settled for line in self.lines)

    @property
    def words(self) -> str:
        """What is open, in a few words."""
        if self.dig_date is None:
            return "no day is said on which digging starts"
        open_lines = [line.words for line in self.lines if not line.settled]
        if not open_lines:
            return f"all {len(self.lines)} answered"
        return "; ".join(open_lines[:3]) + (
            f"; {len(open_lines) - 3} more" if len(open_lines) > 3 else ""
        )


def working_days_after(start: date, days: int) -> date:
    """The day ``days`` working days after ``start``; weekends do not count, holidays are not known."""
    end = np.busday_offset(np.datetime64(start), days, roll="backward")
    return date.fromisoformat(str(end))


def _state(ticket: TicketGivens, dig: date | None, wait_days: int, life_days: int) -> TicketLine:
    utility = ticket.utility
    if ticket.requested is None and ticket.responded is None:
        return TicketLine(utility, "not asked", f"{utility} not asked")
    if dig is None:
        # Whether an answer stands depends on the day.
        return TicketLine(utility, "waiting", f"{utility} asked")
    if ticket.responded is None or ticket.reply == "none yet" or ticket.responded > dig:
        asked = ticket.requested or ticket.responded
        assert asked is not None
        due = working_days_after(asked, wait_days)
        if due < dig:
            return TicketLine(utility, "late", f"{utility} late since {due.isoformat()}")
        return TicketLine(utility, "waiting", f"{utility} due {due.isoformat()}")
    ends = ticket.expires or date.fromordinal(ticket.responded.toordinal() + life_days)
    if ends < dig:
        return TicketLine(utility, "expired", f"{utility} expired {ends.isoformat()}")
    return TicketLine(utility, ticket.reply, f"{utility} {ticket.reply}, until {ends.isoformat()}")


def locate(
    tickets: tuple[TicketGivens, ...], dig: date | None, wait_days: int, life_days: int
) -> Locate:
    """The state of every owner that must be asked; of several tickets to one, the best counts.

    ``dig`` is the day digging starts; None while nobody has said it, and then nothing is settled.
    """
    order = ("marked", "nothing here", "waiting", "late", "expired", "not asked")
    found: list[TicketLine] = []
    needed = table("common", "utility").texts["utility"]
    for utility in (*needed, "other"):
        lines = [_state(t, dig, wait_days, life_days) for t in tickets if t.utility == utility]
        if lines:
            found.append(min(lines, key=lambda line: order.index(line.state)))
        elif utility != "other":
            found.append(TicketLine(utility, "not asked", f"{utility} not asked"))
    return Locate(tuple(found), dig)


def locate_check(stage: str, found: Locate) -> Check:
    """Nothing that digs is sound while an owner of buried lines has not answered."""
    return holds(
        stage,
        "locate",
        "Buried lines are located",
        found.settled,
        found.words,
        f"every owner answered by {found.day}",
        remedy="Do not dig. Ask the one-call centre or the owner again, or move the day.",
        source=LOCAL_RULE,
        given="site.tickets" if found.dig_date else "site.dig_date",
    )
