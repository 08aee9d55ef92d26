"""What must be said before the energy of a year may be promised to anybody."""

from openfurrow.core.checks import Check, holds
from openfurrow.core.energy.sky import Sky
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.working import COMMON_PRACTICE


def energy_checks(sky: Sky, said: SunGivens, snow_falls: bool) -> tuple[Check, ...]:
    """Whose weather it is, whether hills were looked at, whether snow was."""
    return (
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
            not snow_falls or said.snow_days > 0,
            f"{said.snow_days} days",
            "days under snow, where snow falls",
            remedy="Say on how many days snow lies on the glass: they bring nothing.",
            source=COMMON_PRACTICE,
            given="sun.snow_days",
            otherwise="look",
        ),
    )
