"""What soil eats of steel over a life, and what is left of a profile then."""

import math
from dataclasses import replace
from typing import Literal

import numpy as np

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.codes.section import Section
from openfurrow.core.working import Source

GroundBites = Literal["natural ground", "peaty or polluted ground", "loose fill that bites"]
# What is eaten through is a leaf that carries next to nothing, so that shares stay finite.
LEAST_M = 1e-6
COLUMNS: dict[GroundBites, str] = {
    "natural ground": "natural_m",
    "peaty or polluted ground": "peaty_m",
    "loose fill that bites": "fill_m",
}


def by_zinc(pack: RulePack, ground: GroundBites) -> bool:
    """Whether loss is reckoned by the zinc that has to go first: the us school, in ordinary ground."""
    return pack == "us" and ground == "natural ground"


def loss_m(pack: RulePack, ground: GroundBites, years: float, zinc_m: float) -> float:
    """Steel lost from each face that soil touches.

    us, in ordinary ground: zinc by 15 µm a year for two years, then by 4, and steel by 12 after it.
    Else EN 1993-5, which takes nothing for zinc.
    """
    if not by_zinc(pack, ground):
        rates = table("common", "steel_loss")
        return float(np.interp(years, rates.numbers["years"], rates.numbers[COLUMNS[ground]]))
    return max(years - zinc_years(zinc_m), 0.0) * constant("us", "steel_loss_m").value


def zinc_years(zinc_m: float) -> float:
    """How long a coating lasts."""
    first, then = (constant("us", name).value for name in ("zinc_loss_first_m", "zinc_loss_then_m"))
    early = constant("us", "zinc_first_years").value
    if zinc_m <= first * early:
        return zinc_m / first
    return early + (zinc_m - first * early) / then


def loss_source(pack: RulePack, ground: GroundBites) -> Source:
    """By what it is reckoned."""
    if by_zinc(pack, ground):
        return constant("us", "steel_loss_m").source
    return table("common", "steel_loss").source


def thinned(profile: Section, lost_m: float) -> Section:
    """The profile with so much gone from every face; nothing is left of what was no thicker.

    Modulus and inertia go down as those of the plates, or of the pipe, that it is made of.
    """
    if lost_m <= 0:
        return profile
    left = replace(
        profile,
        depth_m=profile.depth_m - 2 * lost_m,
        width_m=profile.width_m - 2 * lost_m,
        web_m=max(profile.web_m - 2 * lost_m, LEAST_M),
        flange_m=max(profile.flange_m - 2 * lost_m, LEAST_M),
        lip_m=max(profile.lip_m - lost_m, 0.0),
    )
    inertia = profile.inertia_m4 * _plates_m4(left) / _plates_m4(profile)
    deep = left.depth_m / profile.depth_m
    return replace(
        left,
        inertia_m4=inertia,
        modulus_m3=profile.modulus_m3 * (inertia / profile.inertia_m4) / deep,
        area_m2=profile.area_m2 * _area_m2(left) / _area_m2(profile),
    )


def _plates_m4(profile: Section) -> float:
    """Inertia about the strong axis of the plates alone."""
    high, wide, web, flange = profile.depth_m, profile.width_m, profile.web_m, profile.flange_m
    if profile.shape == "pipe":
        return math.pi / 64 * (high**4 - (high - 2 * web) ** 4)
    out = (high - flange) / 2
    return web * (high - 2 * flange) ** 3 / 12 + 2 * wide * flange * (out**2 + flange**2 / 12)


def _area_m2(profile: Section) -> float:
    if profile.shape == "pipe":
        return math.pi * profile.web_m * (profile.depth_m - profile.web_m)
    inside = profile.depth_m - 2 * profile.flange_m
    return inside * profile.web_m + 2 * profile.width_m * profile.flange_m
