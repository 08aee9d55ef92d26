"""The walls of the demo's buildings: what hangs there, from a corner or a door's edge."""

from typing import Any

from openfurrow.core.quantities import FOOT_M, INCH_M
from openfurrow.core.wiring.wall_givens import OnWallGivens, WallKind

Outline = tuple[float, float, float, float]


def _on(number: int, kind: WallKind, name: str, outline: Outline, **more: Any) -> OnWallGivens:
    left, bottom, width, height = outline
    return OnWallGivens(
        id=f"w{number}",
        kind=kind,
        name=name,
        left_m=left,
        bottom_m=bottom,
        width_m=width,
        height_m=height,
        **more,
    )


def _inches(
    left: float, bottom: float, width: float, height: float
) -> tuple[float, float, float, float]:
    return left * INCH_M, bottom * INCH_M, width * INCH_M, height * INCH_M


SHED = (
    _on(1, "door or window", "door", _inches(14, 0, 36, 80), depth_m=0.0),
    _on(2, "meter", "meter", _inches(66, 48, 12, 20), depth_m=9 * INCH_M),
    _on(3, "switch", "PV shut-off", _inches(88, 46, 10, 18), depth_m=7 * INCH_M),
    _on(4, "panel", "main panel", _inches(112, 40, 16, 34), depth_m=6 * INCH_M),
    _on(
        5,
        "inverter",
        "inverter",
        _inches(148, 42, 20, 28),
        depth_m=8 * INCH_M,
        clear_beside_m=10 * INCH_M,
        clear_over_m=FOOT_M,
        clear_under_m=FOOT_M,
    ),
)
MILL = (
    _on(1, "door or window", "door", (0.4, 0.0, 0.95, 2.1), depth_m=0.0),
    _on(2, "meter", "meter", (1.75, 1.2, 0.3, 0.5), depth_m=0.18),
    _on(3, "switch", "PV shut-off", (2.35, 1.25, 0.22, 0.36), depth_m=0.16),
    _on(4, "panel", "board", (2.95, 1.05, 0.5, 0.75), depth_m=0.15),
    _on(
        5,
        "inverter",
        "inverter, 15 kW",
        (3.95, 0.9, 0.53, 0.7),
        depth_m=0.26,
        clear_beside_m=0.3,
        clear_over_m=0.5,
        clear_under_m=0.5,
    ),
)
SCHOOL = (
    _on(1, "door or window", "window", (0.3, 1.1, 1.2, 1.0), depth_m=0.0),
    _on(2, "panel", "board", (2.1, 1.1, 0.4, 0.6), depth_m=0.14),
    _on(3, "switch", "PV shut-off", (2.8, 1.2, 0.2, 0.3), depth_m=0.14),
    _on(4, "meter", "meter", (3.3, 1.3, 0.26, 0.4), depth_m=0.16),
    _on(
        5,
        "inverter",
        "inverter, 8 kW",
        (4.2, 0.95, 0.5, 0.62),
        depth_m=0.22,
        clear_beside_m=0.3,
        clear_over_m=0.4,
        clear_under_m=0.4,
    ),
)
HUT = (
    _on(1, "panel", "board", (0.35, 1.15, 0.35, 0.5), depth_m=0.13),
    _on(2, "switch", "PV shut-off", (1.0, 1.25, 0.2, 0.3), depth_m=0.14),
    _on(3, "meter", "meter", (1.5, 1.3, 0.25, 0.4), depth_m=0.15),
    _on(
        4,
        "inverter",
        "inverter",
        (2.3, 1.0, 0.42, 0.55),
        depth_m=0.2,
        clear_beside_m=0.25,
        clear_over_m=0.35,
        clear_under_m=0.35,
    ),
    _on(5, "inverter", "charger", (3.35, 1.05, 0.24, 0.35), depth_m=0.12, clear_over_m=0.2),
    _on(6, "battery", "gate battery", (4.1, 0.3, 0.55, 0.6), depth_m=0.3, clear_beside_m=0.15),
    _on(7, "door or window", "door", (6.0, 0.0, 0.9, 2.05), depth_m=0.0),
)
STATION = (
    _on(1, "panel", "collecting board", (0.4, 0.2, 1.8, 1.75), depth_m=0.5),
    _on(2, "switch", "main shut-off", (2.6, 1.0, 0.6, 0.8), depth_m=0.35),
    _on(3, "meter", "meter", (3.7, 1.25, 0.5, 0.6), depth_m=0.3),
    _on(4, "door or window", "door", (4.7, 0.0, 1.2, 2.2), depth_m=0.0),
)
