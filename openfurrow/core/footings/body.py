"""What stands in the soil: a post by itself, or the concrete around one; its outline and its weight."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section, section
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.site.soil import WATER_N_M3

Floats = NDArray[np.float64]
# A bell is cut at this angle from level, so that its edge bears and is not broken off.
BELL_DEG = 60.0


@dataclass(frozen=True, kw_only=True)
class Body:
    """``across_m`` is seen by soil that is pushed, ``perimeter_m`` is gripped, ``foot_m2`` bears;
    frost grips ``frozen_m`` around it, which of a bore that came out wide is more.

    ``cast``: bored and poured, not driven. ``formed``: in a form tube, which nothing grips.
    ``concrete_m2`` is its area across, none of a post; ``over_bell_m2`` what a bell reaches out,
    ``bell_m`` how high it is. ``headed``: the post ends at the ground, bolted on a screw whose helix is
    ``helix_m`` wide, none of one in drilled rock.
    """

    across_m: float
    perimeter_m: float
    foot_m2: float
    frozen_m: float
    cast: bool = False
    formed: bool = False
    concrete_m2: float = 0.0
    over_bell_m2: float = 0.0
    bell_m: float = 0.0
    headed: bool = False
    helix_m: float = 0.0

    @property
    def foot_across_m(self) -> float:
        """Diameter of its foot, or of a round one as large."""
        return math.sqrt(4 / math.pi * self.foot_m2) if self.cast or self.headed else self.across_m

    @property
    def weight_n_per_m(self) -> float:
        """Weight of a metre of it in dry ground; a post's own is left out."""
        return self.concrete_m2 * concrete_n_m3()

    def weight_n(self, depth_m: ArrayLike, water_m: float | None) -> Floats:
        """Its weight down to some depths; under water it weighs less by the water."""
        depth = np.asarray(depth_m, dtype=float)
        wet = 0.0 if water_m is None else np.maximum(depth - water_m, 0.0)
        return np.asarray(self.weight_n_per_m * depth - self.concrete_m2 * WATER_N_M3 * wet)


def concrete_n_m3() -> float:
    """Weight of plain concrete."""
    return constant("common", "concrete_kg_per_m3").value * STANDARD_GRAVITY_M_S2


def tip_area_m2(post: Section) -> float:
    """The plug's foot: the circle of a pipe, the box of an open section."""
    return circle_m2(post.depth_m) if post.shape == "pipe" else post.depth_m * post.width_m


def circle_m2(diameter_m: float) -> float:
    """Area of a circle."""
    return math.pi / 4 * diameter_m**2


def bell_high_m(diameter_m: float, bell_m: float | None) -> float:
    """How high the cone of a bell is, from the shaft to its foot; none of a straight pier."""
    return max((bell_m or 0.0) - diameter_m, 0.0) / 2 * math.tan(math.radians(BELL_DEG))


def driven(post: Section) -> Body:
    """A post by itself, with the soil that is caught between its flanges or in its bore."""
    return Body(
        across_m=post.width_m,
        perimeter_m=post.perimeter_m,
        frozen_m=post.perimeter_m,
        foot_m2=tip_area_m2(post),
    )


def screwed(shaft: Section, helix_m: float) -> Body:
    """A screw whose head stands at the ground; ``helix_m`` is nought of one in drilled rock."""
    return Body(
        across_m=shaft.depth_m,
        perimeter_m=shaft.perimeter_m,
        frozen_m=shaft.perimeter_m,
        foot_m2=circle_m2(max(helix_m, shaft.depth_m)),
        headed=True,
        helix_m=helix_m,
    )


def poured(across_m: float) -> Body:
    """A straight pier that was poured against the soil."""
    return Body(
        across_m=across_m,
        perimeter_m=math.pi * across_m,
        frozen_m=math.pi * across_m,
        foot_m2=circle_m2(across_m),
        cast=True,
        concrete_m2=circle_m2(across_m),
    )


def body_of(post: Section, givens: FootingsGivens) -> Body:
    """What the chosen family stands in the soil with."""
    if givens.family == "ground screw":
        helix = givens.helix_diameter_m if givens.screw_kind == "with a helix" else 0.0
        return screwed(section(givens.screw_section), helix)
    if givens.family != "bored pier":
        return driven(post)
    across = givens.pier_diameter_m
    foot = max(givens.bell_diameter_m or 0.0, across)
    return replace(
        poured(across),
        frozen_m=math.pi * max(across, givens.bored_diameter_m or 0.0),
        foot_m2=circle_m2(foot),
        formed=givens.pier_side == "in a form tube",
        over_bell_m2=circle_m2(foot) - circle_m2(across),
        bell_m=bell_high_m(across, givens.bell_diameter_m),
    )
