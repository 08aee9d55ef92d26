"""What every family's members say to the stages that cut, buy, draw and mark them."""

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import Section
from openfurrow.core.structures.purlins import Purlin
from openfurrow.core.structures.strain import Strain
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Piece:
    """Pieces of one profile, alike but for their length.

    ``key`` is its line in the materials, ``title`` the item there and ``where`` its note; ``cut`` is
    what the saw's list calls it. One is ``each``: a post, a bent, or what the word says. ``lengths_m``
    are from bolt to bolt where both ends are ``bolted``: the saw leaves more at each. What comes not
    ``from_stick`` is bought as it is, or runs off a coil.
    """

    key: str
    title: str
    cut: str
    where: str
    profile: str
    mass_kg_per_m: float
    lengths_m: Floats
    each: str
    bolted: bool = False
    from_stick: bool = True

    @property
    def longest_m(self) -> float:
        """The longest of them."""
        return float(self.lengths_m.max())


@dataclass(frozen=True)
class Ply:
    """Steel around a bolt's hole: the profile, and how far it runs on past the middle of the hole.

    ``past_m`` is None where that is what the saw leaves past a bolt.
    """

    section: Section
    past_m: float | None = None


def in_web(section: Section, share: float = 0.5) -> Ply:
    """A hole in the web, so much of the depth from the edge."""
    return Ply(section, share * section.depth_m)


@dataclass(frozen=True)
class Grip:
    """What one bolt holds square to itself at worst, and the plies that it goes through.

    ``lapped``: two webs lie on each other, so that it is cut through once whatever holds the posts.
    """

    force_n: float
    plies: tuple[Ply, ...]
    lapped: bool = False


@dataclass(frozen=True)
class Fixing:
    """Small parts of one kind: their line in the materials, how many, and where they go.

    ``grip`` is what one feels, where it is a bolt; else its maker rates it, or it carries nothing.
    """

    key: str
    title: str
    count: int
    where: str
    grip: Grip | None = None
    rated: bool = False


@dataclass(frozen=True, kw_only=True)
class Stock:
    """What lies along the row in pieces of stock: purlins, or the pipes of a grid.

    ``lines`` of a table, each a ``word``; ``title`` is its line in the materials, ``cut`` what the
    saw's list calls a piece. Pieces lap at a splice, ``laps``, or meet in it; ``splice`` are its parts,
    how many, and where they go, ``splice_key`` their line in the materials. ``under_rails``: modules
    are clamped to rails up the slope that lie on it, not to it.
    """

    lines: int
    word: str
    title: str
    cut: str
    laps: bool
    under_rails: bool
    splice_key: str
    splice: str
    parts: int
    where: str


@dataclass(frozen=True)
class Used:
    """A member by its kind and profile, and how much of what it can bear is used."""

    what: str
    profile: str
    share: float


class InclinedBeam(Protocol):
    """A beam from the lower to the upper edge of a table, on its posts."""

    @property
    def section(self) -> Section:
        """Its profile."""

    @property
    def start_m(self) -> float:
        """Where it begins, from the lower edge of the glass."""

    @property
    def end_m(self) -> float:
        """The beam past the outer purlins."""

    @property
    def length_m(self) -> float:
        """The whole of it."""

    @property
    def places_m(self) -> Floats:
        """Where purlins cross it, from the lower edge of the glass."""


class WindAlong(Protocol):
    """What wind along the row pushes with."""

    @property
    def table_n(self) -> Floats:
        """On each table, unfactored."""


class Members(Protocol):
    """The members of the worst table."""

    @property
    def beam(self) -> InclinedBeam | None:
        """Of every post, or bent; none where purlins lie on piles."""

    @property
    def places_m(self) -> Floats:
        """Where purlins lie, or pipes under rails, from the lower edge of the glass."""

    @property
    def purlin(self) -> Purlin:
        """The one that is used most."""

    @property
    def stock(self) -> "Stock":
        """What lies along the row: how many lines a table has, and how their pieces meet."""

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """What is cut besides posts and purlins."""

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """What holds posts and pieces together; splices are counted by the frame."""

    @property
    def used(self) -> tuple[Used, ...]:
        """How much of each is used; posts are for the footings to say."""

    @property
    def along(self) -> WindAlong:
        """Wind along the row."""

    @property
    def strains(self) -> tuple[Strain, ...]:
        """Bents in the cases that press and lift them hardest."""

    @property
    def at_posts(self) -> tuple[str, Floats] | None:
        """A length that is marked at each post, and of what it is."""

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """What the frame answers on pieces that are no beams."""


def beam_piece(beam: InclinedBeam, count: int, each: str) -> Piece:
    """The inclined beams: all alike, one on each post or on each bent."""
    return Piece(
        key="beam",
        title="Inclined beam",
        cut="inclined beam",
        where=f"One on each {each}.",
        profile=beam.section.name,
        mass_kg_per_m=beam.section.mass_kg_per_m,
        lengths_m=np.full(count, beam.length_m),
        each=each,
    )


BOLTS_A_CROSSING, BOLTS_A_SPLICE = 2, 4


def purlin_stock(lines: int) -> Stock:
    """Purlins that lap at their splices."""
    return Stock(
        lines=lines,
        word="purlin",
        title="Purlin stock",
        cut="purlin piece",
        laps=True,
        under_rails=False,
        splice_key="splice_bolt",
        splice="Bolt, purlin splice",
        parts=BOLTS_A_SPLICE,
        where="Four a splice.",
    )


def crossing_bolts(bents: int, lines: int, purlin: Purlin, beam: Section) -> Fixing:
    """What holds purlins on beams, by their webs: what presses, lifts or slides goes through them."""
    row_m = float(purlin.line.tributary_m.max())
    square_n = max(purlin.load_n_per_m * row_m, purlin.lift_n_per_m * row_m, purlin.crossing_n)
    force_n = math.hypot(square_n, purlin.slope_n_per_m * row_m) / BOLTS_A_CROSSING
    return Fixing(
        "purlin_bolt",
        "Bolt, purlin to beam",
        bents * lines * BOLTS_A_CROSSING,
        "Two a crossing.",
        # Two bolts, one over the other, in the web of the purlin.
        Grip(force_n, (in_web(purlin.section, 0.25), in_web(beam, 0.25)), lapped=True),
    )


def beam_answer(beam: InclinedBeam, bents: int) -> Answer:
    """How long inclined beams are cut."""
    first, last = float(beam.places_m[0]), float(beam.places_m[-1])
    return Answer(
        "frame",
        "beam",
        "Cut inclined beams at",
        Working(
            "L_b",
            "y_last - y_first + 2 * e",
            (
                Input("y_last", "upper purlin from the lower edge", last, "tape"),
                Input("y_first", "lower purlin from the lower edge", first, "tape"),
                Input("e", "beam beyond the purlin", beam.end_m, "tape"),
            ),
            beam.length_m,
            "tape",
            GEOMETRY,
            f"{bents} of them, {beam.section.name}.",
        ),
        True,
    )
