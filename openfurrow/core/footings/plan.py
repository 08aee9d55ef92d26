"""Footings: what holds every support, with the working behind it and what would stop it."""

from dataclasses import dataclass

from openfurrow.core.checks import Check, Mend, holds, mended_by
from openfurrow.core.footings.driven import driven_answers, driven_checks
from openfurrow.core.footings.givens import FamilyName, FootingsGivens
from openfurrow.core.footings.ground_rules import place_checks, unplaced
from openfurrow.core.footings.posts import Posts, size_posts, standing_legs
from openfurrow.core.footings.weight_rules import weight_answers, weight_checks
from openfurrow.core.footings.weights import Weights, size_weights
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.working import Answer, Source

# Rules of what enters the ground.
OF_DRIVING = frozenset({"locate", "refusal", "seen"})
HELD_BY = Source("posts that turn in nothing stand in the ground, feet that turn in weights", "physics")


@dataclass(frozen=True)
class FootingsPlan:
    """Posts, what weighs their feet down where they stand on the ground, answers and checks.

    ``unplaced`` says of a post, by its number less one, what is wrong with its place.
    """

    posts: Posts
    unplaced: dict[int, tuple[str, ...]]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]
    weights: Weights | None = None


def plan_footings(
    site: SitePlan, rows: RowsPlan, structure: StructurePlan, givens: FootingsGivens
) -> FootingsPlan:
    """Size what holds every support for its reactions on its ground, and explain it."""
    if structure.posts.bent.on_ground:
        return _on_ground(site, rows, structure, givens)
    posts, stand = size_posts(site, structure, givens), structure.posts
    return FootingsPlan(
        posts,
        unplaced(posts, stand, site),
        driven_answers(posts, structure, site, givens),
        (
            *driven_checks(posts, stand, site),
            _family_check("driven post", givens),
            *place_checks(posts, stand, site, rows, givens),
        ),
    )


def _on_ground(
    site: SitePlan, rows: RowsPlan, structure: StructurePlan, givens: FootingsGivens
) -> FootingsPlan:
    """Legs that enter nothing, each in a weight of its own."""
    weights, stand = size_weights(site, structure, givens), structure.posts
    posts = standing_legs(stand, weights.masses_kg)
    placed = place_checks(posts, stand, site, rows, givens)
    return FootingsPlan(
        posts,
        unplaced(posts, stand, site),
        weight_answers(weights, posts, structure, givens),
        (
            *weight_checks(weights, stand),
            _family_check("ballast", givens),
            *(check for check in placed if check.key not in OF_DRIVING),
        ),
        weights,
    )


def _family_check(wanted: FamilyName, givens: FootingsGivens) -> Check:
    """Whether what was chosen can hold what stands there."""
    check = holds(
        "footings",
        "family",
        "The footing holds what this structure asks for",
        givens.family == wanted,
        givens.family,
        wanted,
        remedy="Legs of a ballast frame turn in their boxes and stand on the ground; posts of every "
        "other structure are held by it.",
        source=HELD_BY,
        given="footings.family",
    )
    return mended_by(check, Mend(f"Take {wanted}", (("footings.family", wanted),)))
