"""Screws: how long they are, the torque that proves them, and what their shaft carries."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section, section
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.posts import Posts, SizedKind, called_in, lost_m
from openfurrow.core.footings.sizing import in_ground_moment_n_m
from openfurrow.core.footings.turned.helix import torque_factor_per_m
from openfurrow.core.members.bending import bending_limit_n_m
from openfurrow.core.members.resistance import twist_limit_n_m
from openfurrow.core.members.rust import thinned
from openfurrow.core.quantities import UnitSystem, round_up
from openfurrow.core.structures.stand import Stand

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Screws:
    """Screws by support: ``depths_m`` to the foot, ``torque_n_m`` that each has to have taken.

    ``rock``: a thread in drilled rock, which torque does not prove. ``holds_n`` is what the one that
    holds most has to, safety on; ``bent_n_m`` what bends a shaft most in the ground.
    """

    shaft: Section
    rock: bool
    helix_m: float
    out_m: float
    depths_m: Floats
    lengths_m: Floats
    torque_n_m: Floats
    factor_per_m: float
    holds_n: float
    safety: float
    twist_limit_n_m: float
    machine_n_m: float | None
    bent_n_m: float
    bent_limit_n_m: float
    turned: bool
    lost_m: float

    @property
    def longest_m(self) -> float:
        """Length of the longest, its head included."""
        return float(self.lengths_m.max())

    @property
    def most_torque_n_m(self) -> float:
        """What the one that holds most has to have taken."""
        return float(self.torque_n_m.max())

    @property
    def pieces(self) -> int:
        """In how many pieces each comes: the screw and its extensions."""
        return int(np.ceil(self.longest_m / constant("common", "screw_piece_m").value - 1e-9))


def screws_of(
    posts: Posts, stand: Stand, givens: FootingsGivens, pack: RulePack, units: UnitSystem
) -> Screws:
    """The screws under posts that were sized."""
    shaft, lost = section(givens.screw_section), lost_m(pack, givens)
    left = thinned(shaft, lost)
    factor = givens.torque_factor_per_m or torque_factor_per_m(shaft.depth_m)
    holds = np.array([_holds_n(kind) for kind in posts.kinds])
    called = called_in(units, givens)
    asked, step = posts.depths_m + called.out_m, called.step_m * called.every
    return Screws(
        shaft=shaft,
        rock=givens.screw_kind == "rock screw",
        helix_m=givens.helix_diameter_m if givens.screw_kind == "with a helix" else 0.0,
        out_m=called.out_m,
        depths_m=posts.depths_m,
        lengths_m=np.array([round_up(one, step) for one in asked.tolist()]),
        torque_n_m=(holds / factor)[stand.supports.kind],
        factor_per_m=factor,
        holds_n=float(holds.max()),
        safety=posts.kinds[0].ground.lift.safety,
        twist_limit_n_m=twist_limit_n_m(shaft, pack),
        machine_n_m=givens.machine_torque_n_m,
        bent_n_m=max(
            float(in_ground_moment_n_m(kind.ground, kind.loads.push_n, kind.loads.tipping_n_m).max())
            for kind in posts.kinds
        ),
        bent_limit_n_m=bending_limit_n_m(left, pack),
        lost_m=lost,
        turned=any(bool(kind.loads.twist_n_m.any()) for kind in posts.kinds),
    )


def _holds_n(kind: SizedKind) -> float:
    """What a screw has to hold up or down at most, safety on it."""
    return kind.ground.lift.safety * max(kind.needs.uplift_n, kind.needs.bearing_n)
