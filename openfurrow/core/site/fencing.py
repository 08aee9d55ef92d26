"""Fences that this job builds: their posts one by one, struts, mesh and gates, along the ground."""

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
import shapely

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.ground import Ground
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working

Place = tuple[float, float]
# Ends that lie so near each other are one post, and a gate so near a fence stands in it.
ONE_POST_M, IN_FENCE_M = 0.1, 1.0
# A bend of less is pulled round a line post.
STRAIGHT_DEG = 10.0
STEP_M = 0.5


@dataclass(frozen=True, kw_only=True)
class Fence:
    """All fences that are built together.

    ``corner_posts`` stand at bends, ends and either side of each gate and are strutted, ``line_posts``
    between them; ``mesh_m`` is along the ground less its gates. ``gates`` are by their widths;
    ``unsaid`` are gates whose width nobody has said, which take none.
    """

    length_m: float
    mesh_m: float
    height_m: float
    corner_posts: int
    line_posts: int
    struts: int
    gates: tuple[float, ...]
    unsaid: int

    @property
    def posts(self) -> int:
        """All of them."""
        return self.corner_posts + self.line_posts


def fence_of(features: tuple[FeatureGivens, ...], ground: Ground) -> Fence | None:
    """None where this job builds none."""
    fences = [one for one in features if one.kind == "fence" and one.built_here and one.complete]
    if not fences:
        return None
    gates = [one for one in features if one.kind == "gate" and one.built_here and one.complete]
    lines = [np.array(one.points) for one in fences]
    own = [_gates_in(line, gates) for line in lines]
    openings = [gate for those in own for gate, _ in those]
    wide = tuple(gate.width_m for gate in openings if gate.width_m is not None)
    length = sum(_along_m(line, ground) for line in lines)
    counts = np.array([_posts(line, those) for line, those in zip(lines, own, strict=True)])
    corners, between, struts = counts.sum(axis=0).tolist()
    return Fence(
        length_m=length,
        mesh_m=max(length - sum(wide), 0.0),
        height_m=max(one.height_m or constant("common", "fence_m").value for one in fences),
        corner_posts=corners,
        line_posts=between,
        struts=struts,
        gates=tuple(sorted(wide)),
        unsaid=len(openings) - len(wide),
    )


def _gates_in(line: np.ndarray, gates: list[FeatureGivens]) -> list[tuple[FeatureGivens, float]]:
    """Gates that stand in a fence, and how far along it the middle of each is, level."""
    path = shapely.LineString(line)
    found = [
        (gate, float(shapely.line_locate_point(path, gate.geometry())))
        for gate in gates
        if shapely.distance(path, gate.geometry()) <= IN_FENCE_M
    ]
    return sorted(found, key=lambda one: one[1])


def _along_m(line: np.ndarray, ground: Ground) -> float:
    """Length along the ground, asked for its level every so often."""
    total = 0.0
    for start, end in pairwise(line):
        level = math.dist(start, end)
        count = max(1, math.ceil(level / STEP_M))
        share = np.linspace(0, 1, count + 1)
        places = start + share[:, None] * (end - start)
        heights = ground.level_m(places[:, 0], places[:, 1])
        total += float(np.hypot(level / count, np.diff(heights)).sum())
    return total


def _posts(line: np.ndarray, gates: list[tuple[FeatureGivens, float]]) -> tuple[int, int, int]:
    """Corner posts, line posts and struts of one fence.

    A corner has a strut along each side, an end and a gate post one; line posts stand no further apart
    than a bay, evenly between what is strutted.
    """
    steps = np.hypot(*np.diff(line, axis=0).T)
    at = np.concatenate(([0.0], np.cumsum(steps)))
    closed = math.dist(line[0], line[-1]) <= ONE_POST_M and len(line) > 3
    bends = [number for number in range(1, len(line) - 1) if _turns(line, number)]
    strutted = [float(at[number]) for number in bends]
    corners, struts = len(bends), 2 * len(bends)
    if closed:
        corners, struts = corners + 1, struts + 2
    else:
        corners, struts = corners + 2, struts + 2
    marks = [0.0, *strutted, float(at[-1])]
    holes = []
    for gate, middle in gates:
        if gate.width_m is None:
            continue
        half = gate.width_m / 2
        holes.append((middle - half, middle + half))
        corners, struts = corners + 2, struts + 2
    marks = sorted([*marks, *(edge for hole in holes for edge in hole)])
    bay = constant("common", "fence_bay_m").value
    between = 0
    for start, end in pairwise(marks):
        inside = any(low - 1e-9 <= start and end <= high + 1e-9 for low, high in holes)
        if not inside and end - start > 1e-9:
            between += math.ceil((end - start) / bay - 1e-9) - 1
    return corners, between, struts


def _turns(line: np.ndarray, number: int) -> bool:
    """Whether a fence bends there."""
    first, second = line[number] - line[number - 1], line[number + 1] - line[number]
    turn = math.degrees(math.atan2(first[0] * second[1] - first[1] * second[0], float(first @ second)))
    return abs(turn) > STRAIGHT_DEG


def fence_answers(fence: Fence | None) -> tuple[Answer, ...]:
    """How long it is, and its posts."""
    if fence is None:
        return ()
    return (
        Answer(
            "site",
            "fence_built",
            "Fence to build",
            Working(
                "L",
                "",
                (
                    Input("h", "high", fence.height_m, "run"),
                    Input("n_g", "gates", float(len(fence.gates) + fence.unsaid), "count"),
                ),
                fence.length_m,
                "run",
                GEOMETRY,
                "Along the ground, gates in it. It is a thing on the site too: it keeps posts off and "
                "takes the sun as it stands.",
            ),
        ),
        Answer(
            "site",
            "fence_posts",
            "Posts of the fence",
            Working(
                "n",
                "n_c + n_l",
                (
                    Input("n_c", "bends, ends and gates, strutted", float(fence.corner_posts), "count"),
                    Input("n_l", "between them", float(fence.line_posts), "count"),
                ),
                float(fence.posts),
                "count",
                COMMON_PRACTICE,
                "The lower edge of the mesh a hand over the ground where small animals pass, or buried "
                "where they must not.",
            ),
        ),
    )


def fence_checks(features: tuple[FeatureGivens, ...], fence: Fence | None) -> tuple[Check, ...]:
    """Trucks pass through gates, and every gate is as wide as somebody said."""
    lines = [one for one in features if one.kind == "fence" and one.complete]
    paths = [one for one in features if one.kind == "truck path" and one.complete]
    if fence is None and not (lines and paths):
        return ()
    gates = [one for one in features if one.kind == "gate" and one.complete]
    shut = [
        f"{path.label} through {line.label}"
        for path in paths
        for line in lines
        for meet in shapely.get_parts(shapely.intersection(path.geometry(), line.geometry()))
        if not any(_passes(gate, path, meet) for gate in gates)
    ]
    found = [
        holds(
            "site",
            "fence_gates",
            "Trucks pass a fence at a gate that lets them through",
            not shut,
            ", ".join(dict.fromkeys(shut)) or "at gates, or not at all",
            "a gate there, as wide as the path",
            remedy="A gate where the path meets it, as wide as the path; or build the fence last.",
            source=COMMON_PRACTICE,
            given="site.features",
            otherwise="look",
        )
    ]
    if fence is not None and fence.unsaid:
        found.append(
            holds(
                "site",
                "gate_widths",
                "Every gate that is built has a width",
                False,
                f"{fence.unsaid} without",
                "a width each",
                remedy="Say how wide each is: as yet they take no mesh off and are not bought.",
                source=COMMON_PRACTICE,
                given="site.features",
                otherwise="look",
            )
        )
    return tuple(found)


def _passes(gate: FeatureGivens, path: FeatureGivens, meet: shapely.Geometry) -> bool:
    """Whether a gate stands where a path meets a fence, and is wide enough for it."""
    wide = gate.width_m
    if wide is None:
        return False
    near = shapely.distance(gate.geometry(), meet) <= max(wide / 2, IN_FENCE_M)
    return bool(near) and wide >= (path.width_m or 0.0)
