"""Footing givens: what goes into the ground and what is known about how it holds."""

from typing import Annotated, Literal

from pydantic import AfterValidator

from openfurrow.core.codes.section import known_section
from openfurrow.core.footings import ballast_givens as ballast
from openfurrow.core.footings.blocks import BlockName
from openfurrow.core.footings.families import (
    OF_BLOCKS,
    OF_FAMILY,
    OF_HELIX,
    OF_ROCK,
    FamilyName,
)
from openfurrow.core.footings.pile_bases import BaseName, base
from openfurrow.core.givens import Givens, given
from openfurrow.core.members.rust import GroundBites
from openfurrow.core.quantities import FOOT_M, INCH_M, PSI_PA, either

PipeName = Annotated[str, AfterValidator(known_section("pipe"))]
Depths = Literal["each post's own", "alike in one soil", "alike for all"]


class FootingsGivens(Givens):
    """The family of the footing and everything that its families are told, side by side."""

    family: FamilyName = given(
        "driven post",
        "What goes into the ground",
        "choice",
        "Driven post: the post itself, to the depth that carries it. Ground screw: turned in, the post "
        "bolted on its head. Bored pier: the post stands in concrete that is poured into a bore. "
        "Ballast: boxes, trays or buckets on the ground, filled with concrete, stone or blocks; "
        "nothing is dug. Piled blocks: dry piles under the purlins themselves, nothing is dug either.",
        "The soil, the machine at hand, and what the authority accepts.",
    )
    why: str = given(
        "",
        "Why this one",
        "text",
        "Said where another was advised: it stays with the job.",
        "Whoever decided; footings side by side say what each comes to.",
        length=200,
    )
    box_side_m: float = ballast.BOX_SIDE
    filled_with: ballast.Filling = ballast.FILLED_WITH
    block: BlockName = ballast.BLOCK
    block_kg: float | None = ballast.BLOCK_KG
    sliding_friction: float = ballast.FRICTION
    weights: ballast.Alike = ballast.WEIGHTS
    tied_by: ballast.TiedBy = ballast.TIED_BY
    pile_joints: ballast.Joints = ballast.PILE_JOINTS
    pile_on: BaseName = ballast.PILE_ON
    screw_kind: Literal["with a helix", "rock screw"] = given(
        "with a helix",
        "Kind of screw",
        "choice",
        "A helix pulls itself in and is proved by its torque. A rock screw is threaded all along and "
        "turned into a drilled hole; pull one to prove it.",
        "What the test holes met.",
        group="Screw",
    )
    screw_section: PipeName = given(
        "pipe 2-1/2 in",
        "Shaft",
        "section:pipe",
        "Pipe is named by its bore, so 2-1/2 in is 73 mm outside.",
        "The check below; what the machine's head takes.",
        length=60,
        group="Screw",
    )
    helix_diameter_m: float = given(
        0.2,
        "Diameter of the helix",
        "tape",
        "One helix near the foot.",
        "Larger for soft soil, smaller for stones; 150 to 350 mm (6 to 14 in) is usual.",
        low=0.1,
        high=0.6,
        usual=(0.15, 0.35),
        group="Screw",
        us=8 * INCH_M,
    )
    rock_bond_pa: float | None = given(
        None,
        "Grip in drilled rock",
        "pressure",
        "Measured by pulling one, ultimate. Left empty: no more than in broken rock.",
        "A pull test in this rock.",
        low=10e3,
        high=2e6,
        usual=(100e3, 500e3),
        group="Screw",
    )
    screw_out_m: float = given(
        0.05,
        "Head above the ground",
        "tape",
        "What of the screw stands out.",
        "So that grass and water stay off the flange.",
        low=0,
        high=0.6,
        usual=(0.025, 0.15),
        group="Screw",
        us=2 * INCH_M,
    )
    torque_factor_per_m: float | None = given(
        None,
        "Holds for its torque",
        "per_metre",
        "Ultimate force for the torque that it took. Left empty: from the shaft's diameter; it spreads "
        "by a quarter and more from screw to screw.",
        "The maker's report, or a pull test divided by the torque of that screw.",
        low=5,
        high=80,
        usual=(15, 35),
        group="Screw",
    )
    machine_torque_n_m: float | None = given(
        None,
        "The machine turns with up to",
        "torque",
        "At its drive head. Left empty: not looked at.",
        "Its plate, or the gauge's table.",
        low=100,
        high=200e3,
        usual=(1500, 12000),
        group="Screw",
    )
    pier_diameter_m: float = given(
        0.3,
        "Diameter of the auger",
        "tape",
        "What the pier is taken to be wide; a bore that comes out wider holds no less.",
        "What can be hired: 0.3 to 0.6 m (1 to 2 ft) is usual.",
        low=0.15,
        high=1.5,
        usual=(0.3, 0.6),
        group="Pier",
        us=12 * INCH_M,
    )
    pier_side: Literal["against the soil", "in a form tube"] = given(
        "against the soil",
        "Poured",
        "choice",
        "In a form tube where the soil caves. Nothing grips a tube: weight and its foot alone hold it.",
        "The first bore: whether its wall stands.",
        group="Pier",
    )
    bell_diameter_m: float | None = given(
        None,
        "Widened at its foot to",
        "tape",
        "Cut at 60 degrees. Left empty: straight. Only clay above water stands in a bell.",
        "A belling tool, or by hand from above; nobody climbs into a bore.",
        low=0.2,
        high=3,
        usual=(0.4, 1.2),
        group="Pier",
    )
    bored_diameter_m: float | None = given(
        None,
        "Bores come out at",
        "tape",
        "How wide they are, measured. It is what the concrete is ordered for; what holds is still "
        "reckoned with the auger's width. Left empty: as wide as the auger.",
        "Two tapes across the first bores, at half their depth: stones make them wider.",
        low=0.15,
        high=2,
        usual=(0.3, 0.8),
        group="Pier",
    )
    pier_top_m: float = given(
        0.05,
        "Concrete above the ground",
        "tape",
        "Formed, and sloped so that water runs off.",
        f"{either('2 in', '50 mm')} and more keeps the post's foot dry.",
        low=0,
        high=0.6,
        usual=(0, 0.15),
        group="Pier",
        us=2 * INCH_M,
    )
    stone_m: float = given(
        0.1,
        "Stone below it",
        "tape",
        "Bored deeper by so much; depths are measured from its top.",
        "So that the post stands in no water, and the foot on clean ground.",
        low=0,
        high=0.5,
        usual=(0, 0.15),
        group="Pier",
        us=4 * INCH_M,
    )
    post_in_m: float | None = given(
        None,
        "Post in the concrete",
        "tape",
        f"How far below the ground the post reaches. Left empty: to {either('3 in', '75 mm')} above "
        "the foot of the pier.",
        "Shorter saves steel; then the concrete below it has to carry the moment by itself.",
        low=0.2,
        high=6,
        usual=(0.6, 2.4),
        group="Pier",
    )
    foot_bar: bool = given(
        True,
        "A bar through the post's foot",
        "yes_no",
        "So that it can neither be pulled out nor turn.",
        f"A hole through the post, a bar of {either('1/2 in', '12 mm')} through that.",
        group="Pier",
    )
    pier_bars: int = given(
        0,
        "Upright bars in a pier",
        "count",
        "A cage around the post. None: the post carries what bends the pier.",
        "An engineer; some authorities ask for one whatever the post carries.",
        low=0,
        high=16,
        usual=(0, 6),
        group="Pier",
    )
    pier_bar_m: float = given(
        0.012,
        "Diameter of those bars",
        "tape",
        "Deformed bars, tied by rings.",
        "The drawing.",
        low=0.008,
        high=0.04,
        usual=(0.01, 0.016),
        group="Pier",
        us=0.5 * INCH_M,
    )
    concrete_pa: float = given(
        20e6,
        "Strength of the concrete",
        "stress",
        "Of a cylinder after 28 days.",
        "The bag or the delivery note.",
        low=10e6,
        high=60e6,
        usual=(17e6, 30e6),
        group="Concrete",
        us=3000 * PSI_PA,
    )
    concrete_from: Literal["truck", "bags"] = given(
        "truck",
        "Concrete comes",
        "choice",
        "By truck or mixed from bags.",
        "What reaches the bores; a truck has a least load and a time to empty it.",
        group="Concrete",
    )
    bag_yield_m3: float = given(
        0.0116,
        "Concrete from a bag",
        "yield",
        "What one bag gives when it is mixed and placed.",
        f"Printed on the bag: {either('60 lb give 0.45 cu ft', '25 kg give 11.6 l')}.",
        low=0.002,
        high=0.1,
        usual=(0.008, 0.02),
        group="Concrete",
        us=0.45 * FOOT_M**3,
    )
    cure_days: int = given(
        7,
        "Days until it may be loaded",
        "count",
        "From the pour until a frame is built on it.",
        "7 is usual; the mix or the engineer may say otherwise, longer in the cold.",
        low=1,
        high=28,
        usual=(3, 14),
        group="Concrete",
    )
    stone_chance_per_m: float | None = given(
        None,
        "Chance of a stone a metre",
        "ratio",
        "That something stops a footing, for each metre it goes down. The planner's own guess, or what "
        "the last job met. Left empty: not looked at.",
        "Stops counted, over metres driven or bored.",
        low=0,
        high=0.9,
        usual=(0.01, 0.2),
        group="What may go wrong",
    )
    stone_hours: float = given(
        3.0,
        "A stone costs",
        "hours",
        "Hours of all people together, until it is broken, shifted or drilled.",
        "The crew's book; an hour and more for three is usual.",
        low=0,
        high=80,
        usual=(1, 8),
        group="What may go wrong",
    )
    bore_spread_m: float | None = given(
        None,
        "Bores differ by",
        "tape",
        "How much widths spread about what they come out at (one standard deviation). Left empty: not "
        "looked at.",
        "Widths of the first bores, measured one by one.",
        low=0,
        high=0.5,
        usual=(0.01, 0.08),
        group="What may go wrong",
    )
    strength_spread: float | None = given(
        None,
        "Strength of the ground spreads by",
        "ratio",
        "One standard deviation over the mean, from place to place in one soil. Left empty: not looked "
        "at.",
        "What tests in one soil found; 20 to 40 % is usual.",
        low=0.01,
        high=0.6,
        usual=(0.1, 0.4),
        group="What may go wrong",
    )
    alike_share: float = given(
        0.5,
        "Alike all over the job",
        "ratio",
        "How much of what differs is shared by all footings, as when the whole ground is stonier than "
        "was thought. The rest is each its own.",
        "Half, where nobody knows better.",
        low=0,
        high=0.95,
        usual=(0.2, 0.8),
        group="What may go wrong",
    )
    life_years: int = given(
        25,
        "Has to last",
        "count",
        "Years for which what stands in the soil has to carry: steel that rusts away carries nothing.",
        "What the owner was promised.",
        low=5,
        high=100,
        usual=(20, 40),
        group="Rust",
    )
    ground_bites: GroundBites = given(
        "natural ground",
        "Steel stands in",
        "choice",
        "Peat, marsh, salt, slag and ash bite; so does loose fill that is not known.",
        "Resistance under 30 ohm metres, or pH outside 5 to 10: ask for a test.",
        group="Rust",
    )
    zinc_m: float = given(
        85e-6,
        "Zinc on it",
        "coating",
        "Thickness of the galvanising on each face. The metric school takes nothing for it.",
        "ISO 1461 or ASTM A123, by the thickness of the steel; nought of bare steel.",
        low=0,
        high=300e-6,
        usual=(55e-6, 120e-6),
        pack="us",
        group="Rust",
    )
    half_inch_moves: bool = given(
        True,
        "A slight move at ground does no harm",
        "yes_no",
        f"A rack that may move {either('1/2 in', '13 mm')} at ground may use twice the lateral "
        "bearing.",
        "IBC 1806.3.4; the rack's maker may say less.",
        pack="us",
    )
    loose_top_m: float = given(
        0.0,
        "Holds nothing sideways down to",
        "tape",
        "Soil at the top that thaws soft in spring, is ploughed, or is dug up again beside it.",
        "Fine soil: the frost depth, where it thaws while storms still blow.",
        low=0,
        high=2,
        usual=(0, 0.6),
    )
    head_moves_m: float | None = given(
        None,
        "Bolts may move by",
        "thickness",
        "Sideways, in the worst wind. Left empty: told, and not judged.",
        "The maker of the rack or the module; a fiftieth of the height is often taken.",
        low=0.002,
        high=0.5,
        usual=(0.01, 0.06),
        group="Movement",
    )
    slab_holds: bool = given(
        False,
        "A slab holds it at the ground",
        "yes_no",
        "Concrete or paving that is poured around it and moves nowhere: it turns about its top then.",
        "IBC 1807.3.2.2: what holds it there is somebody's to design.",
        pack="us",
    )
    pull_tested: bool = given(
        False,
        "Pull tests made",
        "yes_no",
        "Pulled to what is asked of them with its safety. Driven posts that were tested are written "
        "down on Site, one by one.",
        "Without: safety factor 3 on soil friction. With: 2.",
    )
    test_moved_m: float = given(
        0.013,
        "A test gives way at",
        "thickness",
        "How far a post that was tested, on Site, may move at the ground, up, down or sideways: what "
        "it held until then counts.",
        "IBC 1806.3.4 takes half an inch as harmless; the rack's maker may say less.",
        low=0.002,
        high=0.05,
        usual=(0.006, 0.025),
        us=INCH_M / 2,
    )
    predrilled: bool = given(
        False,
        "What stops a post is drilled through",
        "yes_no",
        "Where a hole met refusal, posts go into drilled holes, packed tight again; bores are broken "
        "through.",
        "Without: a post or a bore that stops short of what carries it is a stop.",
    )
    depths: Depths = given(
        "alike in one soil",
        "Depths are",
        "choice",
        "Posts that carry less may end higher. Alike: as deep as the one that asks for most.",
        "Alike is one mark on the hammer and one length to order; each its own saves steel on a large "
        "field.",
    )
    depth_m: float | None = given(
        None,
        "Depth held at",
        "tape",
        "Depth in the ground. Left empty: the least that carries every load, rounded up.",
        "Hold it at the depth reached to learn whether a short post still carries.",
        low=0.3,
        high=6,
        usual=(1.2, 3),
        caution="Nothing is driven before the utility locate has answered for every line.",
    )

    def shown(self) -> frozenset[str]:
        """Those of the family that was chosen."""
        mine = OF_FAMILY[self.family]
        shown = super().shown() - (frozenset().union(*OF_FAMILY.values()) - mine)
        if self.family == "ballast" and self.filled_with != "blocks":
            shown -= OF_BLOCKS
        if self.family == "piled blocks" and not base(self.pile_on).tied:
            # Blocks outlast the array; wood does not.
            shown -= {"life_years"}
        if self.concrete_from == "truck":
            shown -= {"bag_yield_m3"}
        if self.family == "ground screw":
            # Torque proves a helix, a pull a rock screw.
            shown -= OF_ROCK if self.screw_kind == "with a helix" else OF_HELIX
            shown -= {"pull_tested"} if self.screw_kind == "with a helix" else frozenset()
        return shown - {"pier_bar_m"} if not self.pier_bars else shown
