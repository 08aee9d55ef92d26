"""Ground screws: the torque that proves each, its length and shaft, and what would stop it."""

from openfurrow.core.checks import Check, Mend, at_most, holds, mended_by, within
from openfurrow.core.codes import constant
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
from openfurrow.core.footings.rust_answers import rust_answers
from openfurrow.core.footings.turned.screw import Screws
from openfurrow.core.members.rust import thinned
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

TORQUE = Source("Hoyt & Clemence (1989), ICC-ES AC358; the factor by Perko (2009)", "from memory")
SHAFT = Source("a pipe bent and twisted: AISC 360 F8 and H3, EN 1993-1-1 6.2", "from memory")


def screw_answers(
    posts: Posts, screws: Screws, structure: StructurePlan, site: SitePlan, givens: FootingsGivens
) -> tuple[Answer, ...]:
    """Depth, length and torque; then every way of failing."""
    depth, governs = depth_headlines(posts, site, givens)
    return (
        depth,
        _length_answer(screws),
        *(() if screws.rock else (_torque_answer(screws),)),
        length_answer(posts, structure),
        governs,
        *depth_answers(posts, site),
        _shaft_answer(screws),
        *post_answers(posts),
        *movement_answers(_moves(posts, screws, structure.posts, givens)),
        *proof_answers(posts, site, structure, givens),
        *rust_answers(site.rule_pack, givens, screws.shaft),
        *place_answers(posts, structure.supports, site),
    )


def _moves(posts: Posts, screws: Screws, stand: Stand, givens: FootingsGivens) -> tuple[Moves, Moves]:
    """The shaft bends in the ground, as rust leaves it; the post that is bolted on it above."""
    stiff = Bends(
        below_n_m2=steel_n_m2(thinned(screws.shaft, screws.lost_m)),
        above_n_m2=steel_n_m2(posts.post),
        top_m=screws.out_m,
    )
    return moves_of(posts, stand.kinds, stiff, givens.loose_top_m)


def _length_answer(screws: Screws) -> Answer:
    longest = int(screws.lengths_m.argmax())
    return Answer(
        "footings",
        "screw",
        "Length of a screw",
        Working(
            "L",
            "",
            (
                Input("d", "its foot below the ground", float(screws.depths_m[longest]), "tape"),
                Input("o", "its head above the ground", screws.out_m, "tape"),
            ),
            screws.longest_m,
            "tape",
            GEOMETRY,
            "The longest: foot to head, rounded up to what is sold.",
        ),
        True,
    )


def _torque_answer(screws: Screws) -> Answer:
    return Answer(
        "footings",
        "torque",
        "Turned in until it takes",
        Working(
            "T",
            "Q / K_t",
            (
                Input("Q", "what it has to hold, safety on it", screws.holds_n, "force"),
                Input("K_t", "holds for its torque", screws.factor_per_m, "per_metre"),
            ),
            screws.most_torque_n_m,
            "torque",
            TORQUE,
            f"Pull or weight times {screws.safety:.2f}. Read over the last three widths of the helix; "
            "deep enough and not yet so tight: turn on, or take an extension. Each screw's own stands "
            "in the stakes' file.",
        ),
        True,
    )


def _shaft_answer(screws: Screws) -> Answer:
    return Answer(
        "footings",
        "shaft",
        "Moment in the shaft",
        Working(
            "M",
            "",
            (Input("M_R", f"{screws.shaft.name} carries", screws.bent_limit_n_m, "moment"),),
            screws.bent_n_m,
            "moment",
            SHAFT,
            "Below the ground, where the soil has taken up the push. How far its head moves is not "
            "looked at.",
        ),
    )


def screw_checks(
    posts: Posts, screws: Screws, stand: Stand, site: SitePlan, givens: FootingsGivens
) -> tuple[Check, ...]:
    """Deep enough, tight enough, strong enough; nothing turns it back out."""
    poured = Mend("Take bored pier", (("footings.family", "bored pier"),))
    found = [
        *depth_checks(posts, site),
        *slab_checks(posts),
        *proof_checks(posts, stand, givens),
        *_torque_check(posts, screws),
        within(
            "footings",
            "one_piece",
            "A screw comes in one piece",
            screws.longest_m,
            constant("common", "screw_piece_m"),
            "tape",
            most=True,
            remedy="A larger helix, a thicker shaft or closer posts; else an extension is coupled on, "
            "and its joint moves.",
            given="footings.helix_diameter_m",
            otherwise="stop" if screws.pieces > 2 else "look",
        ),
        *post_checks(posts, stand),
        *movement_checks(_moves(posts, screws, stand, givens), givens),
        at_most(
            "footings",
            "shaft",
            "The shaft carries its moment",
            screws.bent_n_m,
            screws.bent_limit_n_m,
            "moment",
            remedy="A thicker shaft, closer posts, or a lower table.",
            source=SHAFT,
            given="footings.screw_section",
        ),
        mended_by(
            holds(
                "footings",
                "unturned",
                "Nothing turns a screw back out",
                not screws.turned,
                "gusts on half a table twist it" if screws.turned else "not twisted",
                "no twist on it",
                remedy="What is twisted in gusts unscrews: a driven post or a pier.",
                source=COMMON_PRACTICE,
                given="footings.family",
            ),
            poured,
        ),
    ]
    if screws.rock:
        found.append(
            holds(
                "footings",
                "pulled",
                "A rock screw was pulled in this rock",
                all(kind.ground.gripped.rock_pa is not None for kind in posts.kinds),
                "nobody has pulled one",
                "its grip measured",
                remedy="Pull one: its torque says nothing of a hole that was drilled.",
                source=COMMON_PRACTICE,
                given="footings.rock_bond_pa",
                otherwise="look",
            )
        )
        return tuple(found)
    found.append(
        at_most(
            "footings",
            "twist",
            "The shaft stands the torque that proves it",
            screws.most_torque_n_m,
            screws.twist_limit_n_m,
            "torque",
            remedy="A thicker shaft; or closer posts, so that each has less to hold.",
            source=SHAFT,
            given="footings.screw_section",
        )
    )
    if screws.machine_n_m is not None:
        found.append(
            at_most(
                "footings",
                "machine",
                "The machine turns hard enough",
                screws.most_torque_n_m,
                screws.machine_n_m,
                "torque",
                remedy="A stronger drive head, or closer posts.",
                source=TORQUE,
                given="footings.machine_torque_n_m",
            )
        )
    return tuple(found)


def _torque_check(posts: Posts, screws: Screws) -> tuple[Check, ...]:
    """Whether torque speaks for no more than screws held that were pulled after it was read."""
    found = [
        (one.held_n / one.test.torque_n_m, one.test.called)
        for one in posts.tests
        if one.counts and one.test.loaded == "pulled" and one.test.torque_n_m is not None
    ]
    if screws.rock or not found:
        return ()
    least, called = min(found)
    return (
        at_most(
            "footings",
            "torque_tested",
            f"Torque is taken for no more than it proved: {called}",
            screws.factor_per_m,
            least,
            "per_metre",
            remedy="Take the factor that the tests found, or pull on until it gives way: what it held "
            "is all that its torque has proved.",
            source=TORQUE,
            given="footings.torque_factor_per_m",
            otherwise="look",
        ),
    )
