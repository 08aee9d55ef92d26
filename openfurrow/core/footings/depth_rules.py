"""Rules of what stands in the ground: deep enough, tested enough, and a post that is strong enough."""

from openfurrow.core.checks import Check, Mend, at_least, at_most, mended_by
from openfurrow.core.footings.depths import BENDING, BROMS, HEAVE, IBC_LATERAL
from openfurrow.core.footings.posts import Posts
from openfurrow.core.footings.sizing import MODES
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Working


def depth_checks(posts: Posts, site: SitePlan) -> tuple[Check, ...]:
    """Deep enough for every load and for frost."""
    lateral = IBC_LATERAL if site.rule_pack == "us" else BROMS
    remedies = (
        "Go deeper, take a wider post, more posts, or a lower tilt.",
        "Go deeper, more posts, or pull-test and use the smaller safety factor.",
        "Go deeper, more posts, or pull-test and use the smaller safety factor.",
        "End below the frost depth.",
        "Go deeper, sleeve the post through the fine soil, or replace that soil with gravel.",
    )
    sources = (lateral, COMMON_PRACTICE, COMMON_PRACTICE, COMMON_PRACTICE, HEAVE)
    titles = (
        "Deep enough against tipping",
        "Deep enough against wind lift",
        "Deep enough under weight",
        "Ends below frost",
        "Deep enough against frost lift",
    )
    keys = ("lateral", "uplift", "bearing", "frost", "heave")
    # Only a depth that is held can fall short.
    own = Mend("Leave the depth to the plan", (("footings.depth_m", ""),))
    tightest = [posts.shortest_of(mode) for mode in range(len(MODES))]
    return tuple(
        mended_by(
            at_least(
                "footings",
                key,
                title,
                kind.depth_m,
                kind.needs.all_m[mode],
                "tape",
                remedy=remedy,
                source=source,
                given="footings.depth_m",
            ),
            own,
        )
        for mode, (key, title, kind, remedy, source) in enumerate(
            zip(keys, titles, tightest, remedies, sources, strict=True)
        )
    )


def slab_checks(posts: Posts) -> tuple[Check, ...]:
    """What a slab has to take, where one holds the posts at the ground: nobody designs it here.

    The soil's push stands at two thirds of the depth, as it grows from the ground down.
    """
    held = [kind for kind in posts.kinds if kind.ground.slab]
    if not held:
        return ()
    takes = max(
        float((abs(kind.loads.push_n) + 1.5 * abs(kind.loads.tipping_n_m) / kind.depth_m).max())
        for kind in held
    )
    return (
        at_most(
            "footings",
            "slab",
            "What holds posts at the ground is designed for what it takes",
            takes,
            0.0,
            "force",
            remedy="Let whoever designs the slab see what it takes at each post; else say that none "
            "holds, and go deeper.",
            source=IBC_LATERAL,
            given="footings.slab_holds",
            otherwise="look",
        ),
    )


def post_answers(posts: Posts) -> tuple[Answer, ...]:
    """What the post bears that is used most, as its plates and its height let it."""
    bent = posts.bends
    assert bent is not None
    return (
        Answer(
            "footings",
            "post_bears",
            "A post bears",
            Working(
                "M_R",
                "M_y * k / gamma",
                (
                    Input("M_y", "at first yield, as it is at the end", bent.yields_n_m, "moment"),
                    Input("k", "left of it, as it buckles or turns over", bent.share, "factor"),
                    Input("gamma", "by which strength is divided", bent.factor, "factor"),
                ),
                bent.limit_n_m,
                "moment",
                BENDING,
                f"{posts.post.name}. {bent.words}",
            ),
        ),
    )


def post_checks(posts: Posts, stand: Stand) -> tuple[Check, ...]:
    """The post itself is strong enough, whichever way it is pushed."""
    post_given = stand.bent.post_given
    turned = any(kind.loads.twist_n_m.any() for kind in posts.kinds)
    return (
        at_most(
            "footings",
            "bending",
            "The post carries its moment",
            posts.bending_n_m,
            posts.bending_limit_n_m,
            "moment",
            remedy="A heavier post, closer posts, or a lower table.",
            source=BENDING,
            given=post_given,
        ),
        at_most(
            "footings",
            "bending_along",
            "The post carries the wind along the row" + (", or on half of it" if turned else ""),
            posts.along_used,
            1.0,
            "ratio",
            remedy="A wider post, closer posts or a lower table; or a braced bay, by an engineer.",
            source=BENDING,
            given=post_given,
        ),
    )
