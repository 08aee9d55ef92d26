"""A mover that lies down in wind: which wind meets it at which tilt, and what that counts on."""

from dataclasses import replace

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.site.said import Weather
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.working import GIVEN, Source

FLUTTER = Source("a wind tunnel's report: flutter is not computed here", "given")
COUNTED = Source("what stows it: vane, battery, controller, switch and gear, each by itself", "given")


def wind_met(weather: Weather, givens: StructureGivens, tilt_deg: float) -> Weather:
    """The design wind where it is stowed, elsewhere the strongest that can blow before it lies so."""
    away = givens.away_wind_counted_m_s
    if away is None or abs(tilt_deg - givens.stow_deg) < 1e-6:
        return weather
    return replace(weather, wind_speed_m_s=min(away, weather.wind_speed_m_s))


def stow_checks(weather: Weather, givens: StructureGivens) -> tuple[Check, ...]:
    """Whether anybody counts on its lying down, and on how little wind before that."""
    if givens.travel is None or not givens.travel.tilts:
        return ()
    counted = givens.full_wind == "where it is stowed"
    found = [
        holds(
            "structure",
            "stow",
            "Nobody counts on its lying down in wind",
            not counted,
            f"the design wind is held at {givens.stow_deg:g}° alone"
            if counted
            else "held at every tilt",
            "the design wind held at every tilt",
            remedy="One flat battery, iced gear or stuck switch, and it stands up in the storm: hold "
            "the design wind at every tilt, or have somebody answer for all that stows it.",
            source=COUNTED,
            given="structure.full_wind",
            otherwise="look",
        )
    ]
    if counted:
        found.append(
            holds(
                "structure",
                "away_said",
                "The wind that meets it elsewhere is said",
                givens.away_wind_m_s is not None,
                "said" if givens.away_wind_m_s is not None else "not said: the design wind is held",
                "said",
                remedy="The set point, the gust over it, and what rises in the minutes on the way.",
                source=GIVEN,
                given="structure.away_wind_m_s",
                otherwise="look",
            )
        )
    if givens.away_wind_counted_m_s is not None:
        found.append(
            at_most(
                "structure",
                "away_wind",
                "Elsewhere less blows than the design wind",
                givens.away_wind_counted_m_s,
                weather.wind_speed_m_s,
                "speed",
                remedy="Read both as the same kind of wind: a gust, or a mean of ten minutes.",
                source=GIVEN,
                given="structure.away_wind_m_s",
            )
        )
    return (*found, *_steady_check(weather, givens))


def _steady_check(weather: Weather, givens: StructureGivens) -> tuple[Check, ...]:
    """Whether anybody has shown that a tube does not flutter: nothing here computes that."""
    if not givens.on_tubes:
        return ()
    title, steady = "The tube was shown not to flutter in the design wind", givens.tube_steady_m_s
    given = "structure.tube_steady_m_s"
    if steady is None:
        return (
            holds(
                "structure",
                "steady",
                title,
                False,
                "not looked at",
                "a report from a wind tunnel",
                remedy="Long tubes have been torn up by winds well under the one that winds them "
                "up, lying level: ask its maker up to which wind it was shown to lie still, and how.",
                source=FLUTTER,
                given=given,
                otherwise="look",
            ),
        )
    return (
        at_most(
            "structure",
            "steady",
            title,
            weather.wind_speed_m_s,
            steady,
            "speed",
            remedy="Less row to a drive, a wider tube, dampers that its maker has tried, or a steeper "
            "stow.",
            source=FLUTTER,
            given=given,
        ),
    )
