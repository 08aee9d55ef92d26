"""Driven posts: the working behind each depth, and what would stop them."""

from openfurrow.core.checks import Check, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.depth_rules import depth_checks, post_answers, post_checks, slab_checks
from openfurrow.core.footings.depths import depth_answers, depth_headlines, length_answer
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.ground_rules import (
    place_answers,
)
from openfurrow.core.footings.movement import driven_bends, movement_answers, movement_checks, moves_of
from openfurrow.core.footings.posts import Posts
from openfurrow.core.footings.proof_rules import proof_answers, proof_checks
from openfurrow.core.footings.rust_answers import rust_answers
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import (
    Answer,
)


def driven_answers(
    posts: Posts, structure: StructurePlan, site: SitePlan, givens: FootingsGivens
) -> tuple[Answer, ...]:
    """The depth and what governs it, one way of failing after the other, the soil."""
    return (
        *depth_headlines(posts, site, givens),
        length_answer(posts, structure),
        *depth_answers(posts, site),
        *post_answers(posts),
        *proof_answers(posts, site, structure, givens),
        *rust_answers(site.rule_pack, givens, posts.post),
        *movement_answers(
            moves_of(posts, structure.posts.kinds, driven_bends(posts), givens.loose_top_m)
        ),
        *place_answers(posts, structure.supports, site),
    )


def driven_checks(
    posts: Posts, stand: Stand, site: SitePlan, givens: FootingsGivens
) -> tuple[Check, ...]:
    """Deep enough for every load, drivable, strong enough."""
    lone = not stand.spaced
    return (
        *depth_checks(posts, site),
        *slab_checks(posts),
        *proof_checks(posts, stand, givens),
        within(
            "footings",
            "drivable",
            "A small rig can drive it",
            posts.depth_m,
            constant("common", "drivable_m"),
            "tape",
            most=True,
            remedy=(
                "A wider pole, fewer modules on it or a lower table; else a bored pier."
                if lone
                else "Closer posts, a wider section or a lower table; else bored piers."
            ),
            given="rows.modules_along" if lone else "structure.span_limit_m",
            # No post is bought so long, nor goes down so far.
            otherwise="stop" if posts.depth_m > constant("common", "deepest_post_m").value else "look",
        ),
        *post_checks(posts, stand),
        *movement_checks(moves_of(posts, stand.kinds, driven_bends(posts), givens.loose_top_m), givens),
    )
