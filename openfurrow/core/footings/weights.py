"""Weights on the ground: how heavy each box must be so that wind neither lifts nor slides the frame."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.footings.axial import bearing_number
from openfurrow.core.footings.blocks import Block, block
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.quantities import POUND_KG, STANDARD_GRAVITY_M_S2, UnitSystem
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import WATER_N_M3, Soil
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.structures.stand import Stand
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]

# Said of a weight that no friction makes do.
BEYOND_KG = 1e5
# The ground's fall at a box is that over so far to each side.
BESIDE_M = 0.5


def mass_step_kg(units: UnitSystem) -> float:
    """Weights are called out in steps of 25 lb, or of 10 kg."""
    return 25 * POUND_KG if units == "us" else 10.0


@dataclass(frozen=True, kw_only=True)
class Held:
    """What weighs and what holds, by the school: ``lightest`` is how much of a weight counts.

    ``friction`` is what counts of friction under a box.
    """

    lightest: float
    friction: float

    @property
    def newtons_a_kg(self) -> float:
        """What a kilogram of ballast holds down."""
        return self.lightest * STANDARD_GRAVITY_M_S2

    def wanted_n(self, push_n: Floats, fall: Floats) -> Floats:
        """The press that keeps a push from sliding down ground that falls so much, by free body.

        Along the fall V sin s + H cos s is held by mu (V cos s - H sin s).
        """
        left = np.maximum(self.friction - fall, 1e-9)
        return np.asarray(np.abs(push_n) * (1 + self.friction * fall) / left)


def held(pack: RulePack, givens: FootingsGivens) -> Held:
    """us: 0.6 D; metric: 0.9 G, and friction reduced by its partial factor."""
    reduced = 1.0 if pack == "us" else constant("metric", "friction_partial").value
    return Held(
        lightest=constant(pack, "lightest_dead").value, friction=givens.sliding_friction / reduced
    )


@dataclass(frozen=True, kw_only=True)
class Weights:
    """One entry a support, unless said: ``asked_kg`` holds it, ``masses_kg`` is what is called out.

    By kind: ``lift_kg`` keeps it from being lifted, ``slide_kg`` is what sliding asks for besides.
    ``case_lifts`` and ``case_slides`` are the cases that ask for most. ``fall`` is the steepest ground
    under any box. Of ``block`` so many lie in a layer, ``a_layer``. ``press_pa`` is the most that a box
    presses with, ``bears_pa`` what the soil of that box bears. ``frost`` says that fine soil lies on
    top.
    """

    held: Held
    masses_kg: Floats
    asked_kg: Floats
    lift_kg: Floats
    slide_kg: Floats
    push_n: float
    case_lifts: str
    case_slides: str
    fall: float
    side_m: float
    fill: str
    fill_kg_per_m3: float
    block: Block | None
    a_layer: int
    press_pa: float
    bears_pa: float
    bears_by: str
    frost: bool

    @property
    def total_kg(self) -> float:
        """All of them."""
        return float(self.masses_kg.sum())

    @property
    def blocks(self) -> NDArray[np.int64]:
        """How many blocks lie in each box; none where it is filled otherwise."""
        if self.block is None:
            return np.zeros(self.masses_kg.size, dtype=np.int64)
        return np.rint(self.masses_kg / self.block.mass_kg).astype(np.int64)

    @property
    def deepest_fill_m(self) -> float:
        """How high the heaviest box is filled; blocks in whole layers."""
        if self.block is not None:
            layers = math.ceil(float(self.blocks.max()) / max(self.a_layer, 1))
            return layers * self.block.height_m
        return float(self.masses_kg.max()) / (self.fill_kg_per_m3 * self.side_m**2)


def ground_fall(site: SitePlan, stand: Stand) -> Floats:
    """How steep the ground is under each box, whichever way it falls."""
    places = stand.supports.places

    def level(east: float, north: float) -> Floats:
        return site.ground.level_m(places.east_m + east, places.north_m + north)

    rises = (
        level(BESIDE_M, 0.0) - level(-BESIDE_M, 0.0),
        level(0.0, BESIDE_M) - level(0.0, -BESIDE_M),
    )
    return np.asarray(np.hypot(*rises) / (2 * BESIDE_M))


def fine_soil_on_top(site: SitePlan, stand: Stand) -> bool:
    """Whether frost grips the soil under any of them."""
    return any(site.soils[soil].frost_grip_m > 0 for soil in np.unique(stand.supports.soil_of))


def size_weights(site: SitePlan, structure: StructurePlan, givens: FootingsGivens) -> Weights:
    """Each foot heavy enough not to be lifted; both of a bent, which its rail ties, not to slide."""
    stand, found = structure.posts, structure.reactions
    holds, kinds = held(site.rule_pack, givens), stand.kinds
    fall = ground_fall(site, stand)
    lifted = np.maximum(-found.down_n, 0.0)
    lift_kg = lifted.max(axis=1) / holds.newtons_a_kg
    # Which kinds are the feet of each bent, every pair once.
    of_bent = np.stack([stand.supports.kind[stand.of_role(role)] for role in range(len(stand.roles))])
    falls = np.max([fall[stand.of_role(role)] for role in range(len(stand.roles))], axis=0)
    pairs, pair_of = np.unique(of_bent, axis=1, return_inverse=True)
    steepest = np.zeros(pairs.shape[1])
    np.maximum.at(steepest, pair_of.ravel(), falls)
    press = found.down_n[pairs].sum(axis=0) + holds.newtons_a_kg * lift_kg[pairs].sum(axis=0)[:, None]
    push = np.hypot(found.across_n[pairs].sum(axis=0), found.along_n[pairs].sum(axis=0))
    short_n = np.maximum(holds.wanted_n(push, steepest[:, None]) - press, 0.0)
    slides = int(short_n.argmax())
    short_kg = np.minimum(short_n.max(axis=1) / holds.newtons_a_kg, BEYOND_KG) / pairs.shape[0]
    slide_kg = np.zeros(kinds.count)
    for role in range(pairs.shape[0]):
        np.maximum.at(slide_kg, pairs[role], short_kg)
    asked = lift_kg + slide_kg
    if givens.weights == "alike in a line":
        for role in range(len(stand.roles)):
            asked = np.where(kinds.role == role, asked[kinds.role == role].max(), asked)
    laid = block(givens.block, givens.block_kg) if givens.filled_with == "blocks" else None
    # Loose fill is shovelled to a mark, blocks are counted.
    step = mass_step_kg(site.display_units) if laid is None else laid.mass_kg
    masses = np.ceil(asked / step - 1e-9) * step
    pressed = _bearing(site, stand, found, masses, givens)
    lifts = np.unravel_index(int(lifted.argmax()), lifted.shape)
    return Weights(
        held=holds,
        masses_kg=masses[stand.supports.kind],
        asked_kg=(lift_kg + slide_kg)[stand.supports.kind],
        lift_kg=lift_kg,
        slide_kg=slide_kg,
        push_n=float(push.flat[slides]),
        case_lifts=found.names[lifts[1]],
        case_slides=found.names[slides % len(found.names)],
        fall=float(fall.max()),
        side_m=givens.box_side_m,
        fill=givens.filled_with,
        fill_kg_per_m3=constant(
            "common", "stone_kg_per_m3" if givens.filled_with == "stone" else "concrete_kg_per_m3"
        ).value,
        block=laid,
        a_layer=0 if laid is None else laid.a_layer(givens.box_side_m, stand.post.depth_m),
        press_pa=pressed[0],
        bears_pa=pressed[1],
        bears_by=pressed[2],
        frost=fine_soil_on_top(site, stand),
    )


def _bearing(
    site: SitePlan, stand: Stand, found: Reactions, masses_kg: Floats, givens: FootingsGivens
) -> tuple[float, float, str]:
    """What the box that presses its soil hardest presses with, what that bears, and its class.

    Weight counts in full, in the metric school by its own partial factor.
    """
    kinds, side, pack = stand.kinds, givens.box_side_m, site.rule_pack
    heavy = 1.0 if pack == "us" else constant("metric", "heaviest_dead").value
    own = heavy * masses_kg * STANDARD_GRAVITY_M_S2
    down = np.maximum(found.down_n + own[:, None], 0.0)
    push = np.hypot(found.across_n, found.along_n)
    used: list[tuple[float, float, float, str]] = []
    for kind in range(kinds.count):
        soil = site.soils[int(kinds.soil_of[kind])]
        bears = bears_pa(pack, soil, side, down[kind], push[kind])
        share = down[kind] / side**2 / bears
        worst = int(share.argmax())
        pressed = float(down[kind, worst]) / side**2
        used.append((float(share[worst]), pressed, float(bears[worst]), soil.layers[0].soil_class))
    return max(used)[1:]


def bears_pa(pack: RulePack, soil: Soil, side_m: float, down_n: Floats, push_n: Floats) -> Floats:
    """What soil bears under a square box that lies on it and is pushed sideways.

    us: the presumptive value of IBC Table 1806.2. metric: EN 1997-1 Annex D without depth, strengths
    reduced by their partial factors; a push takes (1 - H / V)^2.5 of it in sand, in clay half of what
    (1 - H / (A c_u)) leaves under its root.
    """
    if pack == "us":
        return np.full(down_n.shape, soil.vertical_pa)
    top = soil.layers[0]
    if top.cohesion_pa > 0:
        strength = top.cohesion_pa / constant("metric", "cohesion_partial").value
        left = np.clip(1 - push_n / (side_m**2 * strength), 0.0, 1.0)
        shape = constant("metric", "square_in_clay").value
        return np.asarray((math.pi + 2) * strength * shape * 0.5 * (1 + np.sqrt(left)))
    partial = constant("metric", "friction_partial").value
    angle = math.atan(math.tan(math.radians(top.friction_angle_deg)) / partial)
    number = 2 * (bearing_number(math.degrees(angle)) - 1) * math.tan(angle)
    weight = top.unit_weight_n_m3
    if soil.water_m is not None and soil.water_m < side_m:
        # Water close below it: the soil weighs less by it.
        weight -= WATER_N_M3
    power, shape = (constant("metric", name).value for name in ("push_power", "square_in_sand"))
    leaning = np.clip(1 - push_n / np.maximum(down_n, 1.0), 0.05, 1.0) ** power
    return np.asarray(0.5 * weight * side_m * number * shape * leaning)
