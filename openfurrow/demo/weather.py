"""The demo sites' weather, horizon and users; all of it is invented."""

from collections.abc import Sequence
from datetime import date

from openfurrow.core.sun.givens import HorizonGivens, SunGivens
from openfurrow.core.year_days import MONTHS


def sun_of(
    clear: Sequence[float],
    horizon: Sequence[tuple[float, float]],
    *,
    snow_days: int,
    walk_date: date = date(2026, 4, 18),
    load_wh: float | None = None,
    by_day: bool = False,
    battery_wh: float = 0.0,
) -> SunGivens:
    """How clear each month is, readings round the horizon, days under snow, and who uses the energy."""
    months = {f"clear_{month}": share for month, share in zip(MONTHS, clear, strict=True)}
    return SunGivens(
        walk_date=walk_date,
        horizon=tuple(
            HorizonGivens(id=str(number), bearing_deg=bearing, height_deg=height)
            for number, (bearing, height) in enumerate(horizon)
        ),
        snow_days=snow_days,
        load_wh=load_wh,
        load_shape="by day" if by_day else "all day and night",
        battery_wh=battery_wh,
        **months,
    )
