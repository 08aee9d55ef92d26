"""An array that stands already is checked and wired, and never ordered, cut, driven or set out."""

from dataclasses import replace

from openfurrow.core.checks import Check, holds
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.footings.plan import OF_DRIVING, FootingsPlan
from openfurrow.core.quantities import spoken
from openfurrow.core.stakeout.plan import SettingOut
from openfurrow.core.working import COMMON_PRACTICE

# Rules of the day a post is driven.
OF_ITS_DAY = OF_DRIVING | {"drivable"}


def as_found(footings: FootingsPlan, givens: FootingsGivens) -> FootingsPlan:
    """Its posts as they stand: no rule of driving them, and one that asks how deep they are.

    What stands in weights is held to them as it is.
    """
    if footings.weights is not None:
        return footings
    kept = tuple(check for check in footings.checks if check.key not in OF_ITS_DAY)
    return replace(footings, checks=(*kept, _depth_check(givens)))


def _depth_check(givens: FootingsGivens) -> Check:
    depth_m = givens.depth_m
    return holds(
        "footings",
        "as_found",
        "Somebody knows how deep its posts stand",
        depth_m is not None,
        "taken as what they would need" if depth_m is None else spoken(depth_m, "tape"),
        "found by digging, or from its papers",
        remedy="Find out, and hold the depth at that: until then nobody has looked whether it holds.",
        source=COMMON_PRACTICE,
        given="footings.depth_m",
        otherwise="look",
    )


def nothing_set_out(array: SettingOut) -> SettingOut:
    """Where it stands, without the rules of reading a rod over its stakes."""
    return replace(array, checks=())
