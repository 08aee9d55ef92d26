"""What must be said before the energy of a year may be promised to anybody."""

from dataclasses import dataclass

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.energy.sky import Sky
from openfurrow.core.quantities import spoken
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.working import COMMON_PRACTICE


@dataclass(frozen=True)
class Station:
    """What of the site the year is judged by: whether snow falls, and where its station lies from it.

    ``far_m`` and ``higher_m`` are None where the year is an estimate for the site itself.
    """

    snow_falls: bool
    far_m: float | None
    higher_m: float | None


def _station(site: Station) -> tuple[Check, ...]:
    if site.far_m is None or site.higher_m is None:
        return ()
    side = "higher" if site.higher_m >= 0 else "lower"
    near_m, like_m = (constant("common", f"station_{name}_m").value for name in ("near", "like"))
    return (
        holds(
            "sun",
            "station",
            "The weather was measured nearby",
            site.far_m <= near_m and abs(site.higher_m) <= like_m,
            f"{spoken(site.far_m, 'far')} away, {spoken(abs(site.higher_m), 'elevation')} {side}",
            f"at most {spoken(near_m, 'far')} and {spoken(like_m, 'elevation')}",
            remedy="Take the file of a nearer station, or see that its sky and snow are those here: "
            "valleys keep fog, coasts keep cloud.",
            source=COMMON_PRACTICE,
            given="sun.weather",
            otherwise="look",
        ),
    )


def energy_checks(sky: Sky, said: SunGivens, site: Station) -> tuple[Check, ...]:
    """Whose weather it is, whether hills were looked at, whether snow was."""
    return (
        *_station(site),
        holds(
            "sun",
            "weather",
            "The year's light is of this place",
            said.clear_said or not sky.estimate,
            "one value for the whole year" if sky.estimate and not said.clear_said else sky.source,
            "by month, or a weather file",
            remedy="Say how clear each month is, or give a weather file of a station nearby: until "
            "then energy is a guess between a cloudy coast and a desert.",
            source=COMMON_PRACTICE,
            given="sun.clearness",
            otherwise="look",
        ),
        holds(
            "sun",
            "horizon",
            "Hills and far woods are looked at",
            bool(said.horizon),
            f"{len(said.horizon)} readings" if said.horizon else "no reading",
            "readings round the horizon",
            remedy="Read the horizon by compass and inclinometer, a level one as 0°: a hill takes "
            "hours of every winter day.",
            source=COMMON_PRACTICE,
            given="sun.horizon",
            otherwise="look",
        ),
        holds(
            "sun",
            "snow_on_glass",
            "Days under snow are counted",
            not site.snow_falls or said.snow_days > 0,
            f"{said.snow_days} days",
            "days under snow, where snow falls",
            remedy="Say on how many days snow lies on the glass: they bring nothing.",
            source=COMMON_PRACTICE,
            given="sun.snow_days",
            otherwise="look",
        ),
    )
