"""What the trench meets: lines it crosses, ground it must keep off, ground nobody has shot."""

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.quantities import spoken
from openfurrow.core.rows.stands import shift_words
from openfurrow.core.site.keepouts import KeepOuts, Zone
from openfurrow.core.site.measure import bearing_deg
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.tickets import locate_check
from openfurrow.core.trench.route import Profile, Route
from openfurrow.core.trench.ways import Stretch
from openfurrow.core.working import COMMON_PRACTICE

Place = tuple[float, float]


@dataclass(frozen=True)
class Crossing:
    """A buried line met on the way: dug by hand between two chainages.

    ``crossed`` is False where the trench only passes through its hand-dig zone; ``angle_deg`` is that
    between trench and line. ``runs_along`` where it stays in the zone longer than a crossing needs.
    """

    zone: Zone
    from_m: float
    to_m: float
    crossed: bool
    angle_deg: float
    runs_along: bool

    @property
    def length_m(self) -> float:
        """How much of the trench is dug by hand for it."""
        return self.to_m - self.from_m


def way_of(route: Route | Profile) -> list[Place]:
    """The bends of the way as places."""
    return list(zip(route.east_m.tolist(), route.north_m.tolist(), strict=True))


def crossings_of(keepouts: KeepOuts, route: Route | Profile) -> tuple[Crossing, ...]:
    """Every stretch inside a hand-dig zone that may be crossed, in the order of the way."""
    way = way_of(route)
    if len(way) < 2:
        return ()
    line = shapely.LineString(way)
    found = []
    for zone in keepouts.zones:
        if zone.by_hand is None or "trench" in zone.shapes:
            continue
        for part in shapely.get_parts(shapely.intersection(line, zone.by_hand)):
            at = shapely.line_locate_point(line, shapely.points(shapely.get_coordinates(part)))
            if not at.size or np.ptp(at) < 1e-6:
                continue
            found.append(_crossing(zone, part, line, float(at.min()), float(at.max())))
    return tuple(sorted(found, key=lambda crossing: crossing.from_m))


def _crossing(
    zone: Zone, part: shapely.Geometry, line: shapely.LineString, start: float, end: float
) -> Crossing:
    centre = zone.feature.geometry()
    crossed = bool(shapely.intersects(part, centre))
    across = shapely.length(shapely.shortest_line(centre, zone.by_hand.boundary))  # type: ignore[union-attr]
    least = math.radians(constant("common", "crossing_angle_deg").value)
    longest = 2 * float(across) / math.sin(least) * 1.02
    angle = _angle_deg(part, centre) if crossed else 0.0
    return Crossing(zone, start, end, crossed, angle, end - start > longest)


def _angle_deg(part: shapely.Geometry, centre: shapely.Geometry) -> float:
    """Angle between the trench and the line where they meet, 0 to 90°."""
    meet = shapely.get_coordinates(shapely.intersection(part, centre))[0]
    ways = []
    for shape in (part, centre):
        points = shapely.get_coordinates(shape)
        gaps = [
            shapely.distance(shapely.LineString(pair), shapely.Point(meet)) for pair in pairwise(points)
        ]
        a, b = points[int(np.argmin(gaps))], points[int(np.argmin(gaps)) + 1]
        ways.append(math.degrees(math.atan2(b[0] - a[0], b[1] - a[1])))
    turn = abs(ways[0] - ways[1]) % 180.0
    return min(turn, 180.0 - turn)


@dataclass(frozen=True, kw_only=True)
class Dug:
    """A stretch of trench as it is dug: how wide, and what it meets."""

    stretch: Stretch
    width_m: float
    crossings: tuple[Crossing, ...]

    @property
    def area_m2(self) -> float:
        """What is opened, along the ground."""
        return self.stretch.line.ground_length_m * self.width_m


@dataclass(frozen=True)
class Meeting:
    """A straight of the way on ground it must keep off, and the sideways shift that clears it.

    ``name`` says which straight: its number, after its way's name where there are several.
    """

    zone: Zone
    name: str
    given: str
    shift_m: float
    toward_deg: float


def meetings_of(keepouts: KeepOuts, dug: tuple[Dug, ...]) -> tuple[Meeting, ...]:
    """Straights that reach into a zone that may not be crossed."""
    found = []
    for piece in dug:
        line = way_of(piece.stretch.line)
        for number, (a, b) in enumerate(pairwise(line)):
            trench = shapely.buffer(shapely.LineString((a, b)), piece.width_m / 2, cap_style="flat")
            last = piece.stretch.at_wall and number == len(line) - 2
            name = (
                f"stretch {number + 1}"
                if len(dug) == 1
                else (f"{piece.stretch.name}, stretch {number + 1}")
            )
            for hit in keepouts.shapes_on([trench], "trench"):
                assert hit.zone is not None
                if last and hit.zone.feature.kind == "building" and _ends_at(hit.zone, b, trench):
                    continue
                shift_m, toward = _sideways(hit.zone, a, b, piece.width_m)
                found.append(Meeting(hit.zone, name, piece.stretch.given, shift_m, toward))
    return tuple(found)


# A trench comes up at the wall it ends at: this near the wall is at it, this far in is through it.
AT_WALL_M = 0.6


def _ends_at(zone: Zone, end: Place, trench: shapely.Geometry) -> bool:
    """Whether a trench ends at a building's wall instead of running under it."""
    inside = shapely.buffer(zone.thing, -AT_WALL_M)
    near = shapely.distance(zone.thing, shapely.Point(end)) <= AT_WALL_M
    return bool(near) and not bool(shapely.intersects(inside, trench))


def _sideways(zone: Zone, a: Place, b: Place, width_m: float) -> tuple[float, float]:
    """The least shift of a straight, square to itself, that takes it off a zone, and its bearing."""
    along = bearing_deg(a, b)
    turn = math.radians(along + 90.0)
    off = shapely.get_coordinates(zone.shapes["trench"]) - np.asarray(a)
    aside: NDArray[np.float64] = off[:, 0] * math.sin(turn) + off[:, 1] * math.cos(turn)
    right, left = float(aside.max()) + width_m / 2, float(aside.min()) - width_m / 2
    shift = right if abs(right) <= abs(left) else left
    return math.copysign(math.ceil(abs(shift) * 20) / 20, shift), along + 90.0


def way_checks(site: SitePlan, dug: tuple[Dug, ...], depth_m: float) -> tuple[Check, ...]:
    """Located, clear of keep-outs, square over buried lines, inside the land, on known ground.

    Where nothing is dug, to no depth, nobody's lines have to be found for it.
    """
    crossings = tuple(crossing for piece in dug for crossing in piece.crossings)
    checks = [locate_check("trench", site.locate)] if depth_m > 0 else []
    checks.append(_keep_out(site, dug, crossings))
    if crossings:
        checks.append(_crossing_check(crossings, depth_m))
    inside = site.keepouts.trench_inside
    if inside is not None and dug:
        lines = shapely.MultiLineString([way_of(piece.stretch.line) for piece in dug])
        out = float(shapely.length(shapely.difference(lines, inside)))
        checks.append(
            holds(
                "trench",
                "boundary",
                "The trench stays on the land",
                out < 1e-6,
                f"{spoken(out, 'run')} outside" if out >= 1e-6 else "inside",
                "inside the boundary",
                remedy="Bend it back inside, or get an easement in writing.",
                source=COMMON_PRACTICE,
                given="site.route",
            )
        )
    if site.known.surface is not None:
        known = np.concatenate(
            [
                np.ones(0, dtype=bool),
                *(
                    site.ground.known(
                        piece.stretch.line.profile_east_m, piece.stretch.line.profile_north_m
                    )
                    for piece in dug
                ),
            ]
        )
        share = float((~known).mean()) if known.size else 0.0
        checks.append(
            holds(
                "trench",
                "known",
                "The ground along the trench is known",
                bool(known.all()),
                f"{spoken(share, 'ratio')} of it off the survey" if share else "known",
                "shots along the way",
                remedy="Shoot the ground along the way: its length and fall are guesses there.",
                source=COMMON_PRACTICE,
                given="site.surveys",
                otherwise="look",
            )
        )
    return (*checks, *site.note_checks.get("trench", ()))


def _keep_out(site: SitePlan, dug: tuple[Dug, ...], crossings: tuple[Crossing, ...]) -> Check:
    meetings = meetings_of(site.keepouts, dug)
    along = [c for c in crossings if c.runs_along]
    words = [f"{m.zone.feature.label}: {m.name}" for m in meetings]
    words += [f"{c.zone.feature.label}: runs along it for {spoken(c.length_m, 'run')}" for c in along]
    remedies = [f"shift {m.name} by {shift_words(m.shift_m, m.toward_deg)}" for m in meetings[:3]]
    if along:
        remedies.append("cross it as near to square as can be, or keep out of its hand-dig zone")
    source = meetings[0].zone.feature.facts.source if meetings else COMMON_PRACTICE
    remedy = "; ".join(remedies)
    return holds(
        "trench",
        "keep_out",
        "The trench keeps off what is there",
        not words,
        "; ".join(words[:3]) or "clear",
        "clear, and square over buried lines",
        remedy=f"{remedy[0].upper()}{remedy[1:]}." if remedy else "Bend the way round it.",
        source=source,
        given=meetings[0].given if meetings else "site.route",
    )


def _crossing_check(crossings: tuple[Crossing, ...], depth_m: float) -> Check:
    clear = constant("common", "crossing_clear_m")
    open_words = []
    for crossing in crossings:
        depth = crossing.zone.feature.depth_m
        label = crossing.zone.feature.label
        if depth is None:
            open_words.append(f"{label}: depth not known")
        elif depth < depth_m + clear.value:
            open_words.append(
                f"{label} at {spoken(depth, 'tape')}, trench at {spoken(depth_m, 'tape')}"
            )
    return holds(
        "trench",
        "crossings",
        "Lines that are crossed lie clear of the trench",
        not open_words,
        "; ".join(open_words[:3]) or "clear",
        f"{spoken(clear.value, 'tape')} of soil between",
        remedy="Open it by hand first and see how deep it lies; pass over or under it with soil "
        "between, and never lean on it.",
        source=clear.source,
        given="site.features",
        otherwise="look",
    )
