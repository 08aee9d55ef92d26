"""Bents in the cases that press and lift them hardest: how they bend, what their feet ask for."""

import math

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.positions import Position
from openfurrow.core.structures.strain import Strain
from openfurrow.sheets.drawings.carrying import Side, Upright, buried, carrying
from openfurrow.sheets.drawings.table import glass_m, glass_of
from openfurrow.sheets.marks import Drawing, Mark, Point, area, drawing, label, line, turned

Floats = NDArray[np.float64]

# Everything beside the steel is measured in rows of words, and a row by how large the bents are: so
# wide is a bent to a row, and so high. In rows: the greatest force, the deepest bending, an arrow's
# head, the room beside a bent and below its feet.
DEEP_ROWS, HIGH_ROWS = 10.0, 7.2
LONGEST, DEEPEST, HEAD, BESIDE, BELOW = 2.8, 1.6, 0.45, 6.6, 4.5
LONE = 2.5


def arrow(tail: Point, tip: Point, head_m: float) -> tuple[Mark, ...]:
    """A force from its tail to its tip."""
    turn = math.degrees(math.atan2(tip[1] - tail[1], tip[0] - tail[0]))
    head = turned(((0.0, 0.0), (-head_m, head_m / 2.4), (-head_m, -head_m / 2.4)), tip, turn)
    return line("force", tail, tip), area("force-head", *head)


def turning(centre: Point, row_m: float, *, clockwise: bool) -> tuple[Mark, ...]:
    """A moment as three quarters of a turn about its place."""
    angles = np.radians(np.linspace(225, -45, 40) if clockwise else np.linspace(-45, 225, 40))
    radius = 0.85 * row_m
    points = [
        (centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a)) for a in angles.tolist()
    ]
    return line("force", *points[:-1]), *arrow(points[-3], points[-1], HEAD * row_m)[1:]


def strained_drawings(
    plan: Plan, units: UnitSystem, position: Position | None = None
) -> tuple[Drawing, ...]:
    """The bent that is pressed hardest and the one that is lifted hardest, to one scale.

    At one of the tilts that the tables are set to, or else as they are put up.
    """
    tilts = [one.tilt_deg for one in plan.rows.positions]
    section = plan.rows.section if position is None else position.section
    strains = plan.structure.strains_at[tilts.index(section.tilt_deg)]
    forces = np.abs(np.concatenate([one.asked[:, :2].ravel() for one in strains])).max()
    bending = np.abs(np.concatenate([one.moments_n_m.ravel() for one in strains])).max()
    lowest = min(float(one.joints_m[list(one.feet), 1].min()) for one in strains)
    # A lone post has all its words on one side.
    beside = BESIDE + (LONE if len(strains[0].feet) == 1 else 0.0)
    row = max(section.level_depth_m / DEEP_ROWS, (section.rise_m - lowest) / HIGH_ROWS)
    scales = row, LONGEST * row / max(float(forces), 1.0), DEEPEST * row / max(float(bending), 1.0)
    return tuple(
        drawing(
            f"bent_{number + 1}",
            f"{one.words.split(': ')[0]}: bending and forces",
            _bent(plan, one, section, (*scales, beside), units),
            low=(-beside * row, lowest - (BELOW + 1.5) * row),
            high=(section.level_depth_m + beside * row, section.rise_m + row),
        )
        for number, one in enumerate(strains)
    )


def _bent(
    plan: Plan,
    one: Strain,
    section: TableSection,
    scales: tuple[float, float, float, float],
    units: UnitSystem,
) -> list[Mark]:
    """One bent in one case; ``scales`` of a row of words, of force and of bending, and rows beside."""
    row, force, bending, beside = scales
    roles = plan.structure.posts.roles
    feet = [(float(one.joints_m[foot, 0]), float(one.joints_m[foot, 1])) for foot in one.feet]
    side = Side(
        (0.0, 0.0),
        section.tilt_deg,
        tuple(
            Upright(foot[0], foot[1], section.bolt_z_m + role.up_m)
            for foot, role in zip(feet, roles, strict=True)
        ),
    )
    aside = (beside - 0.6) * row
    marks = [*_ground(feet, -aside, section.level_depth_m + aside, (BELOW - 1.2) * row)]
    if plan.structure.posts.noun == "pile" and plan.has("footings"):
        marks += buried(plan, side)
    marks += [*carrying(plan, side, glass_m(plan)), *glass_of(plan, side)]
    marks += [*_bending(one, (row, bending), units)]
    for number, foot in enumerate(feet):
        side_of = -1.0 if number == 0 and len(feet) > 1 else 1.0
        marks += _foot(one.asked[number].tolist(), foot, (row, force, side_of), units)
    middle = section.level_depth_m / 2
    floor = min(z for _, z in feet) - BELOW * row
    combined, _, wind = in_words(one.words.partition(": ")[2], units).partition(", ")
    marks.append(label(combined, (middle, floor), "strong"))
    marks.append(label(wind, (middle, floor - row), "note"))
    return marks


def _ground(feet: list[Point], left: float, right: float, deep_m: float) -> tuple[Mark, ...]:
    """The ground through the feet, on to both sides as it runs between them."""
    (x0, z0), (x1, z1) = feet[0], feet[-1]
    slope = (z1 - z0) / (x1 - x0) if len(feet) > 1 else 0.0
    ends = [(x, z0 + slope * (x - x0)) for x in (left, right)]
    deep = [(x, z - deep_m) for x, z in reversed(ends)]
    return area("soil", *ends, *deep), line("ground", *ends)


def _bending(one: Strain, scales: tuple[float, float], units: UnitSystem) -> list[Mark]:
    """Bending on the pulled side of every bar, its greatest written on, and what braces take."""
    marks: list[Mark] = []
    (row, scale), joints = scales, one.joints_m
    best: tuple[float, Point, Point] | None = None
    for (first, last), moments in zip(one.ends.tolist(), one.moments_n_m.tolist(), strict=True):
        start, end = joints[first], joints[last]
        way = (end - start) / np.hypot(*(end - start))
        # A positive moment presses the left side: the right one is pulled.
        right = np.array([way[1], -way[0]])
        tips = [
            place + right * moment * scale for place, moment in zip((start, end), moments, strict=True)
        ]
        if max(map(abs, moments)) * scale > 1e-3:
            marks.append(area("moment", *(tuple(at.tolist()) for at in (start, *tips, end))))
        for tip, place, moment in zip(tips, (start, end), moments, strict=True):
            if best is None or abs(moment) > best[0]:
                best = abs(moment), tuple(tip.tolist()), tuple((tip - place).tolist())
    if best is not None and best[0] > 0:
        value, tip, away = best
        long = math.hypot(*away)
        at = (tip[0] + away[0] / long * 0.5 * row, tip[1] + away[1] / long * 0.5 * row)
        # At a foot it stands clear of the ground and of what the foot asks for.
        floor = float(joints[list(one.feet), 1].max()) + 0.9 * row
        at = (at[0], max(at[1], floor))
        marks.append(
            label(
                f"bends {format_value(value, 'moment', units)}",
                at,
                "strong",
                "start" if away[0] > 0.02 else "end" if away[0] < -0.02 else "middle",
            )
        )
    for brace in one.braces:
        pull = float(one.pull_n[brace])
        middle = joints[one.ends[brace]].mean(axis=0).tolist()
        said = f"{'pulled' if pull > 0 else 'pushed'} {format_value(abs(pull), 'force', units)}"
        marks.append(
            label(said, (middle[0] + 0.4 * row, middle[1] - 0.4 * row), "note", "start", free=True)
        )
    return marks


def _foot(
    asked: list[float], foot: Point, scales: tuple[float, float, float], units: UnitSystem
) -> list[Mark]:
    """What one foot brings to the ground: weight or pull, push, and the moment.

    ``scales`` are a row of words, the scale of forces, and on which side the words stand.
    """
    (down, across, moment), (row, scale, side), (x, z) = asked, scales, foot
    marks: list[Mark] = []

    def said(words: str, value: float, kind: str, rows: float) -> Mark:
        text = f"{words} {format_value(abs(value), kind, units)}"
        at = x + side * 1.2 * row, z - rows * row
        return label(text, at, "force-note", "end" if side < 0 else "start")

    if abs(down) * scale > 0.1 * row:
        tips = (x, z - 0.4 * row), (x, z - 0.4 * row - abs(down) * scale)
        marks += arrow(*(tips if down > 0 else tips[::-1]), HEAD * row)
        marks.append(said("weight" if down > 0 else "pull", down, "force", 3.1))
    if abs(across) * scale > 0.1 * row:
        way = math.copysign(1.0, across)
        start = x - way * (0.5 * row + abs(across) * scale)
        marks += arrow((start, z + 0.3 * row), (x - way * 0.5 * row, z + 0.3 * row), HEAD * row)
        marks.append(said("push", across, "force", 1.1))
    if abs(moment) > 1.0:
        marks += turning((x, z - 0.2 * row), row, clockwise=moment > 0)
        marks.append(said("turns", moment, "moment", 2.1))
    return marks
