"""Jobs on two post lines, and what acts on one bent of theirs, reckoned from what was said alone."""

import math
from dataclasses import dataclass

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from tests.core.test_checks import broken
from tests.designs import plain_larkspur

G = 9.80665


def job(**parts: dict[str, object]) -> Design:
    """Larkspur on even ground and on two post lines, with what a test says."""
    structure: dict[str, object] = {"family": "two post lines"}
    said = {stage: dict(givens) for stage, givens in parts.items()}
    said["structure"] = structure | said.get("structure", {})
    said["rows"] = {"rows": 1, "follow_ground": False} | said.get("rows", {})
    return broken(plain_larkspur(), said)


@dataclass(frozen=True)
class Force:
    """A force on the table: where it acts and how, x level to the back and z up."""

    x: float
    z: float
    along_x: float
    up: float


@dataclass(frozen=True)
class Bent:
    """The places of one bent, from the lower edge of the glass."""

    front_foot: tuple[float, float]
    front_head: tuple[float, float]
    back_foot: tuple[float, float]
    back_head: tuple[float, float]


def bent(design: Design, found: Plan, front_m: float, back_m: float) -> Bent:
    """Where heads and feet are: the beam lies square under the glass by the stack."""
    section, apart = found.rows.section, design.arrays[0].structure.lines_apart_m
    tilt = math.radians(section.tilt_deg)
    # The middle of the beam's axis, right under mid-glass along the square to it.
    x = section.chord_m / 2 * math.cos(tilt) + section.stack_m * math.sin(tilt)
    z = section.chord_m / 2 * math.sin(tilt) - section.stack_m * math.cos(tilt)
    rise = apart / 2 * math.tan(tilt)
    front, back = (x - apart / 2, z - rise), (x + apart / 2, z + rise)
    return Bent((front[0], front[1] - front_m), front, (back[0], back[1] - back_m), back)


def forces(found: Plan, combination: int, case: int, row_m: float) -> list[Force]:
    """What acts on ``row_m`` of the row in one combination with one wind case."""
    section, loads = found.rows.section, found.structure.loads_at[0]
    tilt, half = math.radians(section.tilt_deg), section.chord_m / 2
    combined = loads.strength
    dead = float(loads.dead_of_kg_per_m2[0]) * G
    found_forces = []
    for middle, wind, snow in (
        (half / 2, loads.wind.front_pa, combined.snow),
        (3 * half / 2, loads.wind.back_pa, combined.snow_back),
    ):
        x, z = middle * math.cos(tilt), middle * math.sin(tilt)
        press = float(combined.wind[combination] * wind[case]) * half * row_m
        weight = float(combined.dead[combination]) * dead * half * row_m
        weight += float(snow[combination]) * loads.snow_pa * half * math.cos(tilt) * row_m
        found_forces += [
            Force(x, z, press * math.sin(tilt), -press * math.cos(tilt)),
            Force(x, z, 0.0, -weight),
        ]
    return found_forces


def about(place: tuple[float, float], those: list[Force]) -> float:
    """Their moment about a place, counted from x to z."""
    return sum((one.x - place[0]) * one.up - (one.z - place[1]) * one.along_x for one in those)
