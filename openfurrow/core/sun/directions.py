"""Which way to lay the string: by compass with the declination, or by a pole's shadow."""

from dataclasses import dataclass
from datetime import datetime

from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.sun.magnetic import (
    LAST_DAY,
    STEADY_DEG,
    WEAK_FIELD_DEG_NT,
    WORLD_MAGNETIC_MODEL,
    Declination,
)
from openfurrow.core.sun.shadow import ShadowSlip, from_string_deg, shadow_length
from openfurrow.core.sun.spot import Spot
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

SOLAR_NOON = Source("Reda & Andreas, NREL/TP-560-34302 (rev. 2008)", "published")
IRON = "iron in posts, rebar and trucks turns the needle more."


@dataclass(frozen=True)
class Facing:
    """Where an array looks: a bearing that ``from_words`` names, and how far it is turned from that."""

    from_deg: float
    turn_deg: float
    from_words: str = "true bearing to the equator"

    @property
    def bearing_deg(self) -> float:
        """True bearing, clockwise from north."""
        return (self.from_deg + self.turn_deg) % 360.0


def facing_of(latitude_deg: float, turn_deg: float, *, on_tubes: bool = False) -> Facing:
    """Of an array on this half of the globe; tubes lie from north to south, and look east first."""
    if on_tubes:
        return Facing(90.0, turn_deg, "east, where tubes from north to south look first")
    return Facing(180.0 if latitude_deg >= 0 else 0.0, turn_deg)


def direction_answers(
    site: Spot,
    givens: SunGivens,
    looks: Facing,
    magnetic: Declination,
    noon: datetime,
    slip: ShadowSlip,
) -> tuple[Answer, ...]:
    """Both schools, and the check of one by the other."""
    facing = looks.bearing_deg
    faced = Input("A", "true bearing the array faces", facing, "bearing")
    turn = Input("D", "declination, east positive", magnetic.degrees, "angle")
    good_to = f"Good to about {magnetic.uncertainty_deg:.2f}°; {IRON}"
    return (
        Answer(
            "sun",
            "compass",
            "Compass bearing square to the row",
            Working(
                "A_mag",
                "bearing(A - D)",
                (faced, turn),
                (facing - magnetic.degrees) % 360.0,
                "bearing",
                WORLD_MAGNETIC_MODEL,
                f"The way the array looks. {good_to}",
            ),
            True,
        ),
        Answer(
            "sun",
            "compass_along",
            "Compass bearing along the row",
            Working(
                "S_mag",
                "bearing(A - 90 - D)",
                (faced, turn),
                (facing - 90.0 - magnetic.degrees) % 360.0,
                "bearing",
                WORLD_MAGNETIC_MODEL,
                f"Walk it with the string; the other way is 180° more. {good_to}",
            ),
            True,
        ),
        Answer(
            "sun",
            "noon",
            f"Solar noon, {givens.walk_date.isoformat()}",
            Working(
                "t_noon",
                "",
                (
                    Input("longitude", "east positive", site.longitude_deg, "coordinate_angle"),
                    Input("zone", "local clock", f"{site.time_zone}, {noon.tzname()}", "text"),
                ),
                noon.hour + noon.minute / 60 + noon.second / 3600,
                "clock",
                SOLAR_NOON,
                "At this minute the shadow of a plumb pole lies true north and south. Summer time is "
                "counted where the zone keeps it.",
            ),
            True,
        ),
        *_shadow_answers(facing, slip),
        Answer(
            "sun",
            "facing",
            "True bearing faced",
            Working(
                "A",
                "bearing(A_0 + turn)",
                (
                    Input("A_0", looks.from_words, looks.from_deg, "bearing"),
                    Input("turn", "turned from that", looks.turn_deg, "angle"),
                ),
                facing,
                "bearing",
                GEOMETRY,
            ),
        ),
        Answer(
            "sun",
            "declination",
            "Declination",
            Working(
                "D",
                "",
                (
                    Input("day", "date", givens.walk_date.isoformat(), "text"),
                    Input("latitude", "north positive", site.latitude_deg, "coordinate_angle"),
                    Input("longitude", "east positive", site.longitude_deg, "coordinate_angle"),
                    Input("last", "model expires", LAST_DAY.isoformat(), "text"),
                ),
                magnetic.degrees,
                "angle",
                WORLD_MAGNETIC_MODEL,
                "East positive.",
            ),
        ),
        Answer(
            "sun",
            "declination_error",
            "Declination known to",
            Working(
                "sigma",
                "sqrt(k_0**2 + (k_H / H)**2)",
                (
                    Input("k_0", "steady part, degrees", STEADY_DEG, "factor"),
                    Input("k_H", "part of a weak field, degree nanotesla", WEAK_FIELD_DEG_NT, "factor"),
                    Input("H", "horizontal field, nanotesla", magnetic.horizontal_nt, "factor"),
                ),
                magnetic.uncertainty_deg,
                "angle",
                Source("World Magnetic Model 2025, error model of its report", "from memory"),
                "One sigma of the model itself; the needle's own troubles come on top.",
            ),
        ),
    )


def _shadow_answers(facing_deg: float, slip: ShadowSlip) -> tuple[Answer, ...]:
    """A plumb pole on the string at the chosen minute."""
    when = f"{slip.chosen:%H:%M}"
    if slip.chosen_altitude_deg <= 0:
        return (
            Answer(
                "sun",
                "shadow",
                f"Shadow of a pole at {when}",
                Working(
                    "A_s",
                    "",
                    (),
                    "sun is down",
                    "text",
                    SOLAR_NOON,
                    "On this day the sun is not up then: choose another minute.",
                ),
            ),
        )
    sun = Input("A_sun", "true bearing of the sun then", slip.chosen_azimuth_deg, "bearing")
    across = float(from_string_deg(slip.chosen_shadow_deg, facing_deg))
    side = "clockwise" if across >= 0 else "anticlockwise"
    length = shadow_length(slip.chosen_altitude_deg)
    return (
        Answer(
            "sun",
            "shadow",
            f"Shadow of a pole at {when}",
            Working(
                "A_s",
                "bearing(A_sun + 180)",
                (sun, Input("a", "its height", slip.chosen_altitude_deg, "angle")),
                slip.chosen_shadow_deg,
                "bearing",
                SOLAR_NOON,
                "True bearing. Lay the string, wait for the minute, and see that the shadow agrees.",
            ),
            True,
        ),
        Answer(
            "sun",
            "shadow_string",
            "Shadow against the string then",
            Working(
                "w",
                "",
                (
                    Input("A_s", "true bearing of the shadow", slip.chosen_shadow_deg, "bearing"),
                    Input("A", "true bearing the array faces", facing_deg, "bearing"),
                ),
                f"{abs(across):.1f}° {side}",
                "text",
                GEOMETRY,
                f"At {when} the shadow of the string line's pole falls {abs(across):.1f}° {side} of "
                f"the string, {length:.2f} times the pole's height long on level ground.",
            ),
        ),
    )
