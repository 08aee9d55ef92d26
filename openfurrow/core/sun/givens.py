"""Sun givens: the day the string is laid, the winter window, the weather of a year, who uses it."""

from datetime import date
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, Thing, given, identified
from openfurrow.core.sun.load import LoadGivens
from openfurrow.core.sun.weather import WeatherGivens
from openfurrow.core.year_days import MONTHS

# More readings round a horizon than anybody takes.
MOST_READINGS = 73


class HorizonGivens(Thing):
    """One reading round the horizon: how high hills or far woods stand at a bearing."""

    bearing_deg: float = given(
        180.0,
        "Bearing",
        "bearing",
        "True bearing of the reading.",
        "Compass, the declination counted.",
        low=0,
        high=360,
        usual=(90, 270),
    )
    height_deg: float = given(
        0.0,
        "Height",
        "angle",
        "How high over level the ground or the far wood ends there.",
        "Inclinometer, from where the glass will stand.",
        low=0,
        high=80,
        usual=(0, 25),
    )


def _clear_month(month: str) -> float | None:
    found: float | None = given(
        None,
        month.capitalize(),
        "ratio",
        f"Light of {month} over that of a cloudless one. Left empty: as the whole year.",
        "A weather station's sums of the month, over those of clear days.",
        low=0.1,
        high=1.0,
        usual=(0.3, 0.95),
        group="How clear, by month",
    )
    return found


class SunGivens(Givens):
    """When true south is walked, and when the arrays must be free of shade."""

    walk_date: date = given(
        date(2026, 4, 18),
        "Day on site",
        "date",
        "The day true south is walked: gives solar noon and the declination.",
        "The day of setting out.",
        group="On the walk",
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
        group="On the walk",
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
        group="Winter window and horizon",
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
        group="Winter window and horizon",
    )
    horizon: Annotated[
        tuple[HorizonGivens, ...], Field(max_length=MOST_READINGS), AfterValidator(identified)
    ] = given(
        (),
        "Round the horizon",
        "list",
        "Bearing and height of hills and far woods; straight from one to the next, all the way round. "
        "What stands on the site itself is seen there already.",
        "Inclinometer and compass, from where the glass will stand.",
        group="Winter window and horizon",
    )
    weather: Annotated[tuple[WeatherGivens, ...], Field(max_length=1), AfterValidator(identified)] = (
        given(
            (),
            "Year of weather",
            "brought",
            "A file of a typical or a measured year, by the hour or finer: EPW or TMY3. Without one "
            "the year is an estimate from how clear its months are.",
            "A weather service's files, of the nearest station at about the same height.",
            group="Weather",
        )
    )
    clearness: float = given(
        0.7,
        "How clear a year",
        "ratio",
        "Light of a year over that of a year without a cloud.",
        "About 60 % on a cloudy coast, 75 % inland, 90 % in a desert.",
        low=0.1,
        high=1.0,
        usual=(0.55, 0.9),
        group="Weather",
    )
    albedo: float = given(
        0.2,
        "Ground throws back",
        "ratio",
        "Share of the light that the ground under and before the glass throws back.",
        "Grass 20 %, dry soil and gravel 25 %, snow 60 %.",
        low=0,
        high=0.9,
        usual=(0.15, 0.3),
        group="Weather",
    )
    snow_days: int = given(
        0,
        "Days under snow",
        "count",
        "Days of a year on which snow lies on the glass: they bring nothing.",
        "Neighbours; steep glass sheds in a day, flat glass keeps it for weeks.",
        low=0,
        high=250,
        usual=(0, 40),
        group="Weather",
    )
    dirt: float = given(
        0.02,
        "Lost to dirt",
        "ratio",
        "Share of a year's light that dust, pollen and droppings take.",
        "2 % where it rains, 5 % by a field track, more in a dry season.",
        low=0,
        high=0.3,
        usual=(0.01, 0.05),
        group="Weather",
    )
    other_losses: float = given(
        0.06,
        "Lost otherwise",
        "ratio",
        "Modules that are unlike, weak light, ageing, days out of order.",
        "5 to 8 % of new modules, more of old ones.",
        low=0,
        high=0.5,
        usual=(0.04, 0.1),
        group="Weather",
    )
    clear_january: float | None = _clear_month("january")
    clear_february: float | None = _clear_month("february")
    clear_march: float | None = _clear_month("march")
    clear_april: float | None = _clear_month("april")
    clear_may: float | None = _clear_month("may")
    clear_june: float | None = _clear_month("june")
    clear_july: float | None = _clear_month("july")
    clear_august: float | None = _clear_month("august")
    clear_september: float | None = _clear_month("september")
    clear_october: float | None = _clear_month("october")
    clear_november: float | None = _clear_month("november")
    clear_december: float | None = _clear_month("december")
    load_wh: float | None = given(
        None,
        "Used in a year",
        "energy",
        "What the building, or whoever is supplied, uses in a year. Left empty: not looked at.",
        "The bills of twelve months.",
        low=1000,
        high=1e12,
        usual=(1e6, 1e8),
        group="Who uses it",
    )
    load_shape: Literal["all day and night", "by day"] = given(
        "all day and night",
        "Used",
        "choice",
        "All day and night: pumps, coolers, servers. By day: from eight to six, seven days a week.",
        "Who works there, and when.",
        group="Who uses it",
    )
    loads: Annotated[tuple[LoadGivens, ...], Field(max_length=1), AfterValidator(identified)] = given(
        (),
        "Year of use",
        "brought",
        "A meter's file, a line a step: then that is what is used, and not the figure of a year.",
        "The grid operator's portal; a logger on the feed.",
        group="Who uses it",
    )
    battery_wh: float = given(
        0.0,
        "Battery",
        "small_energy",
        "What it gives from full to empty. Nought: none.",
        "Its data sheet: what may be used, not what is printed on the front.",
        low=0,
        high=1e10,
        usual=(0, 100_000),
        group="Who uses it",
    )

    def shown(self) -> frozenset[str]:
        """How clear months are, and what is used, is asked only where no file says it."""
        months = {f"clear_{month}" for month in MONTHS}
        measured = {"clearness", *months} if self.year_of_weather else set()
        return super().shown() - measured - ({"load_wh", "load_shape"} if self.year_of_use else set())

    @property
    def year_of_weather(self) -> WeatherGivens | None:
        """The year that was brought; None where there is none, or an empty one."""
        return next((one for one in self.weather if one.packed), None)

    @property
    def year_of_use(self) -> LoadGivens | None:
        """The meter's file that was brought; None where there is none, or an empty one."""
        return next((one for one in self.loads if one.packed), None)

    @property
    def clear_by_month(self) -> tuple[float, ...]:
        """How clear each month is."""
        said = (getattr(self, f"clear_{month}") for month in MONTHS)
        return tuple(self.clearness if one is None else one for one in said)

    @property
    def clear_said(self) -> bool:
        """Whether somebody has said it of every month."""
        return all(getattr(self, f"clear_{month}") is not None for month in MONTHS)

    def directions(self) -> "SunGivens":
        """The same as far as directions and the window go: what else is said moves none of them."""
        return SunGivens(
            walk_date=self.walk_date,
            shadow_at_h=self.shadow_at_h,
            window_start_h=self.window_start_h,
            window_end_h=self.window_end_h,
        )
