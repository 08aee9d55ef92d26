"""Frame givens: the stock that is cut, what comes cut, and how pieces meet."""

from typing import Literal

from pydantic import ValidationInfo, field_validator

from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import INCH_M, either

GroundBelow = Literal["as it is", "weed cloth under gravel", "weed cloth under light stone"]
AS_IT_IS: GroundBelow = "as it is"
BELOW = "Ground below"
OF_BELOW = frozenset({"ground_beyond_m", "stone_deep_m", "stone_throws"})
SlotHeld = Literal["friction alone", "teeth", "a second bolt in a round hole"]
Comes = Literal["cut here from sticks", "cut to length"]
CUT_HERE: Comes = "cut here from sticks"
TWENTY_FEET = 6.096
OF_PIECES = frozenset({"piece_stock_m", "other_piece_stock_m", "beyond_bolt_m"})
OF_POSTS = frozenset({"post_stock_m"})


class FrameGivens(Givens):
    """What the crew cuts from and how it splices."""

    stock_length_m: float = given(
        7.3152,
        "Purlin stock",
        "tape",
        "Length that purlins, or the pipes of a grid, are delivered in.",
        "The merchant; the truck and two people set the limit.",
        low=2,
        high=15,
        usual=(5, 12),
        metric=6.0,
    )
    other_stock_m: float | None = given(
        None,
        "Purlin stock, or sticks of",
        "tape",
        "A second length that is sold as well. Lines are spliced for the longer; the saw takes from "
        "both what buys least.",
        "The merchant's list. Empty: one length.",
        low=2,
        high=15,
        usual=(4, 12),
    )
    lap_m: float = given(
        0.3048,
        "Splice lap",
        "tape",
        "Overlap of two purlin lengths at a splice; pipes meet in couplers.",
        "Twice the purlin's depth, at least.",
        low=0,
        high=2,
        usual=(0.2, 0.9),
        metric=0.3,
    )
    staggered: bool = given(
        True,
        "Every other line from the other end",
        "yes_no",
        "The same pieces laid from the row's other end: neighbours are not spliced in one bay.",
        "The drawing of the frame; as crews do it.",
    )
    pieces_come: Comes = given(
        CUT_HERE,
        "Beams, rails and braces",
        "choice",
        "Whether the crew cuts what lies across the row, with struts, from sticks, or it comes at its "
        "length, with its holes.",
        "The quotation. What comes cut waits for the posts to be measured, or has slots.",
    )
    piece_stock_m: float = given(
        TWENTY_FEET,
        "Their stock",
        "tape",
        "Length of the sticks that beams, rails, struts and braces are cut from.",
        f"The merchant: {either('20 ft, pipe 21 ft', '6 m')}.",
        low=1,
        high=15,
        usual=(4, 12),
        metric=6.0,
    )
    other_piece_stock_m: float | None = given(
        None,
        "Their stock, or sticks of",
        "tape",
        "A second length that is sold as well.",
        "The merchant's list. Empty: one length.",
        low=1,
        high=15,
        usual=(3, 12),
    )
    beyond_bolt_m: float = given(
        0.04,
        "Beyond a bolt",
        "thickness",
        "What a strut, a brace or a base rail runs on past the bolt at each end.",
        f"Twice the bolt's size at the least: {either('1-1/2 in', '40 mm')} for the usual one.",
        low=0.01,
        high=0.3,
        usual=(0.025, 0.06),
        us=1.5 * INCH_M,
    )
    posts_come: Comes = given(
        "cut to length",
        "Posts",
        "choice",
        "Whether posts come at the length of the longest, or are cut from sticks each to its own.",
        "The quotation; pipe is nearly always cut here.",
    )
    post_stock_m: float = given(
        TWENTY_FEET,
        "Post stock",
        "tape",
        "Length of the sticks that posts are cut from.",
        f"The merchant: {either('20 ft, pipe 21 ft', '6 m, or 12 m')}.",
        low=1,
        high=15,
        usual=(5, 12),
        metric=6.0,
    )

    bolt_us: Literal["3/8", "1/2", "5/8", "3/4"] = given(
        "5/8",
        "Bolts of the frame",
        "choice",
        "Nominal size, in inches, of what holds posts, beams, braces and purlins together.",
        "The drawing of the frame.",
        pack="us",
        group="Bolts",
    )
    grade_us: Literal["A307", "A325", "stainless"] = given(
        "A325",
        "Their grade",
        "choice",
        "A307 is plain, A325 is hardened; stainless is reckoned as A307 is.",
        "The mark on the head.",
        pack="us",
        group="Bolts",
    )
    bolt_metric: Literal["M8", "M10", "M12", "M16", "M20"] = given(
        "M16",
        "Bolts of the frame",
        "choice",
        "What holds posts, beams, braces and purlins together.",
        "The drawing of the frame.",
        pack="metric",
        group="Bolts",
    )
    grade_metric: Literal["4.6", "8.8", "10.9", "A2-70"] = given(
        "8.8",
        "Their grade",
        "choice",
        "8.8 is usual, galvanised; A2-70 is stainless.",
        "The mark on the head.",
        pack="metric",
        group="Bolts",
    )
    bolt_faces: Literal["one side", "both sides"] = given(
        "one side",
        "Steel that a bolt holds lies on",
        "choice",
        "One side: it is cut through once. Both sides, as in a fork: twice.",
        "The drawing of the head and of the brackets.",
        group="Bolts",
    )
    bolt_torque_n_m: float | None = given(
        None,
        "Tightened to",
        "torque",
        "As the frame's maker says. Left empty: reckoned for dry zinc-plated threads.",
        "The frame's instructions, and nobody's memory.",
        low=1,
        high=1000,
        usual=(20, 150),
        group="Bolts",
    )
    fittings_rated: bool = given(
        False,
        "Clamps and fittings are rated",
        "yes_no",
        "Whether saddles, U-bolts, heads, eye bolts and grips were held against their maker's ratings.",
        "Their sheets, and what the structure says that posts, rails and cables bring.",
        group="Bolts",
    )
    bracket_m: float | None = given(
        None,
        "Brackets and cleats are thick",
        "thickness",
        "What joins profiles besides their bolts, of plain steel at the worst, its holes as far from "
        "the edge as a saw leaves. Left empty: they are not looked at.",
        "A caliper; the drawing of the frame.",
        low=0.001,
        high=0.03,
        usual=(0.003, 0.01),
        group="Bolts",
    )
    metals_parted: bool = given(
        False,
        "Pads between unlike metals",
        "yes_no",
        "Rubber or nylon between aluminium and zinc-coated steel, sleeves and washers at their bolts.",
        "The rule below says where they matter.",
        group="Bolts",
    )
    ground_below: GroundBelow = given(
        AS_IT_IS,
        "Ground under the tables",
        "choice",
        "As it is: it is mown. Weed cloth under stone: nothing grows; light stone throws more light "
        "onto the back of two-faced modules.",
        "Who mows, and what grows there.",
        group=BELOW,
    )
    ground_beyond_m: float = given(
        0.3,
        "It reaches beyond the tables by",
        "tape",
        "All round, seen from above.",
        "A mower's width past the lower edge keeps stones out of its blades.",
        low=0,
        high=3,
        usual=(0.2, 0.6),
        group=BELOW,
        us=12 * INCH_M,
    )
    stone_deep_m: float = given(
        0.06,
        "Stone is thick",
        "tape",
        "Enough to hide the cloth from the sun, which eats it.",
        f"{either('2 to 3 in', '50 to 80 mm')} is usual.",
        low=0.02,
        high=0.3,
        usual=(0.05, 0.1),
        group=BELOW,
        us=2.5 * INCH_M,
    )
    stone_throws: float | None = given(
        None,
        "Stone throws back",
        "ratio",
        "Share of the light. Left empty: as its kind does once it has weathered.",
        "Gravel 25 %, light stone 45 % once dust is on it; new white stone more.",
        low=0.05,
        high=0.9,
        usual=(0.2, 0.6),
        group=BELOW,
    )
    hole_step_m: float = given(
        0.025,
        "Holes apart",
        "thickness",
        "Between the holes of a post's head; nought where it has one.",
        "The drawing of the head.",
        low=0,
        high=0.3,
        usual=(0.02, 0.05),
        group="Post heads",
        us=INCH_M,
    )
    holes_each_way: int = given(
        2,
        "Holes above and below",
        "count",
        "How many there are each way from the one that is planned.",
        "The drawing of the head.",
        low=0,
        high=20,
        usual=(1, 4),
        group="Post heads",
    )
    slot_m: float = given(
        0.0,
        "Slot",
        "thickness",
        "How far a bolt slides in its slot, from end to end; nought where holes are round.",
        "The drawing of the head.",
        low=0,
        high=0.3,
        usual=(0, 0.05),
        group="Post heads",
    )

    slot_held: SlotHeld = given(
        "friction alone",
        "A bolt in its slot is held by",
        "choice",
        "Friction: how hard it is drawn. Teeth: a washer that bites in a toothed head. A second bolt: "
        "in a round hole, drilled when the head is level.",
        "The drawing of the head.",
        group="Post heads",
    )

    def shown(self) -> frozenset[str]:
        """Sticks of what comes cut are asked of nobody."""
        shown = super().shown()
        shown -= frozenset() if self.pieces_come == CUT_HERE else OF_PIECES
        shown -= frozenset() if self.slot_m > 0 else frozenset({"slot_held"})
        shown -= OF_BELOW if self.ground_below == AS_IT_IS else frozenset()
        return shown - (frozenset() if self.posts_come == CUT_HERE else OF_POSTS)

    @property
    def stocks_m(self) -> tuple[float, ...]:
        """Sticks that purlins are cut from."""
        return _both(self.stock_length_m, self.other_stock_m)

    @property
    def piece_stocks_m(self) -> tuple[float, ...]:
        """Sticks that other pieces are cut from; none where they come cut."""
        if self.pieces_come != CUT_HERE:
            return ()
        return _both(self.piece_stock_m, self.other_piece_stock_m)

    @property
    def post_stocks_m(self) -> tuple[float, ...]:
        """Sticks that posts are cut from; none where they come cut."""
        return (self.post_stock_m,) if self.posts_come == CUT_HERE else ()

    @field_validator("lap_m")
    @classmethod
    def _lap_leaves_a_stick(cls, lap_m: float, info: ValidationInfo) -> float:
        stock = info.data.get("stock_length_m")
        if stock is not None and lap_m > stock / 3:
            raise ValueError("is more than a third of the purlin stock")
        return lap_m


def _both(usual_m: float, other_m: float | None) -> tuple[float, ...]:
    return (usual_m,) if other_m is None else tuple(sorted({usual_m, other_m}))
