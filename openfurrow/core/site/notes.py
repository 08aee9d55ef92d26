"""What the authority said: limits become checks of later stages, and promises are kept in view."""

from dataclasses import dataclass
from datetime import date
from typing import Literal

from openfurrow.core.checks import Check, Level, holds
from openfurrow.core.givens import Thing, given
from openfurrow.core.working import Source

Topic = Literal[
    "height limit",
    "boundary setback",
    "visibility",
    "fence",
    "drawing",
    "stamp",
    "inspection",
    "other",
]
# The stage in which an open note of a topic is met.
STAGE_OF: dict[str, str] = {
    "visibility": "rows",
    "fence": "site",
    "drawing": "site",
    "stamp": "footings",
    "inspection": "trench",
    "other": "site",
}


class NoteGivens(Thing):
    """One thing an authority asked for, with who said it and when."""

    topic: Topic = given(
        "height limit",
        "About",
        "choice",
        "What it is about; limits are checked from here on.",
        "Permit office, heritage, airfield, grid company, neighbours.",
    )
    limit_m: float | None = given(
        None,
        "Limit",
        "run",
        "The figure, for a height limit or a setback.",
        "Their own words, with the clause.",
        low=0,
        high=200,
        usual=(1, 15),
    )
    words: str = given(
        "", "What was said", "text", "As they put it.", "The letter or the call.", length=300
    )
    who: str = given("", "Who said it", "text", "Name and office.", "Ask for it.", length=120)
    said_on: date | None = given(None, "When", "date", "The day it was said.", "The letter or call.")
    settled: bool = given(
        False,
        "Settled",
        "yes_no",
        "Done, delivered or agreed.",
        "Yes once it is in writing.",
    )

    def shown(self) -> frozenset[str]:
        """A limit only where there is one."""
        names = set(type(self).model_fields)
        if self.topic in ("height limit", "boundary setback"):
            return frozenset(names - {"settled"})
        return frozenset(names - {"limit_m"})


@dataclass(frozen=True)
class Limits:
    """The tightest of each limit that was said, with who said so."""

    height_m: float | None
    height_source: Source
    setback_m: float | None
    setback_source: Source


def _said(note: NoteGivens) -> Source:
    parts = [note.who.strip() or "the authority", note.said_on.isoformat() if note.said_on else ""]
    return Source(", ".join(part for part in parts if part), "given")


def limits_of(notes: tuple[NoteGivens, ...]) -> Limits:
    """The lowest height and the widest setback."""
    heights = [(n.limit_m, n) for n in notes if n.topic == "height limit" and n.limit_m is not None]
    setbacks = [
        (n.limit_m, n) for n in notes if n.topic == "boundary setback" and n.limit_m is not None
    ]
    nobody = Source("nobody has said", "given")
    height = min(heights, key=lambda pair: pair[0], default=None)
    setback = max(setbacks, key=lambda pair: pair[0], default=None)
    return Limits(
        height[0] if height else None,
        _said(height[1]) if height else nobody,
        setback[0] if setback else None,
        _said(setback[1]) if setback else nobody,
    )


def note_checks(notes: tuple[NoteGivens, ...]) -> dict[str, tuple[Check, ...]]:
    """By stage, one check for each topic that was raised: sound once every note of it is settled."""
    found: dict[str, tuple[Check, ...]] = {}
    for topic, stage in STAGE_OF.items():
        raised = [note for note in notes if note.topic == topic]
        if not raised:
            continue
        still = [note for note in raised if not note.settled]
        first = (still or raised)[0]
        # What is asked of a drawing can wait for the desk; a stamp or an inspection stops the crew.
        otherwise: Level = "stop" if topic in ("stamp", "inspection") else "look"
        check = holds(
            stage,
            topic,
            f"Authority: {topic}",
            not still,
            f"open: {first.words.rstrip('. ') or topic}" if still else "settled",
            "settled, by name and date",
            remedy=f"Ask {first.who.strip() or 'the authority'}, and write down who said what and "
            "when.",
            source=_said(first),
            given="site.notes",
            otherwise=otherwise,
        )
        found[stage] = (*found.get(stage, ()), check)
    return found
