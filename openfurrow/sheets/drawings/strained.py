"""Bents in the cases that press and lift them hardest: how they bend, what their feet ask for."""

import math

import numpy as np

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.structures.strain import Strain
from openfurrow.sheets.drawings.carrying import Side, Upright, carrying
from openfurrow.sheets.drawings.table import glass_m, glass_of
from openfurrow.sheets.marks import Mark, Point, area, label, line, turned

# The greatest force drawn and the greatest bending are as long as this, in metres of the drawing.
LONGEST_M, DEEPEST_M = 0.8, 0.4
# The side of an arrow's head.
HEAD_M = 0.11
# Room for words beside a bent, between two, and below the ground.
BESIDE_M, BELOW_M = 1.75, 1.25


def arrow(tail: Point, tip: Point) -> tuple[Mark, ...]:
    """A force from its tail to its tip."""
    turn = math.degrees(math.atan2(tip[1] - tail[1], tip[0] - tail[0]))
    head = turned(((0.0, 0.0), (-HEAD_M, HEAD_M / 2.4), (-HEAD_M, -HEAD_M / 2.4)), tip, turn)
    return line("force", tail, tip), area("force-head", *head)


def turning(centre: Point, radius: float, *, clockwise: bool) -> tuple[Mark, ...]:
    """A moment as three quarters of a turn about its place."""
    angles = np.radians(np.linspace(225, -45, 40) if clockwise else np.linspace(-45, 225, 40))
    points = [
        (centre[0] + radius * math.cos(a), centre[1] + radius * math.sin(a)) for a in angles.tolist()
    ]
    return line("force", *points[:-1]), *arrow(points[-3], points[-1])[1:]


def width_m(plan: Plan) -> float:
    """How wide one bent is drawn, with its words."""
    return plan.rows.section.level_depth_m + 2 * BESIDE_M


def strained_marks(plan: Plan, units: UnitSystem) -> tuple[list[Mark], Point, Point]:
    """The bents beside each other, and the corners of what they cover."""
    strains = plan.structure.members.strains
    forces = np.abs(np.concatenate([one.asked[:, :2].ravel() for one in strains])).max()
    bending = np.abs(np.concatenate([one.moments_n_m.ravel() for one in strains])).max()
    scales = LONGEST_M / max(float(forces), 1.0), DEEPEST_M / max(float(bending), 1.0)
    marks: list[Mark] = []
    for number, one in enumerate(strains):
        marks += _bent(plan, one, number * width_m(plan), scales, units)
    section = plan.rows.section
    lowest = min(float(one.joints_m[list(one.feet), 1].min()) for one in strains)
    low = -BESIDE_M, lowest - BELOW_M - 0.55
    high = (len(strains) - 1) * width_m(plan) + section.level_depth_m + BESIDE_M, section.rise_m + 0.3
    return marks, low, high


def _bent(
    plan: Plan, one: Strain, x: float, scales: tuple[float, float], units: UnitSystem
) -> list[Mark]:
    """One bent in one case, its lower edge at ``x``."""
    section, roles = plan.rows.section, plan.structure.posts.roles
    joints = one.joints_m + np.array([x, 0.0])
    feet = [(float(joints[foot, 0]), float(joints[foot, 1])) for foot in one.feet]
    side = Side(
        (x, 0.0),
        section.tilt_deg,
        tuple(
            Upright(foot[0], foot[1], section.bolt_z_m + role.up_m)
            for foot, role in zip(feet, roles, strict=True)
        ),
    )
    marks = [*_ground(feet, x - BESIDE_M + 0.15, x + section.level_depth_m + BESIDE_M - 0.15)]
    marks += [*carrying(plan, side, glass_m(plan)), *glass_of(plan, side)]
    marks += [*_bending(one, joints, scales[1], units)]
    for number, foot in enumerate(feet):
        ends = ("end",) if number == 0 and len(feet) > 1 else ("start",)
        marks += _foot(one.asked[number].tolist(), foot, scales[0], ends[0], units)
    middle = x + section.level_depth_m / 2
    floor = min(z for _, z in feet) - BELOW_M
    words, _, case = one.words.partition(": ")
    marks.append(label(words, (middle, floor), "strong"))
    for row, part in enumerate(in_words(case, units).split(", ", 1)):
        marks.append(label(part, (middle, floor - 0.22 * (row + 1)), "note"))
    return marks


def _ground(feet: list[Point], left: float, right: float) -> tuple[Mark, ...]:
    """The ground through the feet, on to both sides as it runs between them."""
    (x0, z0), (x1, z1) = feet[0], feet[-1]
    slope = (z1 - z0) / (x1 - x0) if len(feet) > 1 else 0.0
    ends = [(x, z0 + slope * (x - x0)) for x in (left, right)]
    deep = [(x, z - BELOW_M + 0.3) for x, z in reversed(ends)]
    return area("soil", *ends, *deep), line("ground", *ends)


def _bending(one: Strain, joints: np.ndarray, scale: float, units: UnitSystem) -> list[Mark]:
    """Bending on the pulled side of every bar, its greatest written on, and what braces take."""
    marks: list[Mark] = []
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
        at = (tip[0] + away[0] / long * 0.14, tip[1] + away[1] / long * 0.14)
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
        marks.append(label(said, (middle[0] + 0.1, middle[1] - 0.08), "note", "start", free=True))
    return marks


def _foot(asked: list[float], foot: Point, scale: float, end: str, units: UnitSystem) -> list[Mark]:
    """What one foot brings to the ground: weight or pull, push, and the moment."""
    down, across, moment = asked
    side = -1.0 if end == "end" else 1.0
    x, z = foot
    marks: list[Mark] = []

    def said(words: str, value: float, kind: str, below: float) -> Mark:
        text = f"{words} {format_value(abs(value), kind, units)}"
        return label(text, (x + side * 0.34, z - below), "force-note", "end" if side < 0 else "start")

    if abs(down) * scale > 0.01:
        tips = (x, z - 0.1), (x, z - 0.1 - abs(down) * scale)
        marks += arrow(*(tips if down > 0 else tips[::-1]))
        marks.append(said("weight" if down > 0 else "pull", down, "force", 0.72))
    if abs(across) * scale > 0.01:
        way = math.copysign(1.0, across)
        start = x - way * (0.12 + abs(across) * scale)
        marks += arrow((start, z + 0.08), (x - way * 0.12, z + 0.08))
        marks.append(said("push", across, "force", 0.28))
    if abs(moment) > 1.0:
        marks += turning((x, z - 0.05), 0.22, clockwise=moment > 0)
        marks.append(said("moment", moment, "moment", 0.5))
    return marks
