"""What piles of blocks answer, and what would stop them: who must not build so, and where."""

from openfurrow.core.checks import Check, Mend, at_most, mended_by, within
from openfurrow.core.codes import constant
from openfurrow.core.footings.ballast_givens import ANCHORS, STRAP
from openfurrow.core.footings.piles import HAIR_M, HAIR_N, MOST_USED, TO_A_LAYER, Failing, Piles
from openfurrow.core.footings.rests import WEIGHT, apart_check, rests_answers, rests_checks
from openfurrow.core.structures.stand import Stand
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

ROCKING = Source("equilibrium of dry piles whose heads are tied, each about its own edge", "physics")
JOINTS = Source("friction in dry joints, EN 1996-1-1 3.6.2, and under the pile", "from memory")


def pile_answers(piles: Piles, stand: Stand) -> tuple[Answer, ...]:
    """Blocks to a layer, layers, all of them; then how near piles are to each way of failing."""
    most, tall = int(piles.to_a_layer.max()), int(piles.layers.argmax())
    lesser, greater = piles.block.pile_m(most)
    counts = ", ".join(map(str, TO_A_LAYER[:-1]))
    return (
        Answer(
            "footings",
            "to_a_layer",
            "Blocks to a layer",
            Working(
                "n_l",
                "",
                (
                    Input("b", "lesser side of such a pile", lesser, "tape"),
                    Input("l", "greater side", greater, "tape"),
                    *(Input(f"U_{one.way[0]}", _near(one), one.used, "ratio") for one in piles.ways),
                ),
                float(most),
                "count",
                WEIGHT,
                f"{piles.block.name.capitalize()}, flat; the fewest of {counts} or {TO_A_LAYER[-1]} "
                "that neither lift, slide nor tip in any case. Joints of one layer lie over the blocks "
                "of the next.",
            ),
            True,
        ),
        Answer(
            "footings",
            "layers",
            "Layers in the tallest pile",
            Working(
                "n",
                "floor((h - h_b + e) / t)",
                (
                    Input("h", "ground to purlin", float(piles.heights_m[tall]), "tape"),
                    Input("h_b", f"it stands on {piles.base.name}", piles.base.height_m, "tape"),
                    Input("t", "a layer", piles.block.height_m, "thickness"),
                    Input("e", "let go", HAIR_M, "thickness"),
                ),
                float(piles.layers[tall]),
                "count",
                GEOMETRY,
                f"The lowest has {int(piles.layers.min())}.",
            ),
        ),
        *_laid_answers(piles),
        *(_way_answer(piles, one) for one in piles.ways),
        Answer(
            "footings",
            "wind_on_pile",
            "Wind on the tallest pile itself",
            Working(
                "F_p",
                "",
                (Input("l", "its greater side", greater, "tape"),),
                piles.wind_n,
                "force",
                WEIGHT,
                "Counted with what comes from the table, in every case, none of them in shelter.",
            ),
        ),
        *rests_answers(piles, "pile"),
        *_reach(stand),
    )


def _laid_answers(piles: Piles) -> tuple[Answer, ...]:
    """What is packed on top, and what of blocks is carried to all of them."""
    return (
        Answer(
            "footings",
            "packing",
            "Most packing on a pile",
            Working(
                "p",
                "",
                (Input("t", "a layer", piles.block.height_m, "thickness"),),
                max(0.0, float(piles.packing_m.max())),
                "thickness",
                GEOMETRY,
                "Over the last whole layer, under the purlin: slates, thin slabs, cut blocks; no wood.",
            ),
        ),
        Answer(
            "footings",
            "blocks",
            "Blocks in all",
            Working(
                "N",
                "",
                (
                    Input("n_p", "piles", float(piles.layers.size), "count"),
                    Input("m_b", piles.block.name, piles.block.mass_kg, "mass"),
                ),
                float(piles.blocks.sum()),
                "count",
                GEOMETRY,
                "Layer by layer of every pile; those that break on the way are to spare.",
            ),
            True,
        ),
        Answer(
            "footings",
            "all_weight",
            "All piles together",
            Working(
                "W",
                "N * m_b",
                (
                    Input("N", "blocks", float(piles.blocks.sum()), "count"),
                    Input("m_b", piles.block.name, piles.block.mass_kg, "mass"),
                ),
                piles.total_kg,
                "haul",
                GEOMETRY,
                "Carried to every pile by hand.",
            ),
        ),
    )


def _near(one: Failing) -> str:
    return {"lifts": "near to lifting", "slides": "near to sliding", "tips": "near to tipping"}[one.way]


def _way_answer(piles: Piles, one: Failing) -> Answer:
    said = {
        "lifts": (
            "pile_lifts",
            "Lift on a pile, over what hangs on it",
            "pull on it",
            HANGS[piles.tied_by],
        ),
        "slides": (
            "pile_slides",
            "Sliding of a row's piles, over what holds them",
            "press that friction asks for",
            "Both piles under a row of modules together, by ground or joints, with wind on them.",
        ),
        "tips": (
            "pile_tips",
            "Tipping of a row's piles, over what rights them",
            "push at its heads",
            "Both under a row of modules rock together, each about its own edge: V * b / (2 * h).",
        ),
    }
    key, label, asked, note = said[one.way]
    return Answer(
        "footings",
        key,
        label,
        Working(
            "U",
            "A / H" if HAIR_N < one.asked_n < one.held_n * MOST_USED else "",
            (
                Input("A", f"{asked}: {one.case}", one.asked_n, "force"),
                Input("H", "what holds it", one.held_n, "force"),
                Input("g_w", "share of a weight that counts", piles.held.lightest, "factor"),
            ),
            one.used,
            "ratio",
            ROCKING if one.way == "tips" else JOINTS if one.way == "slides" else WEIGHT,
            note,
        ),
    )


HANGS = {
    STRAP: "The strap goes under the lowest block: all of the pile hangs on it. Strap, ratchet "
    "and clip hold that pull by their own sheets.",
    ANCHORS: "Two blocks hang on them: nothing sticks dry blocks together.",
    "nothing": "Nothing hangs on it.",
}


def _reach(stand: Stand) -> tuple[Answer, ...]:
    """Nothing of what stands here is driven: how high purlins lie over the ground is told."""
    high = stand.supports.reveals_m
    return (
        Answer(
            "footings",
            "length",
            "Ground to purlin, the tallest",
            Working(
                "h",
                "",
                (Input("h_0", "the lowest", float(high.min()), "tape"),),
                float(high.max()),
                "tape",
                GEOMETRY,
                "Each pile's own height stands in the stakes.",
            ),
        ),
    )


def pile_checks(
    piles: Piles, stand: Stand, life_years: float, quake: float | None
) -> tuple[Check, ...]:
    """Whether piles hold at all, how they are built, what they rest on.

    It is to stand ``life_years``; ``quake`` is the share of its weight that an earthquake pushes with,
    where somebody has said.
    """
    strapped = piles.tied_by == STRAP
    lifts, slides, tips = (piles.way(way) for way in ("lifts", "slides", "tips"))
    tie = Mend("Strap every pile", (("footings.tied_by", STRAP),))
    lifted = at_most(
        "footings",
        "pile_lifts",
        "No pile is lifted",
        lifts.used,
        1.0,
        "ratio",
        remedy=("" if strapped else "A strap around the whole pile. ")
        + "Heavier blocks, piles closer together, flatter; in such wind rather posts or boxes.",
        source=WEIGHT,
        given="footings.tied_by" if not strapped else "footings.block",
    )
    return (
        lifted if strapped else mended_by(lifted, tie),
        at_most(
            "footings",
            "pile_slides",
            "Friction holds the piles of every row",
            slides.used,
            1.0,
            "ratio",
            remedy=("" if piles.glued else "Glue or mortar the layers. ")
            + "Even the ground, heavier blocks, piles closer together; no pile holds on a slope.",
            source=JOINTS,
            given="footings.sliding_friction",
        ),
        at_most(
            "footings",
            "pile_tips",
            "The piles of no row rock over",
            tips.used,
            1.0,
            "ratio",
            remedy="Lower piles, blocks that lie wider, piles closer together, or a ballast frame.",
            source=ROCKING,
            given="footings.block",
        ),
        *_built_checks(piles),
        *_pallet_check(piles, life_years),
        *rests_checks(piles, "pile", quake),
        apart_check(
            stand,
            piles.block.pile_m(int(piles.to_a_layer.max()))[1],
            "piles_apart",
            "Piles",
            "footings.block",
        ),
    )


def _built_checks(piles: Piles) -> tuple[Check, ...]:
    """Whether such piles are laid well: a block under every purlin, whole layers, none too tall."""
    return (
        at_most(
            "footings",
            "pile_low",
            "A block goes under every purlin",
            piles.short_m,
            0.0,
            "thickness",
            remedy="A thinner block or slab, a higher lower edge, or ground dug off under the pile.",
            source=GEOMETRY,
            given="rows.lower_edge_m",
        ),
        within(
            "footings",
            "pile_packing",
            "Piles come out near whole layers",
            max(0.0, float(piles.packing_m.max())),
            constant("common", "pile_packing_m"),
            "thickness",
            most=True,
            remedy="A thin slab as the last layer, blocks of another height, or another lower edge.",
            given="footings.block",
            otherwise="look",
        ),
        within(
            "footings",
            "pile_heap",
            "A layer is of no more blocks than are laid well",
            float(piles.to_a_layer.max()),
            constant("common", "pile_a_layer"),
            "count",
            most=True,
            remedy="Larger blocks, piles closer together, or filled boxes under a ballast frame.",
            given="footings.block",
            otherwise="look",
        ),
        within(
            "footings",
            "pile_slender",
            "No pile is tall for its width",
            piles.slender,
            constant("common", "pile_slender"),
            "factor",
            most=True,
            remedy="Lower, or more blocks to a layer.",
            given="rows.lower_edge_m",
            otherwise="look",
        ),
    )


def _pallet_check(piles: Piles, life_years: float) -> tuple[Check, ...]:
    """Wood in wet grass does not last as long as what stands on it."""
    if not piles.base.tied:
        return ()
    return (
        at_most(
            "footings",
            "pallet_rots",
            "What piles stand on lasts as many years",
            float(life_years),
            constant("common", "pallet_years").value,
            "count",
            remedy="A slab instead; or pallets are looked at every spring, and changed one by one.",
            source=constant("common", "pallet_years").source,
            given="footings.pile_on",
            otherwise="look",
        ),
    )
