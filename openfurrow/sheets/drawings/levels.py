"""Level lines: how far apart, in steps that read well in either system, and their words."""

from openfurrow.core.quantities import FOOT_M, UnitSystem, format_value

STEPS_M = {
    "metric": (0.05, 0.1, 0.25, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 500.0),
    "us": tuple(feet * FOOT_M for feet in (0.25, 0.5, 1, 2, 5, 10, 20, 50, 100, 500, 2000)),
}


def level_step_m(range_m: float, most: int, units: UnitSystem) -> float:
    """The least step that needs no more than ``most`` lines."""
    return next((s for s in STEPS_M[units] if range_m / s <= most), STEPS_M[units][-1])


def level_text(level_m: float, units: UnitSystem) -> str:
    """A level as it is written on a line."""
    return format_value(level_m, "run" if units == "metric" else "tape", units)
