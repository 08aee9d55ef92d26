"""Site givens: where it is, how the ground lies, what is there, what it must stand in."""

from datetime import date
from typing import Annotated, Literal
from zoneinfo import available_timezones

from pydantic import AfterValidator, Field, field_validator

from openfurrow.core.codes import RulePack
from openfurrow.core.givens import Givens, Thing, given, identified
from openfurrow.core.quantities import UnitSystem, either
from openfurrow.core.site.features import Coordinate, FeatureGivens
from openfurrow.core.site.load_tests import LoadTestGivens
from openfurrow.core.site.notes import NoteGivens
from openfurrow.core.site.soil import HoleGivens, SoilClass
from openfurrow.core.site.survey import SurveyGivens
from openfurrow.core.site.tickets import TicketGivens
from openfurrow.core.site.ways import SpurGivens, within_reach

Exposure = Literal["B", "C", "D"]
Terrain = Literal["0", "I", "II", "III", "IV"]
# Beyond these it is no site that is walked, and every edit would wait for it.
MOST_CORNERS_TOGETHER = 8_000


# Asking the system for its zones reads hundreds of files: once is enough.
_TIME_ZONES = frozenset(available_timezones())


def _known_time_zone(name: str) -> str:
    if name not in _TIME_ZONES:
        raise ValueError("is not an IANA time zone such as America/Boise or Europe/Lisbon")
    return name


AirBites = Literal["country or town", "smoke or industry", "salt of the sea"]


class SiteGivens(Givens):
    """The ground, what is there, the weather and the way to the building."""

    def shown(self) -> frozenset[str]:
        """Without what a survey or test holes answer better."""
        answered: set[str] = set()
        if self.ground == "survey":
            answered |= {"slope", "falls_toward_deg"}
        else:
            answered |= {"survey_reach_m"}
        if self.test_holes:
            answered |= {"soil_class", "fine_soil_top_m"}
        return frozenset(type(self).model_fields) - answered

    rule_pack: RulePack = given(
        "us",
        "Rule pack",
        "choice",
        "Which school's rules apply: us (ASCE, IBC, NEC) or metric (EN, IEC).",
        "The authority that issues the permit.",
        group="Place",
    )
    display_units: UnitSystem = given(
        "us",
        "Written in",
        "choice",
        "Feet and inches, or metres and millimetres; apart from the rules.",
        "What is on the crew's tapes.",
        group="Place",
    )
    latitude_deg: float | None = given(
        None,
        "Latitude",
        "coordinate_angle",
        "North positive, south negative.",
        "A phone at the array's middle, or the map.",
        low=-66,
        high=66,
        group="Place",
        needed=True,
    )
    longitude_deg: float | None = given(
        None,
        "Longitude",
        "coordinate_angle",
        "East positive, west negative.",
        "A phone at the array's middle, or the map.",
        low=-180,
        high=180,
        group="Place",
        needed=True,
    )
    elevation_m: float | None = given(
        None,
        "Elevation",
        "elevation",
        "Height above the sea; thin air pushes less.",
        f"The map or a phone; to {either('30 ft', '10 m')} is enough.",
        low=-430,
        high=5500,
        usual=(0, 2500),
        group="Place",
        needed=True,
    )
    time_zone: Annotated[str, AfterValidator(_known_time_zone)] | None = given(
        None,
        "Time zone",
        "text",
        "IANA name of the local clock.",
        "Named after the zone's largest town.",
        group="Place",
        length=64,
        needed=True,
    )
    ground: Literal["plane", "survey"] = given(
        "plane",
        "Ground",
        "choice",
        "plane: one even slope, as level and tape give it. survey: triangles between shots.",
        "Anything that is not a lawn wants a few dozen shots.",
        group="Ground",
    )
    slope: float | None = given(
        None,
        "Slope of the ground",
        "ratio",
        "Fall of the ground plane per length.",
        "Level and tape: fall over a known length. Steeper than the top of the range needs a survey.",
        low=0,
        high=0.3,
        usual=(0, 0.1),
        group="Ground",
        needed=True,
    )
    falls_toward_deg: float | None = given(
        None,
        "Falls toward",
        "bearing",
        "True bearing of the steepest way down.",
        "Let water, or a ball, show it; compass plus declination.",
        low=0,
        high=360,
        group="Ground",
        needed=True,
    )
    surveys: Annotated[tuple[SurveyGivens, ...], Field(max_length=20)] = given(
        (),
        "Sittings",
        "list",
        "What was shot: each sitting with tape, rod, level or receiver.",
        "Paste the book, bring a file, or type the readings.",
        group="Ground",
    )
    survey_reach_m: float | None = given(
        None,
        "Shots know as far as",
        "run",
        "Between shots further apart nothing is known. Left empty: three usual spacings.",
        "Wider on a mown field, narrower on broken ground.",
        low=0.5,
        high=500,
        usual=(3, 40),
        group="Ground",
    )
    features: Annotated[tuple[FeatureGivens, ...], Field(max_length=300)] = given(
        (),
        "What is there",
        "list",
        "What stands, what is buried, whose land it is: everything the work must keep off.",
        "Walk it with the owner; the locate marks; the septic permit's sketch.",
        group="What is there",
    )
    hand_dig_m: float | None = given(
        None,
        "Hand-dig zone",
        "tape",
        "Either side of a buried line's marks. Left empty: the rule pack's own.",
        f"State law or the network owner; {either('18 to 30 in', '0.5 to 1 m')} is usual.",
        low=0.2,
        high=5,
        usual=(0.4, 1),
        group="What is there",
    )
    dig_date: date | None = given(
        None,
        "Digging starts",
        "date",
        "The first day anything enters the ground; locate answers must stand on it.",
        "The plan of the week.",
        group="Locate",
        needed=True,
    )
    ticket_wait_days: int = given(
        3,
        "Owners have",
        "count",
        "Working days an owner of lines has to answer. The rule is local.",
        "The one-call centre or the network register.",
        low=0,
        high=30,
        usual=(2, 5),
        group="Locate",
    )
    ticket_life_days: int = given(
        28,
        "Marks stand for",
        "count",
        "Days an answer may be relied on. The rule is local.",
        "The ticket; two to four weeks are usual.",
        low=1,
        high=365,
        usual=(10, 30),
        group="Locate",
    )
    tickets: Annotated[tuple[TicketGivens, ...], Field(max_length=40)] = given(
        (),
        "Locate tickets",
        "list",
        "Whom you asked for buried lines, and what they answered. Nothing that digs is sound before.",
        "The one-call centre's confirmation.",
        group="Locate",
    )
    notes: Annotated[tuple[NoteGivens, ...], Field(max_length=60)] = given(
        (),
        "Authority notes",
        "list",
        "Limits, drawings, stamps and inspections that were asked for: who said what, and when.",
        "Ask before the truck is booked; write down the name.",
        group="Authority",
    )
    machine_width_m: float | None = given(
        None,
        "Machine is wide",
        "run",
        "The widest machine that must get in. Left empty: a small tracked rig.",
        "The rental sheet.",
        low=0.3,
        high=6,
        usual=(1, 3),
        group="Access",
    )
    chute_reach_m: float | None = given(
        None,
        "Chute reaches",
        "run",
        "From the truck's path to the far end of the chute. Left empty: the usual.",
        "Ask the ready-mix yard what their trucks carry.",
        low=0.5,
        high=20,
        usual=(3, 7),
        group="Access",
    )
    pump_reach_m: float | None = given(
        None,
        "Pump hose reaches",
        "run",
        "From the truck's path to the end of the hose. Left empty: the usual.",
        "Ask the pump's owner.",
        low=1,
        high=300,
        usual=(20, 100),
        group="Access",
    )
    soil_class: SoilClass | None = given(
        None,
        "Soil at depth",
        "choice",
        "What the footing stands in below the turf.",
        "A test hole at each end of the row; the weaker one counts.",
        group="Soil",
        needed=True,
    )
    fine_soil_top_m: float | None = given(
        None,
        "Silt or clay on top",
        "tape",
        "Thickness of fine soil near the surface that freezes onto a post and lifts it. "
        "Left empty: none over gravel and sand, the whole frost depth in clay.",
        "The same test holes.",
        low=0,
        high=3,
        usual=(0, 0.6),
        group="Soil",
    )
    test_holes: Annotated[tuple[HoleGivens, ...], Field(max_length=60)] = given(
        (),
        "Test holes",
        "list",
        "Holes on the map. Where there are any, the nearest governs each post.",
        "One at each end of the array, and one where the turf looks different.",
        group="Soil",
    )
    load_tests: Annotated[tuple[LoadTestGivens, ...], Field(max_length=200)] = given(
        (),
        "Posts that were tested",
        "list",
        "Driven before the job, then pulled, pressed or pushed. What they held takes the tables' place "
        "for driven posts, in the soil that they stood in.",
        "A hoist and a scale, or a rig that reads force and movement: three at least in each soil.",
        group="Soil",
    )
    frost_depth_m: float | None = given(
        None,
        "Frost depth",
        "tape",
        "Depth the ground freezes to; footings end below it.",
        "The building department, or the frost map of the code.",
        low=0,
        high=3,
        usual=(0, 1.5),
        group="Soil",
        needed=True,
    )
    wind_speed_m_s: float | None = given(
        None,
        "Design wind",
        "speed",
        "us: 3-second gust for the risk category. metric: 10-minute mean v_b.",
        "us: hazard map of ASCE 7, Figure 26.5-1. metric: national annex to EN 1991-1-4.",
        low=15,
        high=95,
        usual=(22, 60),
        group="Weather",
        needed=True,
    )
    exposure: Exposure = given(
        "C",
        "Exposure",
        "choice",
        "B among trees and houses, C open country, D flat shore or water.",
        "Look upwind for half a kilometre in every direction (ASCE 7, 26.7).",
        pack="us",
        group="Weather",
    )
    terrain: Terrain = given(
        "II",
        "Terrain",
        "choice",
        "0 sea, I lake or bare, II fields with few obstacles, III suburb or wood, IV town.",
        "EN 1991-1-4, Table 4.1.",
        pack="metric",
        group="Weather",
    )
    topographic_factor: float = given(
        1.0,
        "Hill factor",
        "factor",
        "K_zt or c_o²: wind speeds up over hills, ridges and banks.",
        "1.0 unless the site is in the upper half of a hill (ASCE 7, 26.8; EN 1991-1-4, A.3).",
        low=1,
        high=3,
        usual=(1, 1.6),
        group="Weather",
    )
    ground_snow_pa: float | None = given(
        None,
        "Ground snow",
        "pressure",
        "Design load of snow on the ground.",
        "us: state or county table, ASCE 7 Chapter 7. metric: national annex to EN 1991-1-3.",
        low=0,
        high=15000,
        usual=(0, 4000),
        group="Weather",
        needed=True,
    )
    quake_acceleration: float | None = given(
        None,
        "Earthquake, design acceleration",
        "factor",
        "A share of gravity: S_DS in the us school, a_g S in the metric one. Left empty: earthquakes "
        "are not looked at.",
        "us: hazard map by place and site class. metric: national annex to EN 1998-1.",
        low=0.01,
        high=3,
        usual=(0.05, 1.2),
        group="Weather",
    )
    wind_from: str = given(
        "",
        "Wind comes from",
        "text",
        "Map, clause or person the design wind was taken from.",
        "us: ASCE 7-16 Figure 26.5-1 or the county. metric: national annex to EN 1991-1-4, map of "
        "v_b,0.",
        group="Weather",
        length=200,
    )
    snow_from: str = given(
        "",
        "Snow comes from",
        "text",
        "Map, clause or person the ground snow was taken from.",
        "us: ASCE 7-16 Figure 7.2-1, state table or case study. metric: national annex to "
        "EN 1991-1-3, zone and height.",
        group="Weather",
        length=200,
    )
    frost_from: str = given(
        "",
        "Frost comes from",
        "text",
        "Map, clause or person the frost depth was taken from.",
        "us: the building department's own figure (IRC Table R301.2). metric: national annex or "
        "EN ISO 13793.",
        group="Soil",
        length=200,
    )
    air_bites: AirBites = given(
        "country or town",
        "What the air carries",
        "choice",
        "Where air is salt or sour, unlike metals that lie on each other eat one another.",
        "Rust on fences near by. The sea's salt reaches some kilometres inland.",
        group="Weather",
    )
    lowest_temperature_c: float | None = given(
        None,
        "Lowest temperature",
        "temperature",
        "Mean of yearly lows; cold raises a module's voltage.",
        "The nearest weather station's extreme annual mean minimum.",
        low=-60,
        high=25,
        usual=(-40, 5),
        group="Weather",
        needed=True,
    )
    hottest_temperature_c: float | None = given(
        None,
        "Hottest temperature",
        "temperature",
        "Design high of the air; heat lowers voltage and what a wire may carry.",
        "The nearest weather station's 2 % summer high.",
        low=0,
        high=58,
        usual=(25, 45),
        group="Weather",
        needed=True,
    )
    route: Annotated[tuple[tuple[Coordinate, Coordinate], ...], AfterValidator(within_reach)] = given(
        (),
        "Way to the building",
        "route",
        "East and north of each bend of the trench, the last at the wall. "
        "Measured from the site's origin, as everything on its plan.",
        "Two tapes, or a paced sketch; every bend costs a heat gun.",
        group="Way",
        needed=True,
    )
    spurs: Annotated[tuple[SpurGivens, ...], Field(max_length=60)] = given(
        (),
        "Ways of other arrays",
        "list",
        "Where there are several arrays: each one's way into the trunk. Undrawn, it is taken straight.",
        "Keep to edges and tracks; what two share is dug once.",
        group="Way",
    )

    @field_validator("surveys", "features", "tickets", "notes", "test_holes", "load_tests", "spurs")
    @classmethod
    def _known_apart(cls, things: tuple[Thing, ...]) -> tuple[Thing, ...]:
        return identified(things)

    @field_validator("features")
    @classmethod
    def _outlines_together(cls, features: tuple[FeatureGivens, ...]) -> tuple[FeatureGivens, ...]:
        corners = sum(len(feature.points) for feature in features)
        if corners > MOST_CORNERS_TOGETHER:
            raise ValueError(
                f"they have {corners:,} corners together, at most "
                f"{MOST_CORNERS_TOGETHER:,}: simplify the outlines"
            )
        return features
