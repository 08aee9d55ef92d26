"""What is there: on the ground, in it and over it, as open geometry with kind and sureness."""

from dataclasses import dataclass
from functools import cache
from typing import Annotated, Literal

import shapely
from pydantic import AfterValidator, Field

from openfurrow.core.codes import table
from openfurrow.core.givens import Thing, given
from openfurrow.core.working import Source

Kind = Literal[
    "boundary",
    "building",
    "road",
    "fence",
    "tree",
    "rock outcrop",
    "wet ground",
    "water",
    "overhead line",
    "buried water",
    "buried gas or fuel",
    "buried power",
    "buried telecom",
    "septic tank",
    "septic field",
    "drain",
    "geothermal loop",
    "irrigation",
    "old footing",
    "gate",
    "truck path",
    "known point",
]
Sureness = Literal["measured", "marked", "from a plan", "guessed"]
Shape = Literal["point", "line", "area"]
# Finer than a nanometre nothing stands anywhere: points nearer than that are one.
Coordinate = Annotated[float, Field(ge=-5000, le=5000), AfterValidator(lambda metres: round(metres, 9))]
MOST_POINTS = 500
POINTS_NEEDED = {"point": 1, "line": 2, "area": 3}
# Shorter than this is a slip of the hand, and no line.
SMALLEST_M = 0.001
WIDE = frozenset({"road", "gate", "truck path", "fence", "drain"})


@dataclass(frozen=True)
class KindFacts:
    """How a kind is drawn and what keeps off it; None: may stand over it or cross it."""

    shape: Shape
    lies: str
    post_m: float | None
    glass_m: float | None
    trench_m: float | None
    by_hand: bool
    source: Source


@cache
def facts_of(kind: Kind) -> KindFacts:
    """The table's line for a kind."""
    kinds = table("common", "feature_kind")
    row = kinds.row("kind", kind)

    def distance(column: str) -> float | None:
        value = kinds.number(column, row)
        return None if value != value else value

    return KindFacts(
        kinds.texts["shape"][row],  # type: ignore[arg-type]
        kinds.texts["lies"][row],
        distance("post_m"),
        distance("glass_m"),
        distance("trench_m"),
        bool(kinds.number("by_hand", row)),
        kinds.source,
    )


class FeatureGivens(Thing):
    """One thing on the site."""

    name: str = given(
        "",
        "Called",
        "text",
        "What the crew calls it; left empty, its kind.",
        "As it stands on the ticket or the sketch.",
        length=80,
    )
    kind: Kind = given(
        "known point",
        "What it is",
        "choice",
        "Decides what keeps how far off and whether it is dug by hand.",
        "The marker's colour, the sketch, the owner.",
    )
    points: Annotated[tuple[tuple[Coordinate, Coordinate], ...], Field(max_length=MOST_POINTS)] = given(
        (),
        "Where",
        "route",
        "East and north of each point, in order.",
        "Tapes from two corners, offsets from a baseline, a receiver.",
    )
    how_sure: Sureness = given(
        "measured",
        "How sure",
        "choice",
        "measured: seen and taped. marked: sprayed or flagged. from a plan, guessed: not seen.",
        "Who found it, and how.",
    )
    band_m: float | None = given(
        None,
        "May lie off by",
        "tape",
        "How far either side it may really lie. Left empty: by how sure it is.",
        "The locator's own tolerance; half a trench for a drain.",
        low=0,
        high=20,
        usual=(0.05, 2),
    )
    depth_m: float | None = given(
        None,
        "Depth to its top",
        "tape",
        "Ground to the top of it. Left empty: not known.",
        "A test pit dug by hand; marks give no depth.",
        low=0,
        high=20,
        usual=(0.3, 2),
    )
    height_m: float | None = given(
        None,
        "Height",
        "run",
        "Top over the ground, or the lowest wire.",
        "Stick and shadow, or a clinometer.",
        low=0,
        high=100,
        usual=(1, 30),
    )
    width_m: float | None = given(
        None,
        "Width",
        "run",
        "Across it: a crown, a road, a gate, a pipe trench.",
        "Tape.",
        low=0,
        high=60,
        usual=(0.1, 12),
    )
    built_here: bool = given(
        False,
        "This job builds it",
        "yes_no",
        "A fence with its gates: posts, struts, mesh and gates stand in the list to buy.",
        "The contract; the authority's own rule for what must be fenced.",
    )
    setback_m: float | None = given(
        None,
        "Keep off by",
        "run",
        "Asked for by the authority or the owner. Left empty: the usual for its kind.",
        "Permit notes, deed, the network owner.",
        low=0,
        high=200,
        usual=(0, 15),
    )
    note: str = given(
        "",
        "Note",
        "text",
        "Anything the next one should know.",
        "Whoever told you.",
        length=300,
    )

    @property
    def facts(self) -> KindFacts:
        """What the table says of its kind."""
        return facts_of(self.kind)

    @property
    def label(self) -> str:
        """Its name, or its kind."""
        return self.name.strip() or self.kind

    @property
    def complete(self) -> bool:
        """Whether it has points enough for its shape, some extent, and sides that do not cross."""
        shape = self.facts.shape
        if len(self.points) < POINTS_NEEDED[shape]:
            return False
        if shape == "line":
            return bool(shapely.length(shapely.linestrings(self.points)) >= SMALLEST_M)
        if shape == "point":
            return True
        area = shapely.polygons(self.points)
        return bool(shapely.is_valid(area) and shapely.area(area) >= SMALLEST_M**2)

    def geometry(self) -> shapely.Geometry:
        """The thing itself, without width or band. Only for a complete one."""
        match self.facts.shape:
            case "point":
                return shapely.Point(self.points[0])
            case "line":
                return shapely.LineString(self.points)
            case "area":
                return shapely.Polygon(self.points)

    def shown(self) -> frozenset[str]:
        """Only what matters for its kind."""
        names = {"name", "kind", "points", "how_sure", "note"}
        facts = self.facts
        if facts.post_m is not None or self.kind == "boundary":
            names |= {"setback_m", "band_m"}
        if facts.lies == "buried":
            names.add("depth_m")
        if facts.lies in ("standing", "overhead"):
            names.add("height_m")
        if self.kind in WIDE or self.kind == "tree":
            names.add("width_m")
        if self.kind in ("fence", "gate"):
            names.add("built_here")
        return frozenset(names)
