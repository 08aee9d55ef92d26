"""Footings: what holds every support, with the working behind it and what would stop it."""

from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, Mend, holds, mended_by
from openfurrow.core.footings.bored.bore import Piers, piers_of
from openfurrow.core.footings.bored.rules import pier_answers, pier_checks
from openfurrow.core.footings.driven import driven_answers, driven_checks
from openfurrow.core.footings.families import FamilyName
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.ground_rules import place_checks, rock_check, unplaced
from openfurrow.core.footings.pile_rules import pile_answers, pile_checks
from openfurrow.core.footings.piles import Piles, size_piles
from openfurrow.core.footings.posts import Posts, size_posts, standing_legs, standing_piles
from openfurrow.core.footings.turned.rules import screw_answers, screw_checks
from openfurrow.core.footings.turned.screw import Screws, screws_of
from openfurrow.core.footings.weight_rules import weight_answers, weight_checks
from openfurrow.core.footings.weights import Weights, size_weights
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.roles import Stands
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import Answer, Source

# Rules of what enters the ground.
OF_DRIVING = frozenset({"locate", "refusal", "seen"})
HELD_BY = Source("posts that turn in nothing stand in the ground, feet that turn in weights", "physics")


@dataclass(frozen=True)
class FootingsPlan:
    """Posts, the piers around them, or what weighs down what stands on the ground.

    ``unplaced`` says of a post, by its number less one, what is wrong with its place. ``reach_m`` is
    how far a footing reaches out from the middle of its post.
    """

    posts: Posts
    unplaced: dict[int, tuple[str, ...]]
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]
    weights: Weights | Piles | None = None
    piers: Piers | None = None
    screws: Screws | None = None
    reach_m: float = 0.0


CAN_HOLD: dict[Stands, tuple[FamilyName, ...]] = {
    "in the ground": ("driven post", "ground screw", "bored pier"),
    "in boxes": ("ballast",),
    "on piles": ("piled blocks",),
}


def can_hold(stands: Stands) -> tuple[FamilyName, ...]:
    """The families that hold what stands so, the usual one first."""
    return CAN_HOLD[stands]


def plan_footings(
    site: SitePlan, rows: RowsPlan, structure: StructurePlan, givens: FootingsGivens
) -> FootingsPlan:
    """Size what holds every support for its reactions on its ground, and explain it."""
    if structure.posts.bent.stands == "in boxes":
        return _on_ground(site, rows, structure, givens)
    if structure.posts.bent.stands == "on piles":
        return _on_piles(site, rows, structure, givens)
    if givens.family == "bored pier":
        return _in_piers(site, rows, structure, givens)
    if givens.family == "ground screw":
        return _on_screws(site, rows, structure, givens)
    posts, stand = size_posts(site, structure, givens), structure.posts
    return FootingsPlan(
        posts,
        unplaced(posts, stand, site),
        driven_answers(posts, structure, site, givens),
        (
            *driven_checks(posts, stand, site, givens),
            *_in_ground_checks(posts, stand, site, rows, givens),
        ),
    )


def _in_piers(
    site: SitePlan, rows: RowsPlan, structure: StructurePlan, givens: FootingsGivens
) -> FootingsPlan:
    """Posts that stand in concrete; what is buried is kept as far from that as from a post."""
    posts, stand = size_posts(site, structure, givens), structure.posts
    piers = piers_of(posts, stand, givens, site.rule_pack)
    reach = max(piers.bored_m, piers.bell_m or 0.0) / 2
    around = replace(site, keepouts=site.keepouts.wider(reach))
    return FootingsPlan(
        posts,
        unplaced(posts, stand, around),
        pier_answers(posts, piers, structure, site, givens),
        (
            *pier_checks(posts, piers, stand, site, givens),
            *_in_ground_checks(posts, stand, around, rows, givens),
        ),
        piers=piers,
        reach_m=reach,
    )


def _on_screws(
    site: SitePlan, rows: RowsPlan, structure: StructurePlan, givens: FootingsGivens
) -> FootingsPlan:
    """Posts that are bolted on the heads of screws."""
    posts, stand = size_posts(site, structure, givens), structure.posts
    screws = screws_of(posts, stand, givens, site.rule_pack, site.display_units)
    reach = max(screws.helix_m, screws.shaft.depth_m) / 2
    around = replace(site, keepouts=site.keepouts.wider(reach))
    return FootingsPlan(
        posts if screws.rock else replace(posts, torque_n_m=screws.torque_n_m),
        unplaced(posts, stand, around),
        screw_answers(posts, screws, structure, site, givens),
        (
            *screw_checks(posts, screws, stand, site, givens),
            *_in_ground_checks(posts, stand, around, rows, givens),
        ),
        screws=screws,
        reach_m=reach,
    )


def _on_ground(
    site: SitePlan, rows: RowsPlan, structure: StructurePlan, givens: FootingsGivens
) -> FootingsPlan:
    """Legs that enter nothing, each in a weight of its own."""
    weights, stand = size_weights(site, structure, givens), structure.posts
    posts = standing_legs(stand, weights.masses_kg)
    return FootingsPlan(
        posts,
        unplaced(posts, stand, site),
        weight_answers(weights, posts, structure, givens),
        (
            *weight_checks(weights, stand, _quake_share(structure)),
            *_on_top_checks(posts, stand, site, rows, givens),
        ),
        weights,
    )


def _on_piles(
    site: SitePlan, rows: RowsPlan, structure: StructurePlan, givens: FootingsGivens
) -> FootingsPlan:
    """Purlins on dry piles of blocks; what is buried is kept as far from a pile as from a post."""
    piles, stand = size_piles(site, structure, givens), structure.posts
    posts = standing_piles(stand, piles.masses_kg)
    reach = piles.block.pile_m(int(piles.to_a_layer.max()))[1] / 2
    around = replace(site, keepouts=site.keepouts.wider(reach))
    return FootingsPlan(
        posts,
        unplaced(posts, stand, around),
        pile_answers(piles, stand),
        (
            *pile_checks(piles, stand, givens.life_years, _quake_share(structure)),
            *_on_top_checks(posts, stand, around, rows, givens),
        ),
        piles,
        reach_m=reach,
    )


def _quake_share(structure: StructurePlan) -> float | None:
    """The share of its weight that an earthquake pushes anything with; None where nobody has said."""
    return None if structure.quake is None else structure.quake.coefficient


def _on_top_checks(
    posts: Posts, stand: Stand, around: SitePlan, rows: RowsPlan, givens: FootingsGivens
) -> tuple[Check, ...]:
    """Rules of whatever stands on the ground: whether it may stand so, and where it does."""
    placed = place_checks(posts, stand, around, rows, givens)
    return (
        _family_check(stand, givens),
        *(check for check in placed if check.key not in OF_DRIVING),
    )


def _in_ground_checks(
    posts: Posts, stand: Stand, around: SitePlan, rows: RowsPlan, givens: FootingsGivens
) -> tuple[Check, ...]:
    """Rules of whatever enters the ground: whether it may stand so, in rock, and where it does."""
    return (
        _family_check(stand, givens),
        rock_check(posts, givens),
        *place_checks(posts, stand, around, rows, givens),
    )


def _family_check(stand: Stand, givens: FootingsGivens) -> Check:
    """Whether what was chosen can hold what stands there."""
    can = can_hold(stand.bent.stands)
    check = holds(
        "footings",
        "family",
        "The footing holds what this structure asks for",
        givens.family in can,
        givens.family,
        " or ".join(can),
        remedy="Legs of a ballast frame turn in their boxes and stand on the ground, purlins on blocks "
        "lie on piles; posts of every other structure are held by the ground.",
        source=HELD_BY,
        given="footings.family",
    )
    return mended_by(check, *(Mend(f"Take {one}", (("footings.family", one),)) for one in can))
