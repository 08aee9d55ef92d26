"""What weights on the ground answer, and what would stop them."""

import numpy as np

from openfurrow.core.checks import Check, at_least, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import Posts
from openfurrow.core.footings.rests import WEIGHT, apart_check, rests_answers, rests_checks
from openfurrow.core.footings.weights import BEYOND_KG, Weights
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import GEOMETRY, Answer, Input, Working


def weight_answers(
    weights: Weights, posts: Posts, structure: StructurePlan, givens: FootingsGivens
) -> tuple[Answer, ...]:
    """What each line's boxes weigh, all of them, how high they are filled; then the legs."""
    stand = structure.posts
    supports = stand.supports
    longest = int(posts.lengths_m.argmax())
    return (
        *(_line_answer(weights, structure, role) for role in range(len(stand.roles))),
        Answer(
            "footings",
            "all_weight",
            "All weights together",
            Working(
                "W",
                "",
                (Input("n", "boxes", float(supports.count), "count"),),
                weights.total_kg,
                "haul",
                GEOMETRY,
                f"Filled with {givens.filled_with}. It is hauled, wheeled or chuted to every box.",
            ),
            True,
        ),
        Answer("footings", "fill", "The heaviest is filled to", _fill_working(weights)),
        *_block_answers(weights, structure),
        Answer("footings", "slides", "Against sliding", _slide_working(weights)),
        *rests_answers(weights, "box"),
        Answer(
            "footings",
            "length",
            "Leg length",
            Working(
                "L_leg",
                "h - f + t",
                (
                    Input("h", "ground to bolt", float(supports.reveals_m[longest]), "tape"),
                    Input("f", "its foot over the ground", stand.bent.foot_m or 0.0, "tape"),
                    Input("t", "leg above the bolt", stand.bent.top_m, "tape"),
                ),
                posts.longest_m,
                "tape",
                GEOMETRY,
                "The longest. Each leg's own length stands in the stakes.",
            ),
        ),
    )


def _fill_working(weights: Weights) -> Working:
    """How high, by what is shovelled in or in whole layers of blocks."""
    heaviest = Input("m", "weight of the heaviest", float(weights.masses_kg.max()), "mass")
    if weights.block is not None:
        block = weights.block
        return Working(
            "h",
            "ceil(n / n_l) * t" if weights.a_layer else "",
            (
                Input("n", "blocks in it", float(weights.blocks.max()), "count"),
                Input("n_l", "blocks to a layer, all one way", float(weights.a_layer), "count"),
                Input("t", "a layer", block.height_m, "thickness"),
            ),
            weights.deepest_fill_m,
            "tape",
            GEOMETRY,
            f"{block.name}, around the leg.",
        )
    return Working(
        "h",
        "m / (rho * b**2)",
        (
            heaviest,
            Input("rho", f"a cubic metre of {weights.fill}", weights.fill_kg_per_m3, "factor"),
            Input("b", "side of the box", weights.side_m, "tape"),
        ),
        weights.deepest_fill_m,
        "tape",
        GEOMETRY,
        "The box itself is left out: it is to spare.",
    )


def _block_answers(weights: Weights, structure: StructurePlan) -> tuple[Answer, ...]:
    """How many blocks each line's boxes take, at the most, and all of them."""
    if weights.block is None:
        return ()
    stand, block, counts = structure.posts, weights.block, weights.blocks
    lines = [
        Answer(
            "footings",
            f"blocks_{role + 1}",
            f"Blocks at each {stand.roles[role].name}",
            Working(
                "n",
                "m / m_b",
                (
                    Input("m", "weight there", float(weights.masses_kg[mine].max()), "mass"),
                    Input("m_b", block.name, block.mass_kg, "mass"),
                ),
                float(counts[mine].max()),
                "count",
                GEOMETRY,
                "Laid by hand, the row's own way from one end; strapped or netted, so that none walks "
                "off. Nothing dry stands beneath: what catches fire there burns the array.",
            ),
            True,
        )
        for role in range(len(stand.roles))
        if (mine := stand.of_role(role)).size
    ]
    return (
        *lines,
        Answer(
            "footings",
            "blocks",
            "Blocks in all",
            Working(
                "N",
                "W / m_b",
                (
                    Input("W", "all weights together", weights.total_kg, "mass"),
                    Input("m_b", block.name, block.mass_kg, "mass"),
                ),
                float(counts.sum()),
                "count",
                GEOMETRY,
            ),
        ),
    )


def _line_answer(weights: Weights, structure: StructurePlan, role: int) -> Answer:
    """What the boxes of one line weigh."""
    stand = structure.posts
    kinds, name = stand.kinds, stand.roles[role].name
    mine = stand.of_role(role)
    lift, slide = (
        np.where(kinds.role == role, part, 0.0) for part in (weights.lift_kg, weights.slide_kg)
    )
    worst = int((lift + slide).argmax())
    return Answer(
        "footings",
        f"weight_{role + 1}",
        f"Weight at each {name}",
        Working(
            "m",
            "",
            (
                Input("m_l", f"keeps it down: {weights.case_lifts}", float(lift[worst]), "mass"),
                Input("m_s", f"from sliding: {weights.case_slides}", float(slide[worst]), "mass"),
                Input("g_w", "share of a weight that counts", weights.held.lightest, "factor"),
            ),
            float(weights.masses_kg[mine].max()),
            "haul",
            WEIGHT,
            "The heaviest of its line, rounded up. No shelter behind other rows is counted, and "
            "nothing for frames that hang together.",
        ),
        True,
    )


def _slide_working(weights: Weights) -> Working:
    return Working(
        "V",
        "H * (1 + mu * s) / (mu - s)" if weights.fall < weights.held.friction else "",
        (
            Input("H", f"push on a bent, {weights.case_slides}", weights.push_n, "force"),
            Input("mu", "friction that counts", weights.held.friction, "factor"),
            Input("s", "the steepest ground, as a share", weights.fall, "factor"),
        ),
        float(weights.held.wanted_n(np.array([weights.push_n]), np.array([weights.fall]))[0]),
        "force",
        WEIGHT,
        "The press that both boxes of a bent, which its base rail ties, must bring together; some "
        "of it is there already.",
    )


def _block_checks(weights: Weights) -> tuple[Check, ...]:
    """Whether a layer of blocks goes into the tray at all."""
    if weights.block is None:
        return ()
    return (
        at_least(
            "footings",
            "blocks_fit",
            "Blocks go into a tray, around its leg",
            float(weights.a_layer),
            1.0,
            "count",
            remedy="Wider trays, or smaller blocks.",
            source=GEOMETRY,
            given="footings.box_side_m",
        ),
    )


def weight_checks(weights: Weights, stand: Stand, quake: float | None) -> tuple[Check, ...]:
    """Whether weight can hold it here at all, whether the ground bears it, frost, the slope.

    ``quake`` is the share of all weight that an earthquake pushes with, where somebody has said.
    """
    friction = weights.held.friction
    return (
        holds(
            "footings",
            "slides",
            "Friction can hold it on this slope",
            weights.fall < friction and float(weights.asked_kg.max()) < BEYOND_KG / 2,
            f"falls {weights.fall:.1%}",
            f"less than the friction that counts, {friction:.2f}",
            remedy="No weight holds on such ground: even it, or take footings that go into it.",
            source=WEIGHT,
            given="footings.sliding_friction",
        ),
        *rests_checks(weights, "box", quake),
        within(
            "footings",
            "fill",
            "A box holds what it must weigh",
            weights.deepest_fill_m,
            constant("common", "box_fill_m"),
            "tape",
            most=True,
            remedy="Wider boxes, concrete instead of stone, bents closer together, or a flatter tilt.",
            given="footings.box_side_m",
            otherwise="look",
        ),
        *_block_checks(weights),
        apart_check(stand, weights.side_m, "boxes_apart", "Boxes", "footings.box_side_m"),
        at_least(
            "footings",
            "over_fill",
            "Braces and cables meet legs over what is filled in",
            stand.givens.brace_foot_m,
            weights.deepest_fill_m + (stand.bent.foot_m or 0.0),
            "tape",
            remedy="Wider boxes, or bolts that meet the legs higher.",
            source=GEOMETRY,
            given="structure.brace_foot_m",
        ),
    )
