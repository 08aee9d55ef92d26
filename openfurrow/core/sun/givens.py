"""Sun givens: the day the string is laid, and the winter window."""

from datetime import date

from openfurrow.core.givens import Givens, given


class SunGivens(Givens):
    """When true south is walked, and when the arrays must be free of shade."""

    walk_date: date = given(
        date(2026, 4, 18),
        "Day on site",
        "date",
        "The day true south is walked: gives solar noon and the declination.",
        "The day of setting out.",
    )
    shadow_at_h: float | None = given(
        None,
        "Shadow read at",
        "clock",
        "Minute of that day at which a plumb pole's shadow is compared with the string. Left empty: "
        "an hour before solar noon.",
        "When the string is up and the sun is out; the slip has the whole day.",
        low=0,
        high=23.99,
        usual=(8, 17),
    )
    window_start_h: float = given(
        10.0,
        "Window opens",
        "solar_time",
        "Solar time at the winter solstice from which a row must not shade the next.",
        "10:00 to 14:00 is usual; a narrower window keeps more rows.",
        low=6,
        high=11.75,
        usual=(9, 11),
    )
    window_end_h: float = given(
        14.0,
        "Window closes",
        "solar_time",
        "Solar time at the winter solstice until which a row must not shade the next.",
        "10:00 to 14:00 is usual.",
        low=12.25,
        high=18,
        usual=(13, 15),
    )
