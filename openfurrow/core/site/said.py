"""What the site must say before others compute: the weather of the loads, the air of the wires."""

from dataclasses import dataclass

from openfurrow.core.codes import RulePack
from openfurrow.core.lacking import Lacking, said
from openfurrow.core.site.givens import Exposure, SiteGivens, Terrain


@dataclass(frozen=True)
class Weather:
    """All that wind, snow and earthquakes are computed from; None where nobody said how these shake."""

    rule_pack: RulePack
    elevation_m: float
    wind_speed_m_s: float
    exposure: Exposure
    terrain: Terrain
    topographic_factor: float
    ground_snow_pa: float
    quake_acceleration: float | None


def weather_of(site: SiteGivens) -> Weather:
    """The design weather. Raises Lacking for what nobody has said."""
    return Weather(
        rule_pack=site.rule_pack,
        elevation_m=said("site.elevation_m", site.elevation_m),
        wind_speed_m_s=said("site.wind_speed_m_s", site.wind_speed_m_s),
        exposure=site.exposure,
        terrain=site.terrain,
        topographic_factor=site.topographic_factor,
        ground_snow_pa=said("site.ground_snow_pa", site.ground_snow_pa),
        quake_acceleration=site.quake_acceleration,
    )


@dataclass(frozen=True)
class Air:
    """Under whose rules wires are chosen, and how cold and hot the air about them gets."""

    rule_pack: RulePack
    lowest_temperature_c: float
    hottest_temperature_c: float


def air_of(site: SiteGivens) -> Air:
    """The design temperatures. Raises Lacking for what nobody has said."""
    return Air(
        site.rule_pack,
        said("site.lowest_temperature_c", site.lowest_temperature_c),
        said("site.hottest_temperature_c", site.hottest_temperature_c),
    )


def has_place(site: SiteGivens) -> bool:
    """Whether somebody has said where the site is."""
    return site.latitude_deg is not None and site.longitude_deg is not None


def place_of(site: SiteGivens) -> tuple[float, float]:
    """Latitude and longitude. Raises Lacking while nobody has said them."""
    north, east = site.latitude_deg, site.longitude_deg
    if north is None or east is None:
        both = (("site.latitude_deg", north), ("site.longitude_deg", east))
        raise Lacking(tuple(path for path, value in both if value is None))
    return north, east
