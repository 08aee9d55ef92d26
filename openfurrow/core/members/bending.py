"""What a profile carries in bending about its strong axis, as its plates and its length let it.

Thin-walled C and Z: the direct strength method, AISI S100-16 F2 to F4, in both schools. Rolled I: AISC
360-16 F2 and F3, or EN 1993-1-1 6.3.2.2. Pipes yield, and boxes as far as their walls let them.
Aluminium by itself. Nothing is taken beyond the first yield.
"""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.members.aluminium import bent_share, resistance_factor, turned_share
from openfurrow.core.members.buckling import flange_turns_pa, local_pa, turns_over_pa
from openfurrow.core.members.open_profile import open_profile
from openfurrow.core.members.walls import bent_walls

Floats = NDArray[np.float64]

YIELDS, PLATES, FLANGE, TURNS = (
    "it yields",
    "its plates buckle",
    "its flange turns with its lip",
    "it turns over between what holds it",
)

# Of a web that is held at both flanges alone.
SHEAR_K = 5.34
PIPE = "Beyond it, it yields: a pipe does not turn over."


@dataclass(frozen=True, kw_only=True)
class Bends:
    """Shares of the moment at first yield that are left of a profile, whichever way it fails.

    ``plates`` and ``flange`` are those of thin walls, ``turns`` that of its length alone.
    """

    yields_n_m: float
    plates: float
    flange: float
    turns: float
    factor: float

    @property
    def share(self) -> float:
        """The least of them."""
        return min(self.plates, self.flange, self.turns)

    @property
    def limit_n_m(self) -> float:
        """What it may be bent with."""
        return self.yields_n_m * self.share / self.factor

    @property
    def fails(self) -> str:
        """How it fails first."""
        ways = ((self.turns, TURNS), (self.flange, FLANGE), (self.plates, PLATES))
        return min(ways)[1] if self.share < 1 else YIELDS

    @property
    def words(self) -> str:
        """That in a sentence."""
        if self.share >= 1:
            return "Beyond it, it yields."
        return f"Beyond it {self.fails}: {self.share:.0%} of what it bears at first yield."


def bends(profile: Section, pack: str, free_m: float = 0.0) -> Bends:
    """A profile that nothing holds against turning over for so long, as the school has it."""
    thin = profile.shape in ("C", "Z") and not profile.aluminium
    turns = float(_turns(profile, pack, free_m))
    if profile.aluminium:
        plates, flange = (turns * share for share in bent_share(profile))
    else:
        plates, flange = _thin(profile, free_m) if thin else (bent_walls(profile), 1.0)
    return Bends(
        yields_n_m=profile.yield_pa * profile.modulus_m3,
        plates=plates,
        flange=flange,
        # What is left of a slender flange turns over; of thin walls the plates know it already.
        turns=turns if thin or turns >= 1 or profile.aluminium else turns * plates,
        factor=_factor(profile, pack),
    )


def bending_limit_n_m(profile: Section, pack: str, free_m: float = 0.0) -> float:
    """Moment that a profile carries about its strong axis, free to turn over for so long.

    us: allowable, M_n / 1.67; metric: design resistance.
    """
    return bends(profile, pack, free_m).limit_n_m


def web_shear_limit_n(profile: Section, pack: str) -> float:
    """What the web of a C or a Z, or both of a box, bears across it: AISI S100-16 G2.1, in both.

    us: allowable, over 1.60; metric: with the factor that goes with it. Of aluminium by the same curve
    with its own modulus and factor.
    """
    factor = constant(_school(pack), "thin_shear_factor").value
    if profile.aluminium:
        factor = max(factor, resistance_factor(pack))
    webs = 2 if profile.shape == "box" else 1
    high = profile.depth_m - 2 * profile.flange_m
    slender, elastic, yields = high / profile.web_m, profile.elastic_pa * SHEAR_K, profile.yield_pa
    if slender <= math.sqrt(elastic / yields):
        stress = 0.60 * yields
    elif slender <= 1.51 * math.sqrt(elastic / yields):
        stress = 0.60 * math.sqrt(elastic * yields) / slender
    else:
        stress = 0.904 * elastic / slender**2
    return webs * stress * high * profile.web_m / factor


def bending_limits_n_m(profile: Section, pack: str, free_m: Floats) -> Floats:
    """`bending_limit_n_m` for many lengths."""
    lengths, of = np.unique(free_m, return_inverse=True)
    found = [bending_limit_n_m(profile, pack, length) for length in lengths.tolist()]
    return np.asarray(np.array(found)[of].reshape(np.shape(free_m)))


def free_post_m(reveal_m: ArrayLike) -> Floats:
    """How far nothing keeps a post from turning over: from its bolt to where soil holds it."""
    return np.asarray(reveal_m, dtype=float) + constant("common", "held_in_soil_m").value


def bending_limits(profile: Section, pack: str, free_m: float = 0.0) -> tuple[float, float]:
    """What a profile carries with the outer flange held by modules, and with it free (uplift).

    ``free_m`` is between what holds both flanges, nought where the outer one is held throughout.
    """
    held = bending_limit_n_m(profile, pack, free_m)
    lifted = bending_limit_n_m(profile, pack) * constant(_school(pack), "free_flange_factor").value
    return held, min(held, lifted)


def _school(pack: str) -> RulePack:
    return "us" if pack == "us" else "metric"


def _factor(profile: Section, pack: str) -> float:
    """What strength is divided by."""
    if profile.aluminium:
        return resistance_factor(pack)
    thin = pack != "us" and profile.shape in ("C", "Z")
    return constant(_school(pack), "thin_wall_factor" if thin else "bending_resistance_factor").value


def _turns(profile: Section, pack: str, free_m: ArrayLike) -> Floats:
    """What its length leaves of the moment at first yield, before its plates take their share."""
    if profile.closed:
        return np.ones_like(np.asarray(free_m, dtype=float))
    stress = turns_over_pa(profile, free_m)
    if profile.aluminium:
        return turned_share(profile, pack, stress)
    if profile.shape in ("C", "Z"):
        # AISI S100-16 F2.1: 2.78 and 0.56 of the yield stress bound the inelastic part.
        ratio = stress / profile.yield_pa
        between = 10 / 9 * (1 - 10 / 36 / ratio)
        return np.where(ratio >= 2.78, 1.0, np.where(ratio <= 0.56, ratio, between))
    if pack == "us":
        return _rolled(profile, np.asarray(free_m, dtype=float))
    slender = np.sqrt(profile.yield_pa / stress)
    # Curve a, or b of what is more than twice as deep as wide: EN 1993-1-1, Tables 6.3 and 6.4.
    bowed = 0.21 if profile.depth_m <= 2 * profile.width_m else 0.34
    phi = 0.5 * (1 + bowed * (slender - 0.2) + slender**2)
    left = np.sqrt(np.maximum(phi**2 - slender**2, 0.0))
    return np.asarray(np.minimum(1.0, 1 / (phi + left)))


def _rolled(profile: Section, free_m: Floats) -> Floats:
    """AISC 360-16 F2: from the plastic moment over 0.7 of first yield to the elastic curve."""
    found, elastic = open_profile(profile), profile.elastic_pa
    first, yields = profile.yield_pa * profile.modulus_m3, profile.yield_pa
    high = profile.depth_m - profile.flange_m
    inside = profile.depth_m - 2 * profile.flange_m
    plastic = profile.width_m * profile.flange_m * high + profile.web_m * inside**2 / 4
    radius = math.sqrt(found.weak_m4 / found.area_m2)
    effective = math.sqrt(math.sqrt(found.weak_m4 * found.warping_m6) / profile.modulus_m3)
    twist = found.twist_m4 / (profile.modulus_m3 * high)
    low = 0.7 * yields / elastic
    short = 1.76 * radius * math.sqrt(elastic / yields)
    long = 1.95 * effective / low * math.sqrt(twist + math.sqrt(twist**2 + 6.76 * low**2))
    whole = plastic * yields / first
    between = whole - (whole - 0.7) * (free_m - short) / (long - short)
    beyond = turns_over_pa(profile, free_m) / yields
    found_share = np.where(free_m <= short, whole, np.where(free_m <= long, between, beyond))
    return np.asarray(np.minimum(1.0, found_share))


def _thin(profile: Section, free_m: float) -> tuple[float, float]:
    """Plates and flange of a C or a Z: AISI S100-16 F3.2.1 and F4.1."""
    yields, turns = profile.yield_pa, float(_turns(profile, "us", free_m))
    local = local_pa(profile) / (yields * turns)
    plates = turns
    if local < 1 / 0.776**2:
        plates = (1 - 0.15 * local**0.4) * local**0.4 * turns
    root = math.sqrt(flange_turns_pa(profile) / yields)
    return plates, 1.0 if root > 1 / 0.673 else (1 - 0.22 * root) * root
