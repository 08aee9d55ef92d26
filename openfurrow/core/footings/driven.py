"""Driven posts: the working behind each depth, and what would stop them."""

import numpy as np

from openfurrow.core.checks import Check, Mend, at_least, at_most, mended_by, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.ground_rules import (
    place_answers,
)
from openfurrow.core.footings.posts import Posts, SizedKind, depth_step_m
from openfurrow.core.footings.sizing import MODES
from openfurrow.core.quantities import round_up
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import (
    COMMON_PRACTICE,
    GEOMETRY,
    GIVEN,
    Answer,
    Input,
    Source,
    Working,
)

IBC_LATERAL = Source("IBC 2018, 1807.3.2.1", "from memory")
BROMS = Source("Broms (1964), short rigid pile, free head; EN 1997-1, design approach 3", "from memory")
HEAVE = Source(
    "adfreeze along the gripped depth against weight and friction below frost "
    "(Canadian Foundation Engineering Manual)",
    "from memory",
)


BENDING = Source("elastic bending, AISC 360 F1 or EN 1993-1-1 6.2.5", "from memory")


def driven_answers(
    posts: Posts, structure: StructurePlan, site: SitePlan, givens: FootingsGivens
) -> tuple[Answer, ...]:
    """The depth and what governs it, one way of failing after the other, the soil."""
    return (
        *_headlines(posts, structure, site, givens),
        *_depth_answers(posts, site),
        *place_answers(posts, structure.supports, site),
    )


def _need_inputs(posts: Posts) -> tuple[Input, ...]:
    symbols = ("d_lateral", "d_uplift", "d_bearing", "d_frost", "d_heave")
    return tuple(
        Input(symbol, mode, need, "tape")
        for symbol, mode, need in zip(symbols, posts.modes, posts.needs_m, strict=True)
    )


def _depth_working(posts: Posts, site: SitePlan, *, held: bool) -> Working:
    """The deepest need, rounded up to what is called out; or the planner's own depth."""
    inputs, governs = _need_inputs(posts), posts.modes[posts.governing].capitalize()
    alike = float(np.ptp(posts.depths_m)) < 1e-9
    rest = "" if alike else " The deepest; each post's own stands in the stakes."
    if held:
        return Working(
            "d",
            "",
            inputs,
            posts.depth_m,
            "tape",
            GIVEN,
            f"Held by the planner. {governs}: that asks for most.",
        )
    step = Input("step", "called out in steps of", depth_step_m(site.display_units), "tape")
    rounded = f"ceil(max({', '.join(one.symbol for one in inputs)}) / step) * step"
    # In layers a depth beyond the need may hold no more: then it is deeper than the need rounded up.
    plain = abs(round_up(max(posts.needs_m), float(step.value)) - posts.depth_m) < 1e-6
    return Working(
        "d",
        rounded if plain else "",
        (*inputs, step),
        posts.depth_m,
        "tape",
        GEOMETRY,
        f"{governs}: that governs.{rest}",
    )


def _headlines(
    posts: Posts, structure: StructurePlan, site: SitePlan, givens: FootingsGivens
) -> tuple[Answer, ...]:
    top_m, longest = structure.posts.bent.top_m, int(posts.lengths_m.argmax())
    return (
        Answer(
            "footings",
            "depth",
            "Depth in the ground",
            _depth_working(posts, site, held=givens.depth_m is not None),
            True,
        ),
        Answer(
            "footings",
            "governs",
            "Governed by",
            Working(
                "mode",
                "",
                _need_inputs(posts),
                posts.modes[posts.governing],
                "text",
                GEOMETRY,
                "The way of failing that asks for the greatest depth.",
            ),
            True,
        ),
        Answer(
            "footings",
            "length",
            "Post length",
            Working(
                "L_post",
                "h + d + t",
                (
                    Input(
                        "h",
                        "its reveal, ground to bolt",
                        float(structure.supports.reveals_m[longest]),
                        "tape",
                    ),
                    Input("d", "its depth in the ground", float(posts.depths_m[longest]), "tape"),
                    Input("t", "post above the bolt", top_m, "tape"),
                ),
                posts.longest_m,
                "tape",
                GEOMETRY,
                "The longest. Each post's own length stands in the stakes.",
            ),
            True,
        ),
    )


def _case(loads: Reactions, index: int) -> tuple[Input, Input]:
    return (
        Input("P", f"push at ground, {loads.names[index]}", abs(float(loads.push_n[index])), "force"),
        Input("M", "moment at ground in that case", abs(float(loads.tipping_n_m[index])), "moment"),
    )


def _layer_inputs(soil: Soil) -> tuple[Input, ...]:
    """The layers of a hole, as a working shows them."""
    tops = (0.0, *(layer.bottom_m for layer in soil.layers))
    found = [
        Input(f"z_{number + 1}", f"{layer.soil_class} from", top, "tape")
        for number, (layer, top) in enumerate(zip(soil.layers, tops, strict=False))
    ]
    found += [
        Input(
            f"c_{number + 1}",
            f"undrained strength of layer {number + 1}",
            layer.cohesion_pa,
            "pressure",
        )
        for number, layer in enumerate(soil.layers)
        if layer.measured
    ]
    if soil.water_m is not None:
        found.append(Input("z_w", "water stands at", soil.water_m, "tape"))
    return tuple(found)


def _lateral_working(posts: Posts, site: SitePlan) -> Working:
    kind = posts.asking_most(0)
    needs, soil = kind.needs, kind.soil
    push, moment = _case(kind.loads, needs.lateral_case)
    width = Input("b", "width of the post against the soil", posts.post.width_m, "tape")
    if not soil.even:
        return Working(
            "d_lateral",
            "",
            (push, moment, width, *_layer_inputs(soil)),
            needs.lateral_m,
            "tape",
            IBC_LATERAL if site.rule_pack == "us" else BROMS,
            "Looked at depth by depth: a rigid post turns in the layers that are there, those above "
            "frost too"
            + (
                ", measured against the same post in one soil, for which the printed formula holds."
                if site.rule_pack == "us"
                else ", each with its strength reduced by its partial factor."
            ),
        )
    if site.rule_pack == "metric":
        strength = (
            Input("c_u", "undrained strength", soil.cohesion_pa, "pressure")
            if soil.cohesion_pa > 0
            else Input("phi", "friction angle", soil.friction_angle_deg, "angle")
        )
        return Working(
            "d_lateral",
            "",
            (push, moment, width, strength),
            needs.lateral_m,
            "tape",
            BROMS,
            "Solved from H (e + L) = ½ γ b L³ K_p in sand, 9 c_u b below 1.5 b in clay, with the "
            "soil's strength reduced by its partial factor.",
        )
    a, lever = (constant("us", n).value for n in ("lateral_coefficient", "lever_coefficient"))
    bearing = soil.lateral_pa_per_m * needs.movement
    deepest = constant("us", "lateral_depth_limit_m").value
    stress = bearing * min(needs.lateral_m, deepest) / 3
    if float(push.value) < 1.0:
        return Working(
            "d_lateral",
            "",
            (push, moment, width),
            needs.lateral_m,
            "tape",
            IBC_LATERAL,
            "Nothing pushes sideways: the moment alone is held by the soil.",
        )
    return Working(
        "d_lateral",
        "0.5 * (k_A * P / (S_1 * b)) * (1 + sqrt(1 + k_h * (M / P) / (k_A * P / (S_1 * b))))",
        (
            push,
            moment,
            width,
            Input("k_A", "coefficient of A", a, "factor"),
            Input("k_h", "coefficient of the lever", lever, "factor"),
            Input("S_1", "lateral bearing at a third of the depth", stress, "pressure"),
        ),
        needs.lateral_m,
        "tape",
        IBC_LATERAL,
        f"S₁ grows with the depth sought, so the formula is solved as a cubic; "
        f"{soil.soil_class}{f' at {soil.hole}' if soil.hole else ''}, Table 1806.2"
        + (", doubled by 1806.3.4." if needs.movement > 1 else "."),
    )


def _friction(kind: SizedKind) -> tuple[tuple[Input, ...], str]:
    """What a shaft's friction follows from, and the formula of the depth at which it reaches {}."""
    shaft, soil = kind.needs.shaft, kind.soil
    shared = (
        Input("u", "box around the post", shaft.perimeter_m, "tape"),
        Input("z_0", "depth without credit", shaft.start_m, "tape"),
    )
    if not soil.even:
        return (*shared, *_layer_inputs(soil)), ""
    if shaft.growing:
        growing = Input("k", "friction gained per depth", shaft.growing, "modulus_gradient")
        return (*shared, growing), "sqrt(z_0**2 + 2 * {} / (u * k))"
    steady = Input("f", "friction at every depth", shaft.steady, "pressure")
    return (*shared, steady), "z_0 + {} / (u * f)"


def _depth_answers(posts: Posts, site: SitePlan) -> tuple[Answer, ...]:
    """One way of failing after the other, each for the posts of which it asks most."""
    return (
        Answer("footings", "d_lateral", "Depth against tipping", _lateral_working(posts, site)),
        Answer(
            "footings", "d_uplift", "Depth against wind lift", _uplift_working(posts.asking_most(1))
        ),
        Answer("footings", "d_bearing", "Depth under weight", _bearing_working(posts.asking_most(2))),
        Answer("footings", "d_heave", "Depth against frost lift", _heave_working(posts.asking_most(4))),
    )


def _safety(kind: SizedKind) -> Input:
    return Input("F", "safety on soil", kind.needs.axial_safety, "factor")


def _gripping(what: str, kind: SizedKind, case: int) -> str:
    """What the grip on a post holds in a case, in words."""
    twisted = " with the twist at its face" if kind.loads.twist_n_m[case] else ""
    return f"{what} at ground{twisted}, {kind.loads.names[case]}"


def _uplift_working(kind: SizedKind) -> Working:
    needs, soil = kind.needs, kind.soil
    friction, rooted = _friction(kind)
    uplift = Input("T", _gripping("pull", kind, needs.uplift_case), needs.uplift_n, "force")
    return Working(
        "d_uplift",
        rooted.format("F * T") if needs.uplift_n > 0 else "",
        (uplift, _safety(kind), *friction),
        needs.uplift_m,
        "tape",
        soil.friction_source,
        "Friction on the box around the post; the top and the frost depth earn no credit. "
        + (
            "Taken as drained ground."
            if soil.water_m is None
            else "Below the water the soil weighs less by it."
        )
        + ("" if soil.even else " Summed over the layers.")
        if needs.uplift_n > 0
        else "Nothing pulls: no depth is asked for.",
    )


def _bearing_working(kind: SizedKind) -> Working:
    needs, (friction, _) = kind.needs, _friction(kind)
    press = Input("N", _gripping("weight", kind, needs.bearing_case), needs.bearing_n, "force")
    tip = needs.tip_n_per_m2 * needs.tip_area_m2
    return Working(
        "d_bearing",
        "",
        (
            press,
            _safety(kind),
            *friction,
            Input("Q_tip", "ultimate under the tip at that depth", tip, "force"),
        ),
        needs.bearing_m,
        "tape",
        kind.soil.friction_source,
        "Friction and tip (Reissner's N_q in sand, 9 c_u in clay; soft soil close below the tip "
        "counts as the tip's) together carry F times the weight.",
    )


def _heave_working(kind: SizedKind) -> Working:
    needs, (friction, rooted) = kind.needs, _friction(kind)
    heave = Input("H_f", "frost's grip less the weight on the lightest post", needs.heave_n, "force")
    return Working(
        "d_heave",
        rooted.format("H_f") if needs.heave_n > 0 else "",
        (heave, *friction),
        needs.heave_m,
        "tape",
        HEAVE,
        "The grip is an upper value, so friction below frost is taken without further safety."
        if needs.heave_n > 0
        else "No fine soil on top, or the weight outdoes its grip: frost lifts nothing.",
    )


def driven_checks(posts: Posts, stand: Stand, site: SitePlan) -> tuple[Check, ...]:
    """Deep enough for every load, drivable, strong enough."""
    post_given, lone = stand.bent.post_given, not stand.spaced
    turned = any(kind.loads.twist_n_m.any() for kind in posts.kinds)
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
    depth = tuple(
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
    return (
        *depth,
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
