"""Footing givens: driven posts on one line."""

from typing import Annotated

from pydantic import AfterValidator, Field

from openfurrow.core.codes.section import known_section
from openfurrow.core.givens import Givens, given

PostShift = tuple[
    Annotated[int, Field(ge=1, le=100_000)], Annotated[float, Field(ge=-6, le=6)]
]
PostName = Annotated[str, AfterValidator(known_section("post"))]


class FootingsGivens(Givens):
    """Posts, their spacing and what is known about how they hold."""

    post_section: PostName = given(
        "I 150 x 100 x 14", "Post", "section:post", "Rolled or cold-formed post, galvanised.",
        "What the merchant stocks; the section must carry the moment at the ground.", length=40,
    )
    span_limit_m: float = given(
        2.6, "Longest span", "tape", "Posts stand no further apart than this.",
        "Span table of the purlin; less under snow.", low=0.6, high=9, usual=(2, 5),
    )
    cantilever_ratio: float = given(
        0.35, "End overhang", "ratio", "Purlin beyond the end post, as a share of the span.",
        "A third balances the end span with the middle ones.", low=0, high=0.6, usual=(0.25, 0.45),
    )
    shifts: Annotated[tuple[PostShift, ...], Field(max_length=200)] = given(
        (), "Posts shifted", "shifts",
        "Posts that stand off their even place, along the row: the post's number and how far, positive "
        "toward the row's last post.",
        "Off a drain, a line, a boulder: inside what the span allows.",
    )
    half_inch_moves: bool = given(
        True, "13 mm at ground does no harm", "yes_no",
        "A rack that may move 13 mm (1/2 in) at ground may use twice the lateral bearing.",
        "IBC 1806.3.4; the rack's maker may say less.", pack="us",
    )
    pull_tested: bool = given(
        False, "Pull tests made", "yes_no",
        "Test posts driven to depth and pulled, force and movement read.",
        "Without: safety factor 3 on soil friction. With: 2.",
    )
    predrilled: bool = given(
        False, "What stops a post is drilled through", "yes_no",
        "Where a hole met refusal, posts go into drilled holes, packed tight again.",
        "Without: a post that stops short of what carries it is a stop.",
    )
    post_top_m: float = given(
        0.05, "Post above the bolt", "tape", "Steel beyond the beam's bolt, for the hole's edge.",
        "Two inches is usual; slotted tops want more.", low=0.02, high=0.4, usual=(0.04, 0.15),
    )
    depth_m: float | None = given(
        None, "Depth held at", "tape",
        "Depth in the ground. Left empty: the least that carries every load, rounded up.",
        "Hold it at the depth reached to learn whether a short post still carries.", low=0.3,
        high=6, usual=(1.2, 3),
        caution="Nothing is driven before the utility locate has answered for every line.",
    )
