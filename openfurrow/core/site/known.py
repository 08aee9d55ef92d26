"""The ground as it is known: a plane that was said, or the surface through the shots."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.site.breaks import bending, break_lines
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.ground import Ground, GroundPlane
from openfurrow.core.site.outliers import outliers
from openfurrow.core.site.surface import Surface, SurfaceError, distinct, surface_through
from openfurrow.core.site.survey import Shots, SurveyGivens, own_faces, shots_of

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class Known:
    """What is known of the ground.

    ``off_m`` holds the residuals of the shots at ``off`` (indices into the shots), worst first.
    ``breaks`` are the lines the surface bends along, by their codes. ``why_not`` says why a survey that
    was asked for makes no surface.
    """

    ground: Ground
    surface: Surface | None
    shots: Shots
    off: Integers
    off_m: Floats
    breaks: tuple[tuple[str, Floats], ...] = ()
    why_not: str = ""


def ground_of(givens: SiteGivens) -> Known:
    """The plane, or the surface of the sittings."""
    # Where nobody has said how it falls no rows are laid out; what is there is drawn on level ground.
    plane = GroundPlane(givens.slope or 0.0, givens.falls_toward_deg or 0.0)
    if givens.ground == "plane":
        return Known(plane, None, shots_of(()), np.empty(0, dtype=np.int64), np.empty(0))
    return _surveyed(givens.surveys, givens.survey_reach_m, plane)


@lru_cache(maxsize=32)
def _surveyed(surveys: tuple[SurveyGivens, ...], reach_m: float | None, plane: GroundPlane) -> Known:
    """Kept for surveys seen lately: most edits do not touch the shots."""
    shots = shots_of(surveys)
    none = np.empty(0, dtype=np.int64)
    faces = own_faces(surveys)
    # A file's own triangles are believed as they are.
    breaks = break_lines(shots) if faces is None else ()
    lines = tuple(line for _, line in breaks)
    try:
        surface = surface_through(shots.points_m, faces, reach_m, lines)
    except SurfaceError as error:
        return Known(plane, None, shots, none, np.empty(0), why_not=str(error))
    points = distinct(shots.points_m)
    # With break lines the surface has more points along them, after those that were shot.
    mesh = surface.points_m if lines else points
    found, by_m = outliers(mesh, bending(mesh, lines, len(points)))
    # Back from the points without doubles to the shots.
    place = {
        tuple(point): index
        for index, point in reversed(list(enumerate(np.round(shots.points_m[:, :2], 4).tolist())))
    }
    index = np.array(
        [place[tuple(at)] for at in np.round(points[found][:, :2], 4).tolist()], dtype=np.int64
    )
    return Known(surface, surface, shots, index, by_m, breaks)
