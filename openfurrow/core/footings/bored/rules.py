"""Bored piers: what is bored and poured, and what would stop it."""

import math

from openfurrow.core.checks import (
    Check,
    Mend,
    at_least,
    at_most,
    holds,
    in_metres,
    mended_by,
    within,
)
from openfurrow.core.codes import constant
from openfurrow.core.footings.body import bell_high_m
from openfurrow.core.footings.bored.bore import Piers
from openfurrow.core.footings.bored.concrete import cracked_n_m2
from openfurrow.core.footings.depth_rules import depth_checks, post_answers, post_checks, slab_checks
from openfurrow.core.footings.depths import depth_answers, depth_headlines, length_answer
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.ground_rules import place_answers
from openfurrow.core.footings.movement import (
    Bends,
    Moves,
    movement_answers,
    movement_checks,
    moves_of,
    steel_n_m2,
)
from openfurrow.core.footings.posts import Posts
from openfurrow.core.footings.proof_rules import proof_answers, proof_checks
from openfurrow.core.quantities import spoken
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, GIVEN, Answer, Input, Source, Working

PLAIN = Source("ACI 318-14 14.5 and 22.2; EN 1992-1-1 12 and 6.1", "from memory")
BEDDED = Source("a stiff stub in concrete: AISC 360-16 J8; EN 1992-1-1 12.3.1", "from memory")
GRIPPED = Source("AISC 360-10 I6.3c; EN 1994-1-1 Table 6.6", "from memory")
COVER = Source("ACI 318-14 20.6.1.3.1; EN 1992-1-1 4.4.1.3(4)", "from memory")
STANDS = Source("sand and soil under water run into an open bore", "common practice")


def pier_answers(
    posts: Posts, piers: Piers, structure: StructurePlan, site: SitePlan, givens: FootingsGivens
) -> tuple[Answer, ...]:
    """The depth and what governs it, the bore, the concrete, the post; then every way of failing."""
    depth, governs = depth_headlines(posts, site, givens)
    return (
        depth,
        _bore_answer(piers),
        *_concrete_answers(piers),
        length_answer(posts, structure),
        governs,
        *depth_answers(posts, site),
        *post_answers(posts),
        *movement_answers(_moves(posts, piers, structure.posts, givens)),
        *proof_answers(posts, site, structure, givens),
        *_strength_answers(piers),
        *place_answers(posts, structure.supports, site),
    )


def _moves(posts: Posts, piers: Piers, stand: Stand, givens: FootingsGivens) -> tuple[Moves, Moves]:
    """Concrete that has cracked bends in the ground, the steel of its post above it."""
    stiff = Bends(
        below_n_m2=cracked_n_m2(piers.diameter_m, piers.concrete_pa),
        above_n_m2=steel_n_m2(posts.post),
        top_m=piers.top_m,
    )
    return moves_of(posts, stand.kinds, stiff, givens.loose_top_m)


def _bore_answer(piers: Piers) -> Answer:
    return Answer(
        "footings",
        "bore",
        "Bore to",
        Working(
            "d_bore",
            "d + s",
            (
                Input("d", "foot of the deepest pier", float(piers.depths_m.max()), "tape"),
                Input("s", "stone below it", piers.stone_m, "tape"),
            ),
            piers.bore_m,
            "tape",
            GEOMETRY,
            "Every other depth is measured from the top of the stone.",
        ),
        True,
    )


def _concrete_answers(piers: Piers) -> tuple[Answer, ...]:
    """What one pier takes and what all do, as wide as bores come out; bags where it comes in bags."""
    deepest = int(piers.depths_m.argmax())
    straight = piers.bell_m is None or piers.bell_m <= piers.diameter_m
    one = Answer(
        "footings",
        "concrete_one",
        "Concrete in the deepest pier",
        Working(
            "V_1",
            "0.25 * pi * D**2 * (d + t)" if straight else "",
            (
                Input("D", "bores come out at", piers.bored_m, "tape"),
                Input("d", "its depth", float(piers.depths_m[deepest]), "tape"),
                Input("t", "above the ground", piers.top_m, "tape"),
                Input("pi", "circle over its width", math.pi, "factor"),
                *(() if straight else (Input("B", "its bell", piers.bell_m or 0.0, "tape"),)),
            ),
            float(piers.bored_m3[deepest]),
            "volume",
            GEOMETRY,
            "What the post takes up is left in. A bell is a cone at 60 degrees."
            if not straight
            else "What the post takes up is left in.",
        ),
    )
    every = Answer(
        "footings",
        "concrete",
        "Concrete in all bores",
        Working(
            "V",
            "V_0 * (D / D_0)**2" if straight else "",
            (
                Input("V_0", "as wide as the auger", float(piers.net_m3.sum()), "volume"),
                Input("D", "bores come out at", piers.bored_m, "tape"),
                Input("D_0", "the auger", piers.diameter_m, "tape"),
            ),
            piers.order_m3,
            "volume",
            GEOMETRY,
            "As it is poured; what is spilt and left in the truck comes on top in the list.",
        ),
        True,
    )
    if not piers.bag_m3:
        return (every, one)
    bags = Answer(
        "footings",
        "bags",
        "Bags for them",
        Working(
            "n",
            "ceil(V / V_b)",
            (
                Input("V", "concrete in all bores", piers.order_m3, "volume"),
                Input("V_b", "one bag gives", piers.bag_m3, "yield"),
            ),
            float(math.ceil(piers.bags - 1e-9)),
            "count",
            GEOMETRY,
            "Without what is spilt or split, which the list adds.",
        ),
        True,
    )
    return (every, bags, one)


def _strength_answers(piers: Piers) -> tuple[Answer, ...]:
    """What the concrete carries besides the soil: below the post, beside it, around it."""
    return tuple(
        Answer(
            "footings",
            key,
            title,
            Working(
                symbol, "", (Input("R", "it can", carried.limit, kind),), carried.asked, kind, by, note
            ),
        )
        for key, title, symbol, carried, kind, by, note in (
            (
                "below_post",
                "Moment in the pier below its post",
                "M_c",
                piers.below_post,
                "moment",
                PLAIN,
                "No more than what bends the pier anywhere, nor than all the soil beside the rest of "
                "it can bring about.",
            ),
            (
                "bedding",
                "The post presses the concrete with",
                "sigma",
                piers.bedded,
                "stress",
                BEDDED,
                "Of the post that uses most of it: (4 V e + 6 M) / (b e²).",
            ),
            (
                "pull_out",
                "Pull and twist on the post in its concrete",
                "T",
                piers.pulled,
                "force",
                GRIPPED,
                "Along the post and around its face, added as vectors.",
            ),
        )
    )


def pier_checks(
    posts: Posts, piers: Piers, stand: Stand, site: SitePlan, givens: FootingsGivens
) -> tuple[Check, ...]:
    """Deep enough, within an auger's reach, strong enough; whether the bore stands open."""
    soils = [kind.soil for kind in posts.kinds]
    return (
        *depth_checks(posts, site),
        *slab_checks(posts),
        *proof_checks(posts, stand, givens),
        *movement_checks(_moves(posts, piers, stand, givens), givens),
        within(
            "footings",
            "borable",
            "A small auger reaches it",
            piers.bore_m,
            constant("common", "borable_m"),
            "tape",
            most=True,
            remedy="A wider auger, closer posts, a lower table; or a rig with a longer one.",
            given="footings.pier_diameter_m",
            otherwise="stop" if piers.bore_m > constant("common", "deepest_bore_m").value else "look",
        ),
        *post_checks(posts, stand),
        *_strength_checks(piers),
        *_bore_checks(piers, soils, givens),
    )


def _strength_checks(piers: Piers) -> tuple[Check, ...]:
    """What the concrete has to carry, its cover, its bars."""
    whole = Mend("Let the post reach to the foot", (("footings.post_in_m", ""),))
    cover = constant("common", "cover_formed_m" if piers.formed else "cover_soil_m")
    found = [
        mended_by(
            at_most(
                "footings",
                "below_post",
                "The pier carries its moment below the post",
                piers.below_post.asked,
                piers.below_post.limit,
                "moment",
                remedy="A longer post, a wider pier, or a cage of bars by an engineer.",
                source=PLAIN,
                given="footings.post_in_m",
            ),
            whole,
        ),
        mended_by(
            at_most(
                "footings",
                "bedding",
                "The concrete carries the push of the post",
                piers.bedded.asked,
                piers.bedded.limit,
                "stress",
                remedy="A longer or wider post, or stronger concrete.",
                source=BEDDED,
                given="footings.post_in_m",
            ),
            whole,
        ),
        mended_by(
            at_most(
                "footings",
                "pull_out",
                "The post cannot be pulled out, nor turn",
                piers.pulled.asked,
                piers.pulled.limit,
                "force",
                remedy="A bar through its foot, or more of the post in the concrete.",
                source=GRIPPED,
                given="footings.foot_bar",
            ),
            Mend("Put a bar through its foot", (("footings.foot_bar", "yes"),)),
        ),
        at_least(
            "footings",
            "cover",
            "Concrete covers the post all around",
            piers.cover_m,
            cover.value,
            "tape",
            remedy="A wider auger, or a slimmer post: steel near the soil rusts and bursts the pier.",
            source=COVER,
            given="footings.pier_diameter_m",
            # That much is asked around bars; a galvanised post out of the middle is worse than thin.
            otherwise="look" if piers.cover_m > cover.value / 2 else "stop",
        ),
    ]
    if piers.bars:
        found += [
            at_least(
                "footings",
                "least_bars",
                "As much steel as a cage has at least",
                piers.steel_share,
                constant("common", "least_bars").value,
                "ratio",
                remedy="More bars, or thicker ones.",
                source=constant("common", "least_bars").source,
                given="footings.pier_bars",
                otherwise="look",
            ),
            at_least(
                "footings",
                "cage_fits",
                "The cage goes around the post",
                piers.ring_m - piers.bar_m / 2,
                piers.diameter_m / 2 - piers.cover_m + constant("common", "ring_and_tie_m").value,
                "tape",
                remedy="A wider auger or a slimmer post.",
                source=GEOMETRY,
                given="footings.pier_diameter_m",
            ),
        ]
    return tuple(found)


def _met(soils: list[Soil], depth_m: float) -> list[tuple[str, float]]:
    """Class and strength of every layer that a bore so deep goes through."""
    met = []
    for soil in soils:
        tops = (0.0, *(layer.bottom_m for layer in soil.layers))
        met += [
            (layer.soil_class, layer.cohesion_pa)
            for layer, top in zip(soil.layers, tops, strict=False)
            if top < depth_m
        ]
    return met


def _bore_checks(piers: Piers, soils: list[Soil], givens: FootingsGivens) -> tuple[Check, ...]:
    """Whether bores stand open, how wide they come out, how near they are to each other."""
    wet = [soil.water_m for soil in soils if soil.water_m is not None and soil.water_m < piers.bore_m]
    loose = any(name == "sand" for name, _ in _met(soils, piers.bore_m))
    firm = all(cohesion > 0 for _, cohesion in _met(soils, piers.bore_m))
    caves = (loose or bool(wet)) and not piers.formed
    said = givens.bored_diameter_m is not None or piers.formed
    found = [
        mended_by(
            holds(
                "footings",
                "caves",
                "Bores stand open until they are poured",
                not caves,
                "sand" * loose + " and " * (loose and bool(wet)) + "water" * bool(wet)
                if caves
                else "in a form tube"
                if piers.formed
                else "firm ground",
                "no sand and no water on the way down, or a form tube",
                remedy="Bore one and see; a form tube or a casing where it runs in.",
                source=STANDS,
                given="footings.pier_side",
                otherwise="look",
            ),
            Mend("Take form tubes", (("footings.pier_side", "in a form tube"),)),
        ),
        holds(
            "footings",
            "water",
            "Bores are dry when concrete comes",
            not wet,
            f"water at {spoken(min(wet), 'tape')}" if wet else "no water told",
            "dry to the foot",
            remedy="Pump it out just before the pour, or pour from below through a pipe.",
            source=COMMON_PRACTICE,
            given="site.test_holes",
            otherwise="look",
        ),
        holds(
            "footings",
            "bored_width",
            "Somebody has measured how wide bores come out",
            said,
            "ordered as wide as the auger" if not said else spoken(piers.bored_m, "tape"),
            "two tapes across the first bores",
            remedy="A quarter wider takes more than half as much again: measure the first bores, then "
            "order.",
            source=COMMON_PRACTICE,
            given="footings.bored_diameter_m",
            otherwise="look",
        ),
        within(
            "footings",
            "piers_apart",
            "Piers do not share the soil that holds them",
            piers.apart_m / max(piers.diameter_m, piers.bell_m or 0.0),
            constant("common", "piers_apart"),
            "factor",
            most=False,
            remedy="Slimmer and deeper piers, or lines further apart; else an engineer looks at the "
            "group.",
            given="footings.pier_diameter_m",
            otherwise="look",
        ),
    ]
    if givens.bored_diameter_m is not None and not piers.formed:
        found.append(
            mended_by(
                at_least(
                    "footings",
                    "bore_holds",
                    "Bores are at least as wide as the auger",
                    givens.bored_diameter_m,
                    piers.diameter_m,
                    "tape",
                    remedy="The auger is narrower than said: the pier holds less.",
                    source=GIVEN,
                    given="footings.pier_diameter_m",
                ),
                Mend(
                    "Reckon with what was measured",
                    (("footings.pier_diameter_m", in_metres(givens.bored_diameter_m)),),
                ),
            )
        )
    if piers.bell_m is not None:
        straight = Mend("Leave it straight", (("footings.bell_diameter_m", ""),))
        high = bell_high_m(piers.diameter_m, piers.bell_m)
        found += [
            mended_by(
                holds(
                    "footings",
                    "bell",
                    "A bell stands in this soil",
                    firm and not wet,
                    "clay above water" if firm and not wet else "sand, gravel or water",
                    "clay above water, all the way down",
                    remedy="A wider straight pier: what runs in leaves no bell.",
                    source=STANDS,
                    given="footings.bell_diameter_m",
                ),
                straight,
            ),
            mended_by(
                holds(
                    "footings",
                    "bell_fits",
                    "A bell is wider than its shaft, and the pier deeper than it is high",
                    piers.bell_m > piers.diameter_m and high < float(piers.depths_m.min()),
                    f"{spoken(piers.bell_m, 'tape')} wide, {spoken(high, 'tape')} high",
                    "wider than the auger, less high than the pier is deep",
                    remedy="Another width of the bell, or none.",
                    source=GEOMETRY,
                    given="footings.bell_diameter_m",
                ),
                straight,
            ),
        ]
    return tuple(found)
