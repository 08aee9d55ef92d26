"""Dry piles of blocks under purlins: with how many to a layer they neither lift, slide nor tip."""

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.footings.ballast_givens import ANCHORS, STRAP, TiedBy
from openfurrow.core.footings.blocks import Block, block
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.pile_bases import Base, base
from openfurrow.core.footings.weights import Held, bears_pa, fine_soil_on_top, ground_fall, held
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.on_blocks.carry import CORNER
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

# So many blocks to a layer are laid; of the most no more is asked.
TO_A_LAYER = (1, 2, 3, 4, 6, 8, 9, 12)
# A layer's height is taken for whole where it lacks no more than this.
HAIR_M = 0.005
# A purlin is anchored in two blocks of the top layer, where there are two.
ANCHORED = 2
# A pile that is about to tip presses on its edge alone: no more of it is counted gone.
MOST_TIPPED = 0.95
# Less than so much is no force; more than so many times what holds is told as that.
HAIR_N, MOST_USED = 1e-3, 99.0
Way = Literal["lifts", "slides", "tips"]


@dataclass(frozen=True, kw_only=True)
class Failing:
    """How near piles are to one way of failing: 1 is the edge. ``case`` is the worst load of all."""

    way: Way
    used: float
    asked_n: float
    held_n: float
    case: str


@dataclass(frozen=True, kw_only=True)
class Piles:
    """One entry a pile, unless said; ``to_a_layer`` blocks lie in each of its ``layers``.

    ``packing_m`` is what is left to the purlin over whole blocks. ``used`` is the most of any way of
    failing, ``ways`` the worst of all piles. ``side_m`` is the lesser side of the widest pile,
    ``tips_over_m`` of what tips with the narrowest, ``slender`` the most of height over side that one
    has. ``joint`` is the friction that counts between blocks laid dry. ``short_m`` is how much too low
    the lowest purlin lies for one block. ``wind_n`` is what wind pushes the tallest pile itself with,
    ``fall`` the steepest ground under any, ``press_pa`` the most that one presses with, ``bears_pa``
    what the soil there bears.
    """

    held: Held
    block: Block
    base: Base
    tied_by: TiedBy
    glued: bool
    to_a_layer: Integers
    layers: Integers
    packing_m: Floats
    used: Floats
    ways: tuple[Failing, ...]
    heights_m: Floats
    side_m: float
    slender: float
    joint: float
    tips_over_m: float
    short_m: float
    wind_n: float
    fall: float
    press_pa: float
    bears_pa: float
    bears_by: str
    frost: bool

    @property
    def blocks(self) -> Integers:
        """How many blocks each pile is of."""
        return np.asarray(self.to_a_layer * self.layers)

    @property
    def masses_kg(self) -> Floats:
        """What each pile weighs, without what it stands on."""
        return np.asarray(self.blocks * self.block.mass_kg)

    @property
    def asked_kg(self) -> Floats:
        """What of that is asked for."""
        return np.asarray(self.masses_kg * self.used)

    @property
    def total_kg(self) -> float:
        """All of them."""
        return float(self.masses_kg.sum())

    @property
    def deepest_fill_m(self) -> float:
        """How tall the tallest is."""
        return float(self.heights_m.max())

    def way(self, which: Way) -> Failing:
        """One of the ways of failing."""
        return next(one for one in self.ways if one.way == which)


@dataclass(frozen=True, kw_only=True)
class _Bents:
    """Bents that are alike: (roles, bents) of the kinds of their piles and the ground's fall (bents,).

    ``low_layers``, ``most_layers`` and ``high_m`` are by kind: fewest layers, most, greatest height.
    """

    kinds: Integers
    fall: Floats
    low_layers: Integers
    most_layers: Integers
    high_m: Floats


@dataclass(frozen=True, kw_only=True)
class _Used:
    """How near each bent is to each way of failing, (bents, cases), with so many blocks to a layer.

    What is asked and what holds it are those of its worst pile where it lifts, and of the worst pair
    of piles under one row of modules where that slides or tips.
    """

    lifts: Floats
    slides: Floats
    tips: Floats
    asked_n: tuple[Floats, Floats, Floats]
    held_n: tuple[Floats, Floats, Floats]

    @property
    def worst(self) -> Floats:
        """The most of any way in any case, bent by bent."""
        return np.asarray(np.max([self.lifts, self.slides, self.tips], axis=0).max(axis=1))


def layers_in(room_m: Floats, laid: Block) -> Integers:
    """Whole layers in so much room under the purlin, one at least; a hair too little counts."""
    return np.maximum(np.floor((room_m + HAIR_M) / laid.height_m), 1).astype(np.int64)


def size_piles(site: SitePlan, structure: StructurePlan, givens: FootingsGivens) -> Piles:
    """The fewest blocks to a layer with which no pile lifts and no bent slides or tips, in any case."""
    stand, found, pack = structure.posts, structure.reactions, site.rule_pack
    laid, on = block(givens.block, givens.block_kg), base(givens.pile_on)
    holds = held(pack, givens)
    heights = stand.supports.reveals_m
    room = heights - on.height_m
    layers = layers_in(room, laid)
    fall = ground_fall(site, stand)
    bents, bent_of = _alike(stand, fall, layers)
    push_pa = _push_pa(pack, structure)

    def used_with(count: int) -> _Used:
        pile = _Pile(
            block=laid,
            base=on,
            count=count,
            held=holds,
            tied_by=givens.tied_by,
            glued=givens.pile_joints == "glued or mortared",
            joint=_joint(pack),
        )
        return _used(pile, bents, found, push_pa)

    tried = [used_with(count) for count in TO_A_LAYER]
    # A wider pile catches more wind: what holds with fewer blocks need not hold with more.
    held_by = np.stack([one.worst <= 1 + 1e-9 for one in tried])
    if givens.weights == "alike in a line":
        held_by = np.broadcast_to(np.all(held_by, axis=1, keepdims=True), held_by.shape)
    least = np.where(held_by.any(axis=0), held_by.argmax(axis=0), len(TO_A_LAYER) - 1)
    counts = np.array(TO_A_LAYER)[least]
    of_count = dict(zip(TO_A_LAYER, tried, strict=True))
    worst = np.array([of_count[int(count)].worst[at] for at, count in enumerate(counts)])
    many = counts[bent_of]
    most = int(counts.max())
    pressed = _bearing(site, stand, found, bents, of_count, counts, laid, on)
    sides = np.array([laid.pile_m(count)[0] for count in TO_A_LAYER])[least][bent_of]
    return Piles(
        held=holds,
        block=laid,
        base=on,
        tied_by=givens.tied_by,
        glued=givens.pile_joints == "glued or mortared",
        to_a_layer=many,
        layers=layers,
        packing_m=room - layers * laid.height_m,
        used=worst[bent_of],
        ways=_ways(found, of_count, counts),
        heights_m=heights,
        side_m=laid.pile_m(most)[0],
        slender=float((heights / sides).max()),
        joint=_joint(pack),
        tips_over_m=_tips_over_m(laid, on, int(counts.min()), givens.tied_by),
        short_m=max(0.0, laid.height_m - HAIR_M - float(room.min())),
        wind_n=push_pa * laid.pile_m(most)[1] * float(heights.max()),
        fall=float(fall.max()),
        press_pa=pressed[0],
        bears_pa=pressed[1],
        bears_by=pressed[2],
        frost=fine_soil_on_top(site, stand),
    )


@dataclass(frozen=True, kw_only=True)
class _Pile:
    """One sort of pile: its block, what it stands on, blocks to a layer, what holds, its joints."""

    block: Block
    base: Base
    count: int
    held: Held
    tied_by: TiedBy
    glued: bool
    joint: float

    @property
    def layer_n(self) -> float:
        """What of a layer's weight counts."""
        return self.count * self.block.mass_kg * self.held.newtons_a_kg

    @property
    def anchored_n(self) -> float:
        """What of the weight of those blocks counts that hang on anchors, each on its own."""
        if self.tied_by != ANCHORS:
            return 0.0
        return min(self.count, ANCHORED) * self.block.mass_kg * self.held.newtons_a_kg


def _joint(pack: RulePack) -> float:
    """Friction that counts between blocks laid dry."""
    reduced = 1.0 if pack == "us" else constant("metric", "friction_partial").value
    return constant("common", "dry_joint_friction").value / reduced


def _push_pa(pack: RulePack, structure: StructurePlan) -> float:
    """Wind on a pile's own face, with the largest factor that wind has in any combination."""
    gust = constant(pack, "gust_factor").value if pack == "us" else 1.0
    drag = constant("common", "flat_plate_drag").value
    return max(
        gust * drag * one.wind.velocity_pa * float(one.strength.wind.max())
        for one in structure.loads_at
    )


def _alike(stand: Stand, fall: Floats, layers: Integers) -> tuple[_Bents, Integers]:
    """Bents whose piles are of the same kinds, each once, and of every pile which it is of."""
    roles, kind = len(stand.roles), stand.supports.kind
    of_bent = np.stack([kind[stand.of_role(role)] for role in range(roles)])
    falls = np.max([fall[stand.of_role(role)] for role in range(roles)], axis=0)
    kinds, which = np.unique(of_bent, axis=1, return_inverse=True)
    which = which.ravel()
    steepest = np.zeros(kinds.shape[1])
    np.maximum.at(steepest, which, falls)
    low = np.full(stand.kinds.count, np.iinfo(np.int64).max)
    most = np.zeros_like(low)
    np.minimum.at(low, kind, layers)
    np.maximum.at(most, kind, layers)
    bent_of = np.empty(kind.size, dtype=np.int64)
    for role in range(roles):
        bent_of[stand.of_role(role)] = which
    bents = _Bents(
        kinds=kinds, fall=steepest, low_layers=low, most_layers=most, high_m=stand.kinds.high_m
    )
    return bents, bent_of


def _tips_over_m(laid: Block, on: Base, count: int, tied_by: TiedBy) -> float:
    """The lesser side of what tips as one: a pallet with its pile, where the strap goes round both."""
    lesser, _ = laid.pile_m(count)
    if on.tied and tied_by == STRAP:
        return max(lesser, min(on.length_m, on.width_m))
    return lesser


def _over(asked_n: Floats, held_n: Floats) -> Floats:
    """What is asked over what holds it; where next to nothing does, no more than `MOST_USED`."""
    share = np.minimum(asked_n / np.maximum(held_n, 1e-9), MOST_USED)
    return np.where(asked_n <= HAIR_N, 0.0, share)


def _used(pile: _Pile, bents: _Bents, found: Reactions, push_pa: float) -> _Used:
    """Free bodies of piles and bents under every case.

    ``down`` is what comes on a pile's top (roles, bents, cases), negative where it lifts. Both piles
    under a row of modules slide, or rock, together: its modules tie their heads, and nothing ties one
    row to the next. A gust at a corner meets few: it lifts, and all the others hold the table where
    it lies.
    """
    kinds = bents.kinds
    down, layers = found.down_n[kinds], bents.low_layers[kinds][..., None]
    own = np.asarray(layers * pile.layer_n, dtype=np.float64)
    strapped = pile.tied_by == STRAP
    hangs = own if strapped else np.full_like(own, pile.anchored_n)
    lifted = np.maximum(-down, 0.0)
    table = np.hypot(_by_row(found.across_n[kinds]), _by_row(found.along_n[kinds]))
    _, greater = pile.block.pile_m(pile.count)
    high = bents.high_m[kinds][..., None]
    on_piles = _by_row(push_pa * greater * high)
    slides_n, slid_n = _sliding(pile, bents, down, (own, layers), table + on_piles)
    side = _tips_over_m(pile.block, pile.base, pile.count, pile.tied_by)
    # The head moves as far for all of them: each turns by that over its own height.
    rights = np.maximum(down + own, 0.0) * side / (2 * high)
    if not strapped:
        # Top blocks by themselves roll on the joint beneath them.
        joint = np.maximum(down + pile.anchored_n, 0.0) * pile.block.width_m
        rights = np.minimum(rights, joint / (2 * pile.block.height_m))
    whole = np.array([CORNER not in name for name in found.names])
    lift = _worst(lifted, np.broadcast_to(hangs, down.shape))
    slide = _worst(slides_n * whole, slid_n)
    tip = _worst((table + on_piles / 2) * whole, _by_row(rights))
    return _Used(
        lifts=lift[0],
        slides=slide[0],
        tips=tip[0],
        asked_n=(lift[1], slide[1], tip[1]),
        held_n=(lift[2], slide[2], tip[2]),
    )


def _by_row(of_piles: Floats) -> Floats:
    """Sums over both piles under each row of modules: from (roles, ...) to (rows, ...)."""
    return np.asarray(of_piles.reshape(-1, 2, *of_piles.shape[1:]).sum(axis=1))


def _worst(asked_n: Floats, held_n: Floats) -> tuple[Floats, Floats, Floats]:
    """Of several piles, or rows, the one that is nearest to failing: its share, asked, held."""
    share = _over(asked_n, held_n)
    at = share.argmax(axis=0)[None]
    found = (np.take_along_axis(one, at, 0)[0] for one in (share, asked_n, held_n))
    share, asked, held_by = found
    return share, asked, held_by


def _sliding(
    pile: _Pile, bents: _Bents, down: Floats, own: tuple[Floats, Integers], push: Floats
) -> tuple[Floats, Floats]:
    """What each row must press with so that friction holds its push, and what it does press with.

    Dry joints hold too: the topmost is pressed least, and where nothing ties a purlin, that beneath it.
    """
    weights, layers = own
    press = np.maximum(down + weights, 0.0)
    if pile.tied_by == STRAP:
        # A tight strap takes lift round the joints, which bear the top layer and what presses on it.
        over = pile.layer_n + np.maximum(down, 0.0)
    else:
        over = np.maximum(down + pile.anchored_n, 0.0)
    joint = over * (pile.joint / pile.held.friction)
    single = ((layers == 1) | pile.glued) & (pile.tied_by != "nothing")
    counted = _by_row(np.where(single, press, np.minimum(press, joint)))
    return pile.held.wanted_n(push, bents.fall[:, None]), counted


def _ways(found: Reactions, of_count: dict[int, _Used], counts: Integers) -> tuple[Failing, ...]:
    """The worst bent and case of each way of failing."""
    ways: list[Failing] = []
    for number, way in enumerate(("lifts", "slides", "tips")):
        every = np.stack([getattr(of_count[int(count)], way)[at] for at, count in enumerate(counts)])
        bent, case = np.unravel_index(int(every.argmax()), every.shape)
        used = of_count[int(counts[bent])]
        ways.append(
            Failing(
                way=way,  # type: ignore[arg-type]
                used=float(every[bent, case]),
                asked_n=float(used.asked_n[number][bent, case]),
                held_n=float(used.held_n[number][bent, case]),
                case=found.names[int(case)],
            )
        )
    return tuple(ways)


def _bearing(
    site: SitePlan,
    stand: Stand,
    found: Reactions,
    bents: _Bents,
    of_count: dict[int, _Used],
    counts: Integers,
    laid: Block,
    on: Base,
) -> tuple[float, float, str]:
    """What the pile that presses its soil hardest presses with, what that bears, and its class.

    A pile about to tip presses on what is left beside its edge (EN 1997-1 Annex D, effective area).
    Weight counts in full, in the metric school by its own partial factor.
    """
    pack = site.rule_pack
    heavy = 1.0 if pack == "us" else constant("metric", "heaviest_dead").value
    worst: tuple[float, float, float, str] = (-1.0, 0.0, 1.0, "")
    for at, count in enumerate(counts.tolist()):
        sides = on.on_ground_m(*laid.pile_m(count))
        tipped = np.minimum(of_count[count].tips[at], MOST_TIPPED)
        left = sides[0] * (1 - tipped)
        area = left * sides[1] * on.pressed_share
        for kind in bents.kinds[:, at].tolist():
            soil = site.soils[int(stand.kinds.soil_of[kind])]
            blocks = count * int(bents.most_layers[kind])
            own = heavy * (blocks * laid.mass_kg + on.mass_kg) * STANDARD_GRAVITY_M_S2
            down = np.maximum(found.down_n[kind] + own, 0.0)
            push = np.hypot(found.across_n[kind], found.along_n[kind])
            bears = bears_pa(pack, soil, float(left.min()), down, push)
            share = down / area / bears
            case = int(share.argmax())
            if share[case] > worst[0]:
                pressed = float(down[case] / area[case])
                worst = (float(share[case]), pressed, float(bears[case]), soil.layers[0].soil_class)
    return worst[1:]
