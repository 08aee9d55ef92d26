"""Site givens: where it is, how the ground lies, what weather and soil it must stand in."""

from typing import Annotated, Literal
from zoneinfo import available_timezones

from pydantic import AfterValidator, Field

from openfurrow.core.codes import RulePack
from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import UnitSystem

SoilClass = Literal["crystalline rock", "sedimentary rock", "sandy gravel", "sand", "clay"]
Exposure = Literal["B", "C", "D"]
Terrain = Literal["0", "I", "II", "III", "IV"]
Coordinate = Annotated[float, Field(ge=-5000, le=5000)]


# Asking the system for its zones reads hundreds of files: once is enough.
_TIME_ZONES = frozenset(available_timezones())


def _known_time_zone(name: str) -> str:
    if name not in _TIME_ZONES:
        raise ValueError("Input should be an IANA time zone such as America/Boise or Europe/Lisbon")
    return name


class SiteGivens(Givens):
    """The ground as a plane, the weather and the way to the building."""

    rule_pack: RulePack = given(
        "us", "Rule pack", "choice",
        "Which school's rules apply: us (ASCE, IBC, NEC) or metric (EN, IEC).",
        "The authority that issues the permit.", group="Place",
    )
    display_units: UnitSystem = given(
        "us", "Written in", "choice",
        "Feet and inches, or metres and millimetres; apart from the rules.",
        "What is on the crew's tapes.", group="Place",
    )
    latitude_deg: float = given(
        44.9, "Latitude", "coordinate_angle", "North positive, south negative.",
        "A phone at the array's middle, or the map.", low=-66, high=66,
        group="Place",
    )
    longitude_deg: float = given(
        -116.1, "Longitude", "coordinate_angle", "East positive, west negative.",
        "A phone at the array's middle, or the map.", low=-180, high=180, group="Place",
    )
    elevation_m: float = given(
        1530.0, "Elevation", "elevation", "Height above the sea; thin air pushes less.",
        "The map or a phone; to 10 m is enough.", low=-430, high=5500, usual=(0, 2500),
        group="Place",
    )
    time_zone: Annotated[str, AfterValidator(_known_time_zone)] = given(
        "America/Boise", "Time zone", "text", "IANA name of the local clock.",
        "Named after the zone's largest town.", group="Place", length=64,
    )
    slope: float = given(
        0.04, "Slope of the ground", "ratio", "Fall of the ground plane per length.",
        "Level and tape: fall over a known length. Steeper than the top of the range needs a survey.",
        low=0, high=0.3, usual=(0, 0.1), group="Ground",
    )
    falls_toward_deg: float = given(
        180.0, "Falls toward", "bearing", "True bearing of the steepest way down.",
        "Let water, or a ball, show it; compass plus declination.", low=0, high=360, group="Ground",
    )
    soil_class: SoilClass = given(
        "sandy gravel", "Soil at depth", "choice",
        "What the footing stands in below the turf.",
        "A test hole at each end of the row; the weaker one counts.", group="Ground",
    )
    fine_soil_top_m: float | None = given(
        None, "Silt or clay on top", "tape",
        "Thickness of fine soil near the surface that freezes onto a post and lifts it. "
        "Left empty: none over gravel and sand, the whole frost depth in clay.",
        "The same test holes.", low=0, high=3, usual=(0, 0.6), group="Ground",
    )
    frost_depth_m: float = given(
        0.9, "Frost depth", "tape", "Depth the ground freezes to; footings end below it.",
        "The building department, or the frost map of the code.", low=0, high=3, usual=(0, 1.5),
        group="Ground",
    )
    wind_speed_m_s: float = given(
        47.0, "Design wind", "speed",
        "us: 3-second gust for the risk category. metric: 10-minute mean v_b.",
        "us: hazard map of ASCE 7, Figure 26.5-1. metric: national annex to EN 1991-1-4.",
        low=15, high=95, usual=(22, 60), group="Weather",
    )
    exposure: Exposure = given(
        "C", "Exposure", "choice",
        "B among trees and houses, C open country, D flat shore or water.",
        "Look upwind for half a kilometre in every direction (ASCE 7, 26.7).", pack="us",
        group="Weather",
    )
    terrain: Terrain = given(
        "II", "Terrain", "choice",
        "0 sea, I lake or bare, II fields with few obstacles, III suburb or wood, IV town.",
        "EN 1991-1-4, Table 4.1.", pack="metric", group="Weather",
    )
    topographic_factor: float = given(
        1.0, "Hill factor", "factor",
        "K_zt or c_o²: wind speeds up over hills, ridges and banks.",
        "1.0 unless the site is in the upper half of a hill (ASCE 7, 26.8; EN 1991-1-4, A.3).",
        low=1, high=3, usual=(1, 1.6), group="Weather",
    )
    ground_snow_pa: float = given(
        2400.0, "Ground snow", "pressure", "Design load of snow on the ground.",
        "us: state or county table, ASCE 7 Chapter 7. metric: national annex to EN 1991-1-3.",
        low=0, high=15000, usual=(0, 4000), group="Weather",
    )
    lowest_temperature_c: float = given(
        -31.0, "Lowest temperature", "temperature",
        "Mean of yearly lows; cold raises a module's voltage.",
        "The nearest weather station's extreme annual mean minimum.", low=-60, high=25,
        usual=(-40, 5), group="Weather",
    )
    hottest_temperature_c: float = given(
        33.0, "Hottest temperature", "temperature",
        "Design high of the air; heat lowers voltage and what a wire may carry.",
        "The nearest weather station's 2 % summer high.", low=0, high=58, usual=(25, 45),
        group="Weather",
    )
    route: tuple[tuple[Coordinate, Coordinate], ...] = given(
        ((6.0, 6.0), (24.0, 30.0)), "Way to the building", "route",
        "East and north of each bend of the trench, the last at the wall. "
        "Measured from the middle of the front row's posts.",
        "Two tapes, or a paced sketch; every bend costs a heat gun.", group="Way",
    )
