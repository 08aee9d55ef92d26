"""What is told of ballast: trays on the ground, and what is laid or shovelled into them."""

from typing import Literal

from openfurrow.core.footings.blocks import BlockName
from openfurrow.core.footings.pile_bases import BaseName
from openfurrow.core.givens import given
from openfurrow.core.quantities import INCH_M

Filling = Literal["concrete", "stone", "blocks"]
Alike = Literal["alike in a line", "each its own"]
Joints = Literal["laid dry", "glued or mortared"]
TiedBy = Literal["a strap around the pile", "anchors in its top blocks", "nothing"]
STRAP: TiedBy = "a strap around the pile"
ANCHORS: TiedBy = "anchors in its top blocks"

BOX_SIDE: float = given(
    0.6,
    "Side of a box",
    "tape",
    "Boxes are square; of a round bucket the side of a square as large.",
    "What is sold, or boards at hand.",
    low=0.2,
    high=2.5,
    usual=(0.4, 1.2),
    group="Ballast",
    us=24 * INCH_M,
)
FILLED_WITH: Filling = given(
    "concrete",
    "Filled with",
    "choice",
    "Concrete weighs half as much again as stone that is shovelled in. Blocks or slabs are laid in "
    "by hand, and taken out again.",
    "What can be brought to every box.",
    group="Ballast",
)
BLOCK: BlockName = given(
    "dense block 440 x 215 x 100",
    "Block",
    "choice",
    "What is laid flat, all one way: in every tray, or in every layer of a pile.",
    "The merchant's yard.",
    group="Ballast",
    us="solid 16 x 8 x 4 in",
)
BLOCK_KG: float | None = given(
    None,
    "One of them weighs",
    "mass",
    "Left empty: as such blocks of dense concrete usually do; light ones look alike.",
    "A scale, five from the pallet.",
    low=2,
    high=200,
    usual=(10, 60),
    group="Ballast",
)
FRICTION: float = given(
    0.3,
    "Friction under boxes",
    "factor",
    "Of a box on this ground.",
    "0.3 to 0.4 on firm soil; less on wet clay, plastic or ice; pull one and see.",
    low=0.05,
    high=0.9,
    usual=(0.3, 0.4),
    group="Ballast",
)
WEIGHTS: Alike = given(
    "alike in a line",
    "Weights are",
    "choice",
    "Alike: every box of the front line as heavy as the one that needs most, and so behind; of piles "
    "all have as many blocks to a layer.",
    "Alike is one mark in every box; each its own saves concrete.",
    group="Ballast",
)
TIED_BY: TiedBy = given(
    STRAP,
    "Purlins are tied down by",
    "choice",
    "A strap that goes around the whole pile lifts all of it. An anchor lifts the block that it is set "
    "in and no other, of two that are anchored: nothing sticks dry blocks together. Nothing: the "
    "table lies there by its own weight.",
    "The frame's maker; stainless or sunlight-proof straps, drawn tight.",
    group="Ballast",
)
PILE_JOINTS: Joints = given(
    "laid dry",
    "Blocks are",
    "choice",
    "Laid dry, the top layer slides on the one below: little presses on that joint. Glued or mortared "
    "layer on layer, a pile slides as one; nothing is counted for what such joints hold when lifted.",
    "Glue for masonry wants dry, brushed blocks; dry piles are taken away again.",
    group="Ballast",
)
PILE_ON: BaseName = given(
    "the ground",
    "Piles stand on",
    "choice",
    "A slab spreads the weight on soft ground. A pallet makes the pile wider against tipping where the "
    "strap goes round it too; it rots.",
    "What the ground bears; a pallet is for a few years.",
    group="Ballast",
)
