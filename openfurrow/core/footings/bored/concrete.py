"""What concrete carries: bent by itself or with bars, pressed by a post, gripping one."""

import math

import numpy as np

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.footings.body import circle_m2

# Neutral axes that are looked at, as shares of the diameter.
LOOKS = 400
# Steel gives way, and concrete crushes, at these strains.
CRUSHES, STEEL_PA = 0.003, 200e9


def plain_moment_n_m(pack: RulePack, diameter_m: float, strength_pa: float) -> float:
    """Moment that a round shaft without bars carries, by its strength in tension.

    us: ACI 318-14, 14.5.2, over 1.6 for allowable loads. metric: EN 1992-1-1, 12.3.1.
    """
    modulus_m3 = math.pi * diameter_m**3 / 32
    if pack == "us":
        root, share = (constant("us", n).value for n in ("plain_bending_root", "plain_bending_share"))
        return share * root * math.sqrt(strength_pa / 1e6) * 1e6 * modulus_m3
    tension_pa = 0.7 * 0.3 * math.pow(strength_pa / 1e6, 2 / 3) * 1e6
    return constant("metric", "plain_tension").value * tension_pa * modulus_m3


def caged_moment_n_m(
    pack: RulePack, diameter_m: float, strength_pa: float, bars: int, bar_m: float, ring_m: float
) -> float:
    """Moment that a round shaft with bars on a ring carries without a push along it.

    Plane sections, a block of even stress on the pressed side (ACI 318-14, 22.2.2; EN 1992-1-1,
    3.1.7), and steel up to its yield; bars as they turn out worst. ``ring_m`` is the ring's radius.
    """
    radius = diameter_m / 2
    area = circle_m2(bar_m)
    yields, block, share, factor = (
        constant(pack, name).value
        for name in ("bar_yield_pa", "block_stress", "block_depth", "caged_factor")
    )
    axis = np.linspace(0.02, 1.0, LOOKS) * diameter_m
    worst = math.inf
    for turned in (0.0, math.pi / bars):
        # How far each bar lies below the pressed edge.
        below = radius - ring_m * np.cos(turned + 2 * math.pi / bars * np.arange(bars))
        strain = CRUSHES * (below[None, :] - axis[:, None]) / axis[:, None]
        pull = area * np.clip(STEEL_PA * strain, -yields, yields)
        deep = np.minimum(share * axis, diameter_m)
        # The pressed segment of the circle: its area, and its moment about the middle.
        half = np.arccos(np.clip(1 - deep / radius, -1, 1))
        pressed = block * strength_pa * radius**2 * (half - np.sin(half) * np.cos(half))
        lever = block * strength_pa * 2 / 3 * (radius * np.sin(half)) ** 3
        rest = pressed - pull.sum(axis=1)
        moment = lever + (pull * (below[None, :] - radius)).sum(axis=1)
        # Where push and pull are even.
        worst = min(worst, float(np.interp(0.0, rest, moment)))
    return factor * worst


def bedding_pa(push_n: float, moment_n_m: float, width_m: float, deep_m: float) -> float:
    """The most that a stiff stub presses concrete with as it turns in it, whichever way.

    At the top (4 V e + 6 M) / (b e²), at its foot (2 V e + 6 M) / (b e²) the other way: where push and
    moment act against each other the foot may press more.
    """
    top, foot = (share * push_n * deep_m + 6 * moment_n_m for share in (4, 2))
    return max(abs(top), abs(foot)) / (width_m * deep_m**2)


def bedding_limit_pa(pack: RulePack, strength_pa: float) -> float:
    """What concrete bears beside a stub: AISC 360-16, J8, allowable; EN 1992-1-1, 12.3.1, design."""
    return constant(pack, "concrete_bearing").value * strength_pa


def grip_limit_n(pack: RulePack, perimeter_m: float, deep_m: float, *, barred: bool) -> float:
    """What holds a post in concrete: its face, and a bar through its foot, sheared twice.

    us: AISC 360-10, I6.3c. metric: EN 1994-1-1, Table 6.6.
    """
    face = constant(pack, "concrete_grip_pa").value * perimeter_m * deep_m
    if not barred:
        return face
    bar_m2 = circle_m2(constant(pack, "foot_bar_m").value)
    return face + 2 * bar_m2 * constant(pack, "foot_bar_shear_pa").value


def cracked_n_m2(across_m: float, concrete_pa: float) -> float:
    """E I of a round pier that has cracked: E = 4700 sqrt(f_c), both in MPa (ACI 318-19, 19.2.2.1),
    and that share of the whole section's inertia which its 6.6.3.1.1 leaves a cracked member.
    """
    modulus = constant("common", "concrete_modulus_root").value * math.sqrt(concrete_pa)
    return modulus * math.pi / 64 * across_m**4 * constant("common", "cracked_share").value
