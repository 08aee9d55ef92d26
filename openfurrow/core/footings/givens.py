"""Footing givens: what goes into the ground and what is known about how it holds."""

from typing import Literal

from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import either

FamilyName = Literal["driven post"]
Depths = Literal["each post's own", "alike in one soil", "alike for all"]


class FootingsGivens(Givens):
    """The family of the footing and everything that its families are told, side by side."""

    family: FamilyName = given(
        "driven post",
        "What goes into the ground",
        "choice",
        "The post itself, driven to the depth that carries it.",
        "The soil, the machine at hand, and what the authority accepts.",
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
    pull_tested: bool = given(
        False,
        "Pull tests made",
        "yes_no",
        "Test posts driven to depth and pulled, force and movement read.",
        "Without: safety factor 3 on soil friction. With: 2.",
    )
    predrilled: bool = given(
        False,
        "What stops a post is drilled through",
        "yes_no",
        "Where a hole met refusal, posts go into drilled holes, packed tight again.",
        "Without: a post that stops short of what carries it is a stop.",
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
