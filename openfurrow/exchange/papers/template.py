"""Where the wall is drilled, at full size: sheets for both faces, to be held against them."""

from dataclasses import dataclass
from typing import Any

from openfurrow.core.quantities import INCH_M, UnitSystem, format_value
from openfurrow.core.trench.wall import Holes

# Millimetres: how wide and high a sheet is, and what a printer leaves free.
SHEETS_MM: dict[str, tuple[float, float]] = {"letter": (215.9, 279.4), "a4": (210.0, 297.0)}
MARGIN_MM, LEVEL_SHARE, NEAR_MM = 12.0, 0.5, 14.0
BARS_M = {"us": 4 * INCH_M, "metric": 0.1}
# The least room for words beside a hole.
WORDS_MM = 34.0


@dataclass(frozen=True)
class Face:
    """One side of the wall: holes to the right of the point as one stands before it, in order."""

    name: str
    right_m: tuple[float, ...]
    up_m: float


def faces_of(holes: Holes) -> tuple[Face, Face]:
    """Outside, and inside, where right is left."""
    right = [float(one) for one in holes.right_m]
    return (
        Face("outside", tuple(sorted(right)), holes.out_up_m),
        Face("inside", tuple(sorted(-one for one in right)), holes.in_up_m),
    )


def template_sheets(holes: Holes, paper: str, units: UnitSystem) -> list[dict[str, Any]]:
    """Every sheet of both faces; so many holes on one as it is wide, in their true places."""
    wide, high = SHEETS_MM[paper]
    across = holes.across_m * 1e3
    room = wide - 2 * MARGIN_MM
    found = []
    for face in faces_of(holes):
        groups = _groups([one * 1e3 for one in face.right_m], across, room)
        for number, group in enumerate(groups, start=1):
            found.append(
                {
                    "title": f"Holes {face.name}"
                    + (f", sheet {number} of {len(groups)}" if len(groups) > 1 else ""),
                    "words": f"As you stand before the wall {face.name}. "
                    f"{format_value(holes.across_m, 'tape', units)} across; outside they lie lower, so "
                    "that water runs out.",
                    "wide": wide,
                    "high": high,
                    "margin": MARGIN_MM,
                    "level": high * LEVEL_SHARE,
                    "bar": BARS_M[units] * 1e3,
                    "bar_words": "4 in" if units == "us" else "100 mm",
                    **_placed(face, group, holes, (wide, high), units),
                }
            )
    return found


def _groups(right_mm: list[float], across_mm: float, room_mm: float) -> list[list[float]]:
    """From left to right as many as a sheet takes."""
    groups: list[list[float]] = []
    for one in right_mm:
        if groups and one - groups[-1][0] + across_mm <= room_mm:
            groups[-1].append(one)
        else:
            groups.append([one])
    return groups


def _placed(
    face: Face, group: list[float], holes: Holes, sheet_mm: tuple[float, float], units: UnitSystem
) -> dict[str, Any]:
    """Holes and, where it lies on the sheet, the shared point, from the sheet's upper left corner."""
    wide, high = sheet_mm
    level, up = high * LEVEL_SHARE, face.up_m * 1e3
    first, last = group[0], group[-1]
    # In the middle of the sheet, or as far aside as brings the point on it too.
    low, most = MARGIN_MM + holes.across_m * 500, wide - MARGIN_MM - holes.across_m * 500
    starts = (low, most - (last - first))
    begin = min(max(wide / 2 + first, starts[0]), starts[1]) if starts[1] > starts[0] else starts[0]
    point = (begin - first, level + up)
    seen = MARGIN_MM <= point[0] <= wide - MARGIN_MM and NEAR_MM * 3 <= point[1] <= high - 3 * NEAR_MM
    if not seen:
        begin = (wide - (last - first)) / 2
    numbers = {round(one, 6): at for at, one in enumerate(sorted(r * 1e3 for r in face.right_m), 1)}
    over = format_value(abs(face.up_m), "tape", units)
    return {
        "holes": [
            {
                "x": begin + one - first,
                "across": holes.across_m * 1e3,
                "room": max(WORDS_MM, 2 * holes.across_m * 1e3),
                "name": f"hole {numbers[round(one, 6)]} from the left",
                "words": f"{format_value(abs(one) / 1e3, 'tape', units)} "
                f"{'right' if one >= 0 else 'left'} of the point, {over} "
                f"{'over' if face.up_m >= 0 else 'under'} it",
            }
            for one in group
        ],
        "point": {"x": point[0], "y": point[1]} if seen else None,
    }
