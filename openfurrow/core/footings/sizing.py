"""How deep one kind of post must go in one soil: what each way of failing asks for."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.footings.axial import (
    Gripped,
    Shaft,
    bearing_depth_m,
    friction_depth_m,
    shaft_in,
    tip_pa,
)
from openfurrow.core.footings.body import Body, body_of
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.lateral import lateral_depth_m, moment_below_ground_n_m
from openfurrow.core.footings.layered import (
    DEEPEST_M,
    PARTS,
    Profile,
    lateral_shares,
    moment_below_n_m,
    profile_of,
)
from openfurrow.core.footings.tested import NOTHING, Proved
from openfurrow.core.members.bending import bending_limit_n_m
from openfurrow.core.members.resistance import (
    twist_limit_n_m,
    weak_limit_n_m,
)
from openfurrow.core.quantities import round_up
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.soil import Soil
from openfurrow.core.structures.supports import Reactions

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]
Truths = NDArray[np.bool_]
# Said of a need that no depth that is looked at meets.
BEYOND_M = DEEPEST_M + 1.0

LIFTS, PRESSES = "wind lifts it", "weight presses it"
MODES = ("wind tips it", LIFTS, PRESSES, "below frost", "frost lifts it")


@dataclass(frozen=True)
class DepthNeeds:
    """What each way of failing asks for; index arrays point at the governing load case."""

    lateral_m: float
    uplift_m: float
    bearing_m: float
    frost_m: float
    heave_m: float
    lateral_case: int
    uplift_case: int
    bearing_case: int
    uplift_n: float
    bearing_n: float
    heave_n: float
    movement: float
    shaft: Shaft
    pressed: Shaft
    tip_n_per_m2: float
    tip_area_m2: float

    @property
    def all_m(self) -> tuple[float, ...]:
        """Depths in the order of MODES."""
        return (self.lateral_m, self.uplift_m, self.bearing_m, self.frost_m, self.heave_m)


@dataclass(frozen=True, kw_only=True)
class Called:
    """What depths are called out in: steps of ``step_m``; of a screw, that its length with the
    ``out_m`` of its head is a multiple of ``every`` steps, as it is sold.
    """

    step_m: float
    every: int = 1
    out_m: float = 0.0

    def rounded(self, depth_m: float) -> float:
        """The least depth that is called out and is no less."""
        return round_up(depth_m + self.out_m, self.step_m * self.every) - self.out_m

    def steps(self, deepest_m: float) -> Integers:
        """The depths that are called out, in steps."""
        out = round(self.out_m / self.step_m)
        found = np.arange(self.every, round((deepest_m + self.out_m) / self.step_m) + 1, self.every)
        return np.asarray(found[found > out] - out if self.every > 1 else found, dtype=np.int64)


@dataclass(frozen=True, kw_only=True)
class Grip:
    """How much of what the tables say holds along a shaft and under its tip, and the safety on it."""

    safety: float
    share: float = 1.0
    tip_share: float = 1.0


@dataclass(frozen=True, kw_only=True)
class Beside:
    """A post or a pier in one soil, before any load: found once for all kinds that stand in it.

    ``profile`` and ``bending`` are its curves by depth, None where the soil is even and the printed
    formulas hold; ``called`` is what depths are called out in. ``lightest`` and ``heaviest`` are the
    shares of a weight that count where it helps and where it presses. ``lift`` and ``press`` are how
    much of the tables' grip is planned with, as ``proved`` by tests in that soil. ``slab``: something
    at the ground takes its push.
    """

    pack: RulePack
    post: Section
    body: Body
    soil: Soil
    frost_m: float
    movement: float
    lift: Grip
    press: Grip
    lightest: float
    heaviest: float
    gripped: Gripped
    slab: bool
    proved: Proved
    shaft: Shaft
    called: Called
    profile: Profile | None
    bending: Profile | None


def beside(
    site: SitePlan,
    soil: Soil,
    givens: FootingsGivens,
    post: Section,
    called: Called,
    proved: Proved = NOTHING,
) -> Beside:
    """What the soil does beside a post of this profile, or beside a pier around one.

    ``proved`` is what posts held that were tested in it.
    """
    pack = site.rule_pack
    body = body_of(post, givens)
    side = proved.sideways
    if pack == "us" and side is not None and side.pa_per_m is not None:
        soil = _as_tested(soil, side.pa_per_m)
    # A test that is read at half an inch has that movement in it.
    moves = pack == "us" and givens.half_inch_moves and side is None
    movement = constant("us", "movement_factor").value if moves else 1.0
    lift, press = _grips(pack, givens, body, proved)
    gripped = _gripped(site, body, lift.safety, givens)
    shaft = shaft_in(soil, 0.0 if body.formed else body.perimeter_m, gripped, cast=body.cast)
    slab = pack == "us" and givens.slab_holds
    layered = not soil.even or body.headed or slab or givens.loose_top_m > 0
    share = 1.0 if side is None else side.taken
    curve, bending = (
        profile_of(school, soil, body, gripped, moving, called.step_m, givens.loose_top_m)
        if asked
        else None
        for school, moving, asked in (
            (pack, movement, layered or (pack != "us" and side is not None)),
            ("us", 1.0, layered or share < 1.0),
        )
    )
    if curve is not None and pack != "us":
        curve = replace(curve, push_n_per_m=curve.push_n_per_m * share)
    if bending is not None:
        # In weaker ground a post bends more; in stronger ground it is spared nothing.
        bending = replace(bending, soil_n_per_m=bending.soil_n_per_m * min(1.0, share))
    return Beside(
        pack=pack,
        post=post,
        body=body,
        soil=soil,
        frost_m=site.frost_depth_m,
        movement=movement,
        lift=lift,
        press=press,
        lightest=constant(pack, "lightest_dead").value,
        heaviest=1.0 if pack == "us" else constant("metric", "heaviest_dead").value,
        gripped=gripped,
        slab=slab,
        proved=proved,
        shaft=shaft,
        called=called,
        profile=curve,
        bending=bending,
    )


def _grips(pack: RulePack, givens: FootingsGivens, body: Body, proved: Proved) -> tuple[Grip, Grip]:
    """How much of the tables' grip is planned with, lifted and pressed, and the safety on it.

    Every helix is proved by its torque. Posts that were pulled and not pressed prove friction; of
    their tips no more is taken than the tables say.
    """
    tested, untested = (constant(pack, f"axial_safety_{how}").value for how in ("tested", "untested"))
    pulled, pressed = proved.pulled, proved.pressed
    said = givens.pull_tested and "pull_tested" in givens.shown() and not proved.pulls_written
    told = body.helix_m > 0 or said
    by_table = Grip(safety=tested if told else untested)
    lift = by_table if pulled is None else Grip(safety=tested, share=pulled.taken)
    if pressed is not None:
        return lift, Grip(safety=tested, share=pressed.taken, tip_share=pressed.taken)
    if pulled is not None:
        return lift, Grip(safety=tested, share=pulled.taken, tip_share=min(1.0, pulled.taken))
    return lift, by_table


def _as_tested(soil: Soil, pa_per_m: float) -> Soil:
    """A soil that holds sideways as was measured, whatever its layers are."""
    layers = tuple(replace(layer, lateral_pa_per_m=pa_per_m, measured=False) for layer in soil.layers)
    return replace(soil, lateral_pa_per_m=pa_per_m, layers=layers)


def _gripped(site: SitePlan, body: Body, safety: float, givens: FootingsGivens) -> Gripped:
    """Nothing grips in the frost. The us school takes no more of a poured pier than its tables say:
    a sixth of the bearing value beside it (IBC 1810.3.3.1.4), and that value under it.
    """
    start = max(constant("common", "no_credit_m").value, site.frost_depth_m)
    if site.rule_pack != "us" or not body.cast:
        return Gripped(start_m=start, rock_pa=givens.rock_bond_pa if body.headed else None)
    share, most = (constant("us", name).value for name in ("cast_friction_share", "cast_friction_pa"))
    return Gripped(start_m=start, share=safety * share, flat_pa=safety * most, tip_share=safety)


def bending_n_m(at: Beside, loads: Reactions) -> float:
    """Largest bending in the post below the ground, by the closed formula where the soil is even."""
    return float(_bent_below_n_m(at, loads.across_n, loads.moment_n_m).max())


def _bent_below_n_m(at: Beside, push_n: Floats, moment_n_m: Floats) -> Floats:
    """The most that a post bends in the ground, case by case.

    In a pier it carries by itself all that bends the pier, and is built in no higher than one width
    below the top of the concrete. On a screw it ends at the ground.
    """
    if at.body.headed:
        return np.abs(moment_n_m)
    anywhere = in_ground_moment_n_m(at, push_n, moment_n_m)
    if at.body.cast:
        return np.maximum(anywhere, np.abs(moment_n_m) + np.abs(push_n) * at.post.width_m)
    return anywhere


def curve_of(at: Beside) -> Profile:
    """What a soil holds depth by depth, also where it is even and the printed formulas do."""
    if at.profile is not None:
        return at.profile
    return profile_of(at.pack, at.soil, at.body, at.gripped, at.movement, at.called.step_m)


def in_ground_moment_n_m(at: Beside, push_n: Floats, moment_n_m: Floats) -> Floats:
    """The most that what stands in the soil bends, case by case: post, screw or pier as a whole."""
    if at.bending is None:
        return moment_below_ground_n_m(push_n, moment_n_m, at.soil, at.body.across_m)
    return moment_below_n_m(at.bending, push_n, moment_n_m)


def used_along(at: Beside, loads: Reactions, left: Section, free_m: float) -> float:
    """How much of the post is used where wind tips it along the row, about both axes together.

    ``left`` is what is left of it at the end of its life, ``free_m`` how far nothing holds it. A pipe
    bends about whichever axis lies across, and what twists it takes the square of its share besides.
    """
    weak, strong = weak_limit_n_m(left, at.pack), bending_limit_n_m(left, at.pack, free_m)
    tipped = (loads.along_n > 0) | (loads.along_moment_n_m > 0)
    if not tipped.any():
        return 0.0
    if at.post.shape == "pipe":
        used = _bent_below_n_m(at, loads.push_n[tipped], loads.tipping_n_m[tipped]) / strong
        used = used + (loads.twist_n_m[tipped] / twist_limit_n_m(left, at.pack)) ** 2
    else:
        below = _bent_below_n_m(at, loads.along_n[tipped], loads.along_moment_n_m[tipped])
        used = below / weak + np.abs(loads.moment_n_m[tipped]) / strong
    return float(used.max())


def gripped_n(loads: Reactions, across_m: float) -> tuple[Floats, Floats]:
    """What a grip on a face holds in every case, lifted and pressed: along what stands and around it.

    Friction acts once, whichever way the face would slide: what twists a post takes its share of what
    would hold it down.
    """
    around = loads.twist_n_m / (across_m / 2)
    lifted, pressed = np.maximum(-loads.down_n, 0.0), np.maximum(loads.down_n, 0.0)
    return np.hypot(lifted, around), np.hypot(pressed, around)


def sized(at: Beside, loads: list[Reactions], held_m: float | None) -> list[tuple[DepthNeeds, float]]:
    """What each kind asks for in its soil, and the depth: held, or the least that carries."""
    needs = [_needs(at, one) for one in loads]
    if at.profile is None:
        return [
            (one, held_m if held_m is not None else at.called.rounded(max(one.all_m))) for one in needs
        ]
    called = np.arange(0, len(at.profile.depth_m), PARTS)
    pushes = np.stack([one.push_n for one in loads]), np.stack([one.tipping_n_m for one in loads])
    upright = _sideways(at, pushes, called) >= 1.0
    return [
        _scanned(at, at.profile, *of_kind, held_m)
        for of_kind in zip(loads, needs, upright, strict=True)
    ]


def _sideways(at: Beside, loads: tuple[Floats, Floats], here: Integers) -> Floats:
    """How many times each kind's worst load (push, moment) it bears sideways, its foot so deep."""
    assert at.profile is not None
    return lateral_shares(at.pack, at.profile, at.body.across_m, loads, here, slab=at.slab)


def _needs(at: Beside, loads: Reactions) -> DepthNeeds:
    """The five depths of one kind as if its soil were even. Frost lifts the lightest post first."""
    soil, body, safety = at.soil, at.body, at.lift.safety
    lifted_by, pressed_by = at.shaft.times(at.lift.share), at.shaft.times(at.press.share)
    lateral = (
        lateral_depth_m(at.pack, loads.push_n, loads.tipping_n_m, soil, body.across_m, at.movement)
        if at.profile is None
        else np.zeros(1)
    )
    lifted, pressed = gripped_n(loads, body.across_m)
    up, down = int(lifted.argmax()), int(pressed.argmax())
    uplift, bearing = float(lifted[up]), float(pressed[down])
    frozen = soil.adfreeze_pa * (constant("common", "cast_adfreeze").value if body.cast else 1.0)
    heave = max(0.0, frozen * body.frozen_m * soil.frost_grip_m - float(loads.dead_n[0]))
    own = body.weight_n_per_m
    tip = body.foot_m2 * at.press.tip_share
    removed = body.concrete_m2 * soil.unit_weight_n_m3
    asked = bearing * at.press.safety
    presses = at.press.safety * max(at.heaviest * own - removed, 0.0)
    tip_most = at.gripped.tip_most_pa(soil.vertical_pa)
    bearing_depth = bearing_depth_m(pressed_by, soil, tip, asked, presses, tip_most)
    return DepthNeeds(
        lateral_m=float(lateral.max()),
        uplift_m=min(
            friction_depth_m(lifted_by, uplift * safety, safety * at.lightest * own),
            _over_bell_m(at, uplift),
            BEYOND_M,
        ),
        bearing_m=min(bearing_depth, BEYOND_M),
        frost_m=at.frost_m,
        heave_m=min(friction_depth_m(lifted_by, heave, own), BEYOND_M),
        lateral_case=int(lateral.argmax()),
        uplift_case=up,
        bearing_case=down,
        uplift_n=uplift,
        bearing_n=bearing,
        heave_n=heave,
        movement=at.movement,
        shaft=lifted_by,
        pressed=pressed_by,
        tip_n_per_m2=min(tip_pa(soil, max(bearing_depth, at.shaft.start_m)), tip_most),
        tip_area_m2=tip,
    )


def _over_bell_m(at: Beside, uplift_n: float) -> float:
    """The depth at which a pier and the soil over its bell outweigh a pull; without a bell, none."""
    body = at.body
    if not body.over_bell_m2:
        return math.inf
    soil_n_per_m = body.over_bell_m2 * at.soil.unit_weight_n_m3
    asked = uplift_n / at.lightest + soil_n_per_m * body.bell_m
    return asked / (body.weight_n_per_m + soil_n_per_m)


def _scanned(
    at: Beside,
    profile: Profile,
    loads: Reactions,
    needs: DepthNeeds,
    called_upright: Truths,
    held_m: float | None,
) -> tuple[DepthNeeds, float]:
    """The same in layers: every depth that can be called out is looked at for every way of failing.

    ``called_upright`` says which of those stand sideways. A need is the least depth that holds where
    the depth itself holds, else the next one that does.
    """
    depth_m = profile.depth_m
    upright = np.zeros(len(depth_m), dtype=bool)
    upright[::PARTS] = called_upright
    holds = _holds(at, profile, needs, upright)
    depth = held_m
    if depth is None:
        called = at.called.steps(DEEPEST_M) * PARTS
        fits = called[np.all(holds, axis=0)[called]]
        depth = float(depth_m[fits[0]]) if len(fits) else DEEPEST_M
    # A depth that is held between two that were looked at counts as the shallower.
    here = int(np.searchsorted(depth_m, depth + 1e-9, side="right")) - 1
    _look_between(at, profile, loads, upright, here)
    asked = [_need(depth_m, holding, here) for holding in holds]
    strained = min(int(np.searchsorted(depth_m, asked[2])), len(depth_m) - 1)
    return replace(
        needs,
        lateral_m=asked[0],
        uplift_m=asked[1],
        bearing_m=asked[2],
        frost_m=asked[3],
        heave_m=asked[4],
        tip_n_per_m2=float(profile.tip_pa[strained]),
        lateral_case=int(np.argmax(np.abs(loads.tipping_n_m) + np.abs(loads.push_n) * depth)),
    ), depth


def _holds(at: Beside, profile: Profile, needs: DepthNeeds, upright: Truths) -> list[Truths]:
    """At which depths of the profile each way of failing is withstood, in the order of MODES."""
    depth_m, friction_n = profile.depth_m, profile.friction_n * at.lift.share
    presses_n = profile.friction_n * at.press.share + profile.tip_pa * needs.tip_area_m2
    body, safety = at.body, at.lift.safety
    own = body.weight_n(depth_m, at.soil.water_m)
    # The soil over a bell goes up with it: it is held by that or by its shaft, not by both.
    over_bell = body.over_bell_m2 * np.interp(depth_m - body.bell_m, depth_m, profile.pressure_pa)
    held_down = at.lightest * own + np.maximum(friction_n / safety, at.lightest * over_bell)
    holds_up = friction_n + own
    if profile.helix_pa is not None:
        helix_n = profile.helix_pa * body.foot_m2 * at.lift.share
        held_down, holds_up = helix_n / safety, np.where(depth_m > at.frost_m, helix_n, 0.0)
    presses = np.maximum(at.heaviest * own - body.concrete_m2 * profile.pressure_pa, 0.0)
    return [
        upright,
        held_down >= needs.uplift_n,
        presses_n >= (needs.bearing_n + presses) * at.press.safety,
        depth_m >= at.frost_m - 1e-9,
        holds_up >= needs.heave_n,
    ]


def withstood(at: Beside, loads: Reactions) -> tuple[Floats, Truths]:
    """Every depth that can be called out (n,), and which ways of failing it withstands (modes, n).

    For a soil that has a profile; in an even one what is asked for does not depend on the depth.
    """
    profile = at.profile
    assert profile is not None
    called = np.arange(0, len(profile.depth_m), PARTS)
    pushes = loads.push_n[None, :], loads.tipping_n_m[None, :]
    upright = np.zeros(len(profile.depth_m), dtype=bool)
    upright[::PARTS] = _sideways(at, pushes, called)[0] >= 1.0
    holds = _holds(at, profile, _needs(at, loads), upright)
    return profile.depth_m[::PARTS], np.array(holds)[:, ::PARTS]


def bears_sideways(at: Beside, loads: Reactions, depth_m: float) -> float | None:
    """How many times the worst of some loads it bears sideways at a depth; None in an even soil.

    A depth between two that are looked at counts as the shallower.
    """
    if at.profile is None:
        return None
    here = np.array([int(depth_m / float(at.profile.depth_m[1]) + 1e-6)], dtype=np.int64)
    pushes = loads.push_n[None, :], loads.tipping_n_m[None, :]
    return float(_sideways(at, pushes, here)[0, 0])


def _look_between(at: Beside, profile: Profile, loads: Reactions, upright: Truths, here: int) -> None:
    """Look sideways at the depths between those called out that matter: here, and where it begins."""
    whole = here - here % PARTS
    held_between = [here] if here != whole else []
    begins = [_first(upright, -1), _first(upright, here)]
    near = sorted({*held_between, *(k for end in begins for k in range(max(end - PARTS, 0), end))})
    loads_of = loads.push_n[None, :], loads.tipping_n_m[None, :]
    upright[near] = _sideways(at, loads_of, np.array(near, dtype=np.int64))[0] >= 1.0


def _first(holds: Truths, after: int) -> int:
    """Where it first holds after a place; the last place where it never does."""
    found = np.flatnonzero(holds[after + 1 :])
    return int(found[0]) + after + 1 if len(found) else len(holds) - 1


def _need(depth_m: Floats, holds: Truths, at: int) -> float:
    """The least depth that holds, if the one that is chosen does; else the next deeper that does."""
    from_here = np.flatnonzero(holds)
    if not holds[at]:
        from_here = from_here[from_here > at]
    return float(depth_m[from_here[0]]) if len(from_here) else BEYOND_M
