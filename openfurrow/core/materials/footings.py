"""What footings take from the merchant: posts, boxes and their fill, or bores full of concrete."""

import numpy as np

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.footings.ballast_givens import ANCHORS, STRAP
from openfurrow.core.footings.blocks import Block
from openfurrow.core.footings.bored.bore import Piers
from openfurrow.core.footings.piles import ANCHORED, Piles
from openfurrow.core.footings.plan import FootingsPlan
from openfurrow.core.footings.turned.screw import Screws
from openfurrow.core.footings.weights import Weights
from openfurrow.core.materials.cuts import POSTS_KEY, Cut
from openfurrow.core.materials.lines import Take
from openfurrow.core.quantities import spoken


def footing_takes(
    footings: FootingsPlan, pack: RulePack, cuts: tuple[Cut, ...] = ()
) -> tuple[Take, ...]:
    """Posts at the longest length needed, and what holds them; the stakes list each post's own.

    Posts that ``cuts`` takes from sticks are bought as such.
    """
    posts, weights, piers = footings.posts, footings.weights, footings.piers
    if isinstance(weights, Piles):
        return _pile_takes(weights)
    count = float(posts.depths_m.size)
    here = sum(cut.count for cut in cuts if cut.key == POSTS_KEY and cut.from_stick)
    post = Take(
        "footings",
        "post",
        f"{'Post' if weights is None else 'Leg'}, {posts.post.name}, galvanised, "
        f"{spoken(posts.longest_m, 'tape')} long",
        count - here,
        "count",
        "One a box."
        if weights is not None
        else "One a bore."
        if piers is not None
        else "Bolted on the head of each screw."
        if footings.screws is not None
        else "One a stake, spares for the one that refuses.",
        "post",
        piece_kg=posts.longest_m * posts.post.mass_kg_per_m,
        length_m=posts.longest_m,
    )
    return (
        post,
        *(_weight_takes(weights, count) if weights is not None else ()),
        *(_pier_takes(piers, count, pack) if piers is not None else ()),
        *(_screw_takes(footings.screws, count) if footings.screws is not None else ()),
    )


def _pile_takes(piles: Piles) -> tuple[Take, ...]:
    """Blocks, what they stand on, what ties purlins down."""
    count = float(piles.layers.size)
    takes = [_block_take(piles.block, float(piles.blocks.sum()), "piles")]
    if piles.base.is_laid:
        what = piles.base.name.removeprefix("a ")
        takes.append(
            Take(
                "footings",
                "pile_base",
                f"{what.capitalize()}, under a pile",
                count,
                "count",
                "Level both ways before the first block lies on it.",
                piece_kg=piles.base.mass_kg,
            )
        )
    if piles.glued:
        joints = float((piles.blocks - piles.to_a_layer).sum())
        takes.append(
            Take(
                "footings",
                "block_glue",
                "Glue for masonry, cartridge",
                joints / constant("common", "blocks_a_cartridge").value,
                "count",
                "Two beads to a block, on every layer but the first.",
                "cut",
            )
        )
    if piles.tied_by == STRAP:
        takes.append(
            Take(
                "footings",
                "pile_strap",
                "Strap with ratchet, sunlight-proof",
                count,
                "count",
                "Under the lowest block and over the purlin, edges of blocks padded; drawn tight again "
                "after a week, then every spring.",
            )
        )
    if piles.tied_by == ANCHORS:
        takes.append(
            Take(
                "footings",
                "block_anchor",
                "Anchor with bolt, for a block",
                float(np.minimum(piles.to_a_layer, ANCHORED).sum()),
                "count",
                "One in each of two blocks of the top layer, as far from edges as their sheet says.",
            )
        )
    return tuple(takes)


def _weight_takes(weights: Weights, count: float) -> tuple[Take, ...]:
    return (
        Take(
            "footings",
            "box",
            f"Box or tray, {weights.fill}",
            count,
            "count",
            "One under each leg; empty ones are set first, a truck's path left open.",
        ),
        _block_take(weights.block, float(weights.blocks.sum()), "trays")
        if weights.block is not None
        else Take(
            "footings",
            f"fill_{weights.fill}",
            f"{weights.fill.capitalize()} for the boxes",
            weights.total_kg,
            "haul",
            "To the mark in every box; what is spilt and left over comes on top.",
            "cut",
            kg_per_unit=1.0,
        ),
    )


def _block_take(block: Block, count: float, where: str) -> Take:
    return Take(
        "footings",
        "fill_blocks",
        f"Block for the {where}, {block.name}",
        count,
        "count",
        f"So many in all {where} as is said; those that break on the way are to spare.",
        "cut",
        piece_kg=block.mass_kg,
    )


def _screw_takes(screws: Screws, count: float) -> tuple[Take, ...]:
    """Screws as they are sold, with what is coupled on; spares for the one that meets a stone."""
    what = "rock screw" if screws.rock else "ground screw"
    piece_m = screws.longest_m / screws.pieces
    name = screws.shaft.name
    takes = [
        Take(
            "footings",
            "rock_screw" if screws.rock else "ground_screw",
            f"{what.capitalize()}, {name}"
            + (f", helix {spoken(screws.helix_m, 'tape')}" if screws.helix_m else ""),
            count,
            "count",
            "With its head plate; as long as the longest needs, turned to the same height.",
            "post",
            piece_kg=piece_m * screws.shaft.mass_kg_per_m,
        )
    ]
    if screws.pieces > 1:
        takes.append(
            Take(
                "footings",
                "screw_extension",
                f"Extension with coupling, {name}",
                count * (screws.pieces - 1),
                "count",
                "Bolted through before it goes on down.",
                piece_kg=piece_m * screws.shaft.mass_kg_per_m,
            )
        )
    return tuple(takes)


def _pier_takes(piers: Piers, count: float, pack: RulePack) -> tuple[Take, ...]:
    """Concrete by truck or in bags, stone, tubes, bars."""
    if piers.bag_m3:
        concrete = Take(
            "footings",
            "concrete_bag",
            "Bag of concrete",
            piers.bags,
            "count",
            "Kept dry and off the ground; mixed to its own water.",
            "cut",
            piece_kg=piers.bag_m3 * constant("common", "dry_mix_kg_per_m3").value,
        )
    else:
        concrete = Take(
            "footings",
            "concrete",
            f"Concrete by truck, {spoken(piers.concrete_pa, 'stress')}",
            piers.order_m3,
            "volume",
            "Booked only when the ground is safe to open; far bores first, nothing in the truck's way.",
            "cut",
            pack=constant(pack, "truck_step_m3").value,
            kg_per_unit=constant("common", "concrete_kg_per_m3").value,
        )
    takes = [concrete]
    if piers.stone_m3 > 0:
        takes.append(
            Take(
                "footings",
                "pier_stone",
                "Stone for the bores",
                piers.stone_m3,
                "volume",
                "Tamped at the foot of every bore.",
                "cut",
                pack=0.1,
                kg_per_unit=constant("common", "stone_kg_per_m3").value,
            )
        )
    if piers.formed:
        takes.append(
            Take(
                "footings",
                "form_tube",
                f"Form tube, {spoken(piers.diameter_m, 'tape')}",
                float((piers.depths_m + piers.top_m).sum()),
                "run",
                "Cut to each bore and what stands above it; soil tamped around it.",
                "cut",
            )
        )
    if piers.foot_bar:
        takes.append(
            Take(
                "footings",
                "foot_bar",
                "Bar through a post's foot",
                count,
                "count",
                "As long as the bore is wide, less its cover.",
            )
        )
    if piers.bars:
        takes.append(
            Take(
                "footings",
                "cage_bar",
                f"Upright bar of a cage, {spoken(piers.bar_m, 'tape')}",
                count * piers.bars,
                "count",
                "To the pier's depth less its cover at both ends, with rings.",
            )
        )
    return tuple(takes)
