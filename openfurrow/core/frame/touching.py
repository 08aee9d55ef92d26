"""Metals that lie on each other in the rain: what eats which, and what has to lie between them."""

from dataclasses import dataclass
from typing import Literal

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import RulePack, table
from openfurrow.core.codes.section import Section, section
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.site.givens import AirBites
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import Answer, Input, Working

Adds = Literal["little", "some", "much"]
COLUMNS: dict[AirBites, str] = {
    "country or town": "country",
    "smoke or industry": "industry",
    "salt of the sea": "sea",
}
ZINC, LIGHT, CABLE = "zinc-coated steel", "aluminium", "cable"
STAINLESS = ("stainless", "A2-70")
BY_A_LUG = "a lug that is tinned and listed for both; the copper itself hangs free"
# Where a module lies on what carries it.
PLACES_A_MODULE = 4
# Pieces that lie on each other.
LIES_ON = (
    ("line", "beam"),
    ("rail", "line"),
    ("beam", "post"),
    ("strut", "post"),
    ("strut", "beam"),
    ("brace", "post"),
)
# What has a strap of its own, or stands in the ground.
GROUNDED = frozenset({"line", "rail", "post"})
BOLTS_A_CROSSING, ENDS_OF_A_BRACE = 2, 2


@dataclass(frozen=True)
class Touch:
    """Two parts that lie on each other, what each is made of, and what that adds to rust.

    ``places`` is how many pads would part them; ``parted_by`` what keeps them apart whatever is said.
    ``cut_off`` are the pieces that pads would leave without a path to the rods: what, and how many.
    """

    parts: str
    one: str
    other: str
    adds: Adds
    places: int = 0
    parted_by: str = ""
    cut_off: tuple[str, int] = ("", 0)

    @property
    def wants_parting(self) -> bool:
        """Whether it lasts only if something lies between."""
        return self.adds != "little" and not self.parted_by


def touches(
    structure: StructurePlan, modules: int, givens: FrameGivens, pack: RulePack, air: AirBites
) -> tuple[Touch, ...]:
    """Every pair of unlike metals in a table: modules, pieces, bolts, copper."""
    members, made = structure.members, _made(structure)
    carries = "rail" if members.stock.under_rails and "rail" in made else "line"
    words = {"line": members.stock.word} | {key: key for key in made if key != "line"}
    on = _of(made[carries])
    found = [
        Touch(
            f"modules on the {words[carries]}",
            LIGHT,
            on,
            _adds(on, LIGHT, air),
            PLACES_A_MODULE * modules if on != LIGHT else 0,
        )
    ]
    pieces = {one.key: one.lengths_m.size for one in members.pieces}
    alone = _cut_off(made)
    for upper, lower in LIES_ON:
        if upper in made and lower in made and _of(made[upper]) != _of(made[lower]):
            whole = alone and upper in alone
            found.append(
                Touch(
                    f"{words[upper]} on {words[lower]}",
                    _of(made[upper]),
                    _of(made[lower]),
                    _adds(ZINC, LIGHT, air),
                    _places(structure, upper, lower),
                    cut_off=(upper, pieces.get(upper, 0)) if whole else ("", 0),
                )
            )
            # One strap is enough, wherever else it is parted too.
            alone = alone - {upper}
    grade = givens.grade_us if pack == "us" else givens.grade_metric
    bolts = "stainless bolts" if grade in STAINLESS else "zinc-coated bolts"
    metals = sorted({_of(one) for one in made.values()})
    found += [
        Touch(f"bolts in {of}", of, bolts, _adds(of, bolts, air))
        for of in metals
        if (of, bolts) != (ZINC, "zinc-coated bolts")
    ]
    found += [
        Touch(f"bare copper at {of}", of, "bare copper", _adds(of, "bare copper", air), 0, BY_A_LUG)
        for of in sorted({LIGHT, *metals})
    ]
    return tuple(found)


def _places(structure: StructurePlan, upper: str, lower: str) -> int:
    """In how many places a piece lies on another."""
    members = structure.members
    pieces = {one.key: one.lengths_m.size for one in members.pieces}
    if upper == "line":
        bolts = next((one.count for one in members.fixings if one.key == "purlin_bolt"), 0)
        return bolts // BOLTS_A_CROSSING
    if upper == "rail":
        return pieces["rail"] * int(members.places_m.size)
    if (upper, lower) == ("beam", "post"):
        return structure.supports.count
    return pieces[upper] * (ENDS_OF_A_BRACE if upper == "brace" else 1)


def _cut_off(made: dict[str, Section]) -> frozenset[str]:
    """Pieces that touch nothing of their own metal which has a path to the rods."""
    reached = GROUNDED & made.keys()
    while True:
        more = {
            one
            for pair in LIES_ON
            for one, other in (pair, pair[::-1])
            if one in made and other in reached and _of(made[one]) == _of(made[other])
        }
        if more <= reached:
            return frozenset(made) - reached
        reached = reached | more


def touching_check(found: tuple[Touch, ...], givens: FrameGivens) -> Check:
    """Whether everything that wants parting is parted."""
    open_ = [one for one in found if one.wants_parting]
    worst = ", ".join(f"{one.parts} ({one.one}, {one.other})" for one in open_)
    return holds(
        "frame",
        "metals",
        "Unlike metals that lie on each other are parted",
        not open_ or givens.metals_parted,
        "parted by pads" if open_ and givens.metals_parted else worst or "none that eats another",
        "nothing that one metal eats of another",
        remedy="Pads and sleeves of rubber or nylon between them, stainless washers with them under "
        "bolts: say so here, and they are bought. Not the bond: that goes by its own strap or lug.",
        source=table("common", "contact").source,
        given="frame.metals_parted",
        otherwise="look",
    )


def touching_answer(found: tuple[Touch, ...], givens: FrameGivens) -> tuple[Answer, ...]:
    """How many pads there are, where they are wanted."""
    pads = pads_of(found, givens)
    if not pads:
        return ()
    return (
        Answer(
            "frame",
            "pads",
            "Pads between unlike metals",
            Working(
                "n",
                "",
                tuple(
                    Input(f"n_{number + 1}", one.parts, float(one.places), "count")
                    for number, one in enumerate(found)
                    if one.wants_parting and one.places
                ),
                float(pads),
                "count",
                table("common", "contact").source,
                "One wherever they lie on each other; bolts through them have sleeves.",
            ),
        ),
    )


def pads_of(found: tuple[Touch, ...], givens: FrameGivens) -> int:
    """Pads that are laid: none where nobody parts anything."""
    return sum(one.places for one in found if one.wants_parting) if givens.metals_parted else 0


def _made(structure: StructurePlan) -> dict[str, Section]:
    """The profile of what lies along the row, of every piece, and of the post."""
    members = structure.members
    made = {"line": members.purlin.section}
    made |= {one.key: section(one.profile) for one in members.pieces if one.key != CABLE}
    post = structure.posts.bent.post
    return made | ({} if post is None else {"post": post})


def _of(profile: Section) -> str:
    return LIGHT if profile.aluminium else ZINC


def _adds(one: str, other: str, air: AirBites) -> Adds:
    """What touching adds; nothing where both are the same."""
    if one == other:
        return "little"
    data = table("common", "contact")
    pairs = list(zip(data.texts["one"], data.texts["other"], strict=True))
    found: dict[str, Adds] = {"little": "little", "some": "some", "much": "much"}
    return found[data.texts[COLUMNS[air]][pairs.index((one, other))]]
