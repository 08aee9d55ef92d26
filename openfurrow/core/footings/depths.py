"""The working behind each depth: one way of failing after the other, in one soil or in layers."""

import numpy as np

from openfurrow.core.codes import constant
from openfurrow.core.footings.axial import Shaft, friction_depth_m
from openfurrow.core.footings.body import Body
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import Posts, SizedKind, depth_step_m
from openfurrow.core.footings.sizing import BEYOND_M, Grip
from openfurrow.core.quantities import round_up
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.supports import Reactions
from openfurrow.core.working import GEOMETRY, GIVEN, Answer, Input, Source, Working

IBC_LATERAL = Source("IBC 2018, 1807.3.2.1", "from memory")
BROMS = Source("Broms (1964), short rigid pile, free head; EN 1997-1, design approach 3", "from memory")
HEAVE = Source(
    "adfreeze along the gripped depth against weight and friction below frost "
    "(Canadian Foundation Engineering Manual)",
    "from memory",
)


BENDING = Source(
    "elastic bending: AISC 360-16 F2 or EN 1993-1-1 6.3.2, thin walls by AISI S100-16 F2 to F4",
    "from memory",
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


def depth_headlines(posts: Posts, site: SitePlan, givens: FootingsGivens) -> tuple[Answer, ...]:
    """The depth, and the way of failing that asks for it."""
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
    )


def length_answer(posts: Posts, structure: StructurePlan) -> Answer:
    """The longest post: its reveal, what of it is below the ground, what is above its bolt."""
    top_m, longest = structure.posts.bent.top_m, int(posts.lengths_m.argmax())
    reveal_m, longest_m = float(structure.supports.reveals_m[longest]), posts.longest_m
    body, below_m = posts.worst.ground.body, longest_m - reveal_m - top_m
    return Answer(
        "footings",
        "length",
        "Post length",
        Working(
            "L_post",
            "h - o + t" if body.headed else "h + d + t",
            (
                Input("h", "its reveal, ground to bolt", reveal_m, "tape"),
                Input("o", "its screw stands out", -below_m, "tape")
                if body.headed
                else Input(
                    "d",
                    "it reaches into the pier" if body.cast else "its depth in the ground",
                    below_m,
                    "tape",
                ),
                Input("t", "post above the bolt", top_m, "tape"),
            ),
            longest_m,
            "tape",
            GEOMETRY,
            "The longest. Each post's own length stands in the stakes.",
        ),
        True,
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
    body = kind.ground.body
    what = (
        "diameter of the pier"
        if body.cast
        else "diameter of the shaft"
        if body.headed
        else "width of the post against the soil"
    )
    width = Input("b", what, body.across_m, "tape")
    if kind.ground.profile is not None:
        return Working(
            "d_lateral",
            "",
            (push, moment, width, *_layer_inputs(soil)),
            needs.lateral_m,
            "tape",
            IBC_LATERAL if site.rule_pack == "us" else BROMS,
            "A slab takes its push, so it turns about the ground: 1807.3.2.2, and depth by depth as "
            "much less as the layers hold less about it than even soil."
            if kind.ground.slab
            else f"Looked at depth by depth: a rigid {'shaft' if body.headed else 'post'} turns in the "
            "layers that are there, those above frost too"
            + (", with what posts held that were pushed" if kind.ground.proved.sideways else "")
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
        "S₁ grows with the depth sought, so the formula is solved as a cubic; "
        + (
            "worked back from posts that were pushed."
            if kind.ground.proved.sideways
            else f"{soil.soil_class}{f' at {soil.hole}' if soil.hole else ''}, Table 1806.2"
            + (", doubled by 1806.3.4." if needs.movement > 1 else ".")
        ),
    )


def _friction(kind: SizedKind, shaft: Shaft) -> tuple[Input, ...]:
    """What a shaft's friction follows from, and what the pier around a post weighs."""
    soil, body = kind.soil, kind.ground.body
    if body.helix_m:
        return (Input("B", "diameter of the helix", body.helix_m, "tape"), *_layer_inputs(soil))
    around = "face that is gripped, by its depth" if body.cast else "box around the post"
    found = [
        Input("u", around, shaft.perimeter_m, "tape"),
        Input("z_0", "depth without credit", shaft.start_m, "tape"),
    ]
    if body.cast:
        found.append(Input("w", "weight of a length of pier", body.weight_n_per_m, "line_load"))
    if kind.ground.profile is not None:
        return (*found, *_layer_inputs(soil))
    if shaft.growing:
        found.append(Input("k", "friction gained per depth", shaft.growing, "modulus_gradient"))
    else:
        found.append(Input("f", "friction at every depth", shaft.steady, "pressure"))
    return tuple(found)


def _rooted(kind: SizedKind, wanted: str, weight: str, depth_m: float) -> str:
    """The formula of the depth at which friction and a weight by its length hold what is wanted.

    None in layers, where depths are looked at one by one, nor where no depth holds.
    """
    shaft = kind.needs.shaft
    if kind.ground.profile is not None or depth_m >= BEYOND_M:
        return ""
    if not kind.ground.body.cast:
        return (
            f"sqrt(z_0**2 + 2 * {wanted} / (u * k))" if shaft.growing else f"z_0 + {wanted} / (u * f)"
        )
    if depth_m <= shaft.start_m or not shaft.perimeter_m:
        return f"({wanted}) / ({weight})"
    if shaft.growing:
        root = f"({weight})**2 + 2 * u * k * ({wanted} + u * k / 2 * z_0**2)"
        return f"(sqrt({root}) - {weight}) / (u * k)"
    return f"({wanted} + u * f * z_0) / (u * f + {weight})"


def depth_answers(posts: Posts, site: SitePlan) -> tuple[Answer, ...]:
    """One way of failing after the other, each for the posts of which it asks most."""
    return (
        Answer("footings", "d_lateral", "Depth against tipping", _lateral_working(posts, site)),
        Answer(
            "footings", "d_uplift", "Depth against wind lift", _uplift_working(posts.asking_most(1))
        ),
        Answer("footings", "d_bearing", "Depth under weight", _bearing_working(posts.asking_most(2))),
        Answer("footings", "d_heave", "Depth against frost lift", _heave_working(posts.asking_most(4))),
    )


def _safety(grip: Grip) -> Input:
    return Input("F", "safety on soil", grip.safety, "factor")


def _as_tested(grip: Grip) -> tuple[Input, ...]:
    """How much of the tables a grip is, where posts were tested; it stands in the friction already."""
    return () if grip.share == 1.0 else (Input("r", "of the tables, as tested", grip.share, "ratio"),)


def _gripping(what: str, kind: SizedKind, case: int) -> str:
    """What the grip on a post holds in a case, in words."""
    twisted = " with the twist at its face" if kind.loads.twist_n_m[case] else ""
    return f"{what} at ground{twisted}, {kind.loads.names[case]}"


def _bell_inputs(kind: SizedKind) -> tuple[Input, ...]:
    """What a bell reaches under, where a pier has one and its soil is even."""
    body = kind.ground.body
    if not body.over_bell_m2 or kind.ground.profile is not None:
        return ()
    return (
        Input("A_b", "what the bell reaches out", body.over_bell_m2, "area"),
        Input("gamma", "weight of the soil over it", kind.soil.unit_weight_n_m3, "unit_weight"),
        Input("h_b", "height of the bell", body.bell_m, "tape"),
    )


def _by_shaft_m(kind: SizedKind) -> float:
    """The depth against wind lift without what a bell holds."""
    needs, at = kind.needs, kind.ground
    own = at.lift.safety * at.lightest * at.body.weight_n_per_m
    return friction_depth_m(needs.shaft, needs.uplift_n * at.lift.safety, own)


def _how_held(body: Body) -> str:
    """What holds it against a pull, in words."""
    if body.helix_m:
        return (
            "The soil over the helix: shallow a wedge or plug, deep what a tip bears (Meyerhof & "
            "Adams, Vesic, Reissner), of the weakest layer within three widths above it;"
        )
    if body.over_bell_m2:
        return "Friction on the pier and its weight, or what it weighs with the soil over its bell;"
    if body.formed:
        return "Weight alone, for nothing grips a form tube;"
    if body.cast:
        return "Friction on the pier, and its weight;"
    return f"Friction on the {'thread' if body.headed else 'box around the post'};"


def _uplift_working(kind: SizedKind) -> Working:
    needs, soil, at = kind.needs, kind.soil, kind.ground
    uplift = Input("T", _gripping("pull", kind, needs.uplift_case), needs.uplift_n, "force")
    counts = (Input("g_w", "share of a weight that counts", at.lightest, "factor"),)
    bell, formula = _bell_inputs(kind), _rooted(kind, "F * T", "F * g_w * w", needs.uplift_m)
    if bell and needs.uplift_m < _by_shaft_m(kind) - 1e-9:
        formula = "(T / g_w + A_b * gamma * h_b) / (w + A_b * gamma)"
    return Working(
        "d_uplift",
        formula if needs.uplift_n > 0 else "",
        (
            uplift,
            _safety(at.lift),
            *_friction(kind, needs.shaft),
            *_as_tested(at.lift),
            *(counts if at.body.cast else ()),
            *bell,
        ),
        needs.uplift_m,
        "tape",
        soil.friction_source,
        f"{_how_held(at.body)} the top and the frost depth earn no credit. "
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
    needs, at = kind.needs, kind.ground
    friction = _friction(kind, needs.pressed)
    press = Input("N", _gripping("weight", kind, needs.bearing_case), needs.bearing_n, "force")
    tip, body = needs.tip_n_per_m2 * needs.tip_area_m2, at.body
    return Working(
        "d_bearing",
        "",
        (
            press,
            _safety(at.press),
            *friction,
            *_as_tested(at.press),
            Input("Q_tip", "ultimate under the tip at that depth", tip, "force"),
        ),
        needs.bearing_m,
        "tape",
        kind.soil.friction_source,
        f"{'The helix carries' if body.helix_m else 'Friction and tip together carry'} F times the "
        "weight"
        + (", and what the pier weighs more than the soil it takes the place of" if body.cast else "")
        + " (Reissner's N_q in sand, 9 c_u in clay; soft soil close below counts as the tip's).",
    )


def _heave_working(kind: SizedKind) -> Working:
    needs = kind.needs
    heave = Input("H_f", "frost's grip less the weight on the lightest post", needs.heave_n, "force")
    return Working(
        "d_heave",
        _rooted(kind, "H_f", "w", needs.heave_m) if needs.heave_n > 0 else "",
        (heave, *_friction(kind, needs.shaft)),
        needs.heave_m,
        "tape",
        HEAVE,
        "The grip is an upper value, so friction below frost is taken without further safety."
        if needs.heave_n > 0
        else "No fine soil on top, or the weight outdoes its grip: frost lifts nothing.",
    )
