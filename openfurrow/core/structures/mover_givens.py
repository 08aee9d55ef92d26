"""What is told of a mover: glass on a pole that is turned toward the sun by an actuator and a drive."""

from typing import Literal

from openfurrow.core.givens import given
from openfurrow.core.quantities import INCH_M

Moved = Literal["stands fixed", "follows the sun", "turns about the pole", "tilts alone"]
FullWind = Literal["at every tilt", "where it is stowed"]
Half = Literal["lower half", "upper half"]

MOVED: Moved = given(
    "stands fixed",
    "The pole's head",
    "choice",
    "Stands fixed: clamped at the tilt, turned by hand at most. Follows the sun: a drive turns it on "
    "the pole, an actuator tilts it. Turns about the pole: the drive alone, clamped at its tilt. Tilts "
    "alone: the actuator, and it looks one way.",
    "A third more energy for parts that move, want power and wear; for some a few more modules are "
    "cheaper.",
    group="Pole",
)
FLATTEST: float = given(
    5.0,
    "Flattest",
    "angle",
    "The tilt at which its lower limit switch stops it.",
    "A little off level, so that rain runs off.",
    low=0,
    high=60,
    usual=(0, 15),
    group="Mover",
)
STEEPEST: float = given(
    60.0,
    "Steepest",
    "angle",
    "The tilt at which its upper limit switch stops it. Of a turning tube the most that it ever stands "
    "to either side: its switches lie before that.",
    "What the arm allows without reaching over; low sun is worth little.",
    low=5,
    high=75,
    usual=(45, 70),
    group="Mover",
)
EACH_WAY: float = given(
    100.0,
    "Turns each way",
    "angle",
    "From the way that it faces at noon to either side, to the drive's limit.",
    "From the year's first sun to its last; the cable must go with it.",
    low=10,
    high=180,
    usual=(60, 130),
    group="Mover",
)
STOW: float = given(
    5.0,
    "Lies in wind at",
    "angle",
    "The tilt that it is driven to when wind rises.",
    "The flattest that it goes to.",
    low=0,
    high=75,
    usual=(0, 20),
    group="Mover",
)
FULL_WIND: FullWind = given(
    "at every tilt",
    "The design wind meets it",
    "choice",
    "At every tilt: whether it is stowed or not. Where it is stowed: only if nothing that stows it can "
    "fail: vane, battery, switch, gear.",
    "Nobody's hope: who says so signs for it.",
    group="Mover",
)
AWAY_WIND: float | None = given(
    None,
    "Wind that may meet it elsewhere",
    "speed",
    "The strongest that can blow before it lies stowed, gusts and the minutes on the way counted; of "
    "the same kind as the design wind.",
    "The controller's set point, and more.",
    low=5,
    high=95,
    usual=(12, 30),
    group="Mover",
)
ACTUATOR_ON: Half = given(
    "lower half",
    "The actuator holds the",
    "choice",
    "From which side of the pole it reaches up to the table.",
    "The maker's drawing.",
    group="Mover",
)
ARM: float = given(
    0.45,
    "Arm",
    "tape",
    "From the middle of the cross pipe up or down the slope to the actuator's upper bolt, along the "
    "glass.",
    "A short arm wants force, a long one wants stroke.",
    low=0.1,
    high=2,
    usual=(0.25, 0.8),
    group="Mover",
    us=18 * INCH_M,
)
ARM_UNDER: float = given(
    0.0,
    "Upper bolt under the pipe's middle",
    "tape",
    "How far, square to the glass; nought where it lies level with the pipe's middle.",
    "A square laid on the rails.",
    low=0,
    high=0.5,
    usual=(0, 0.15),
    group="Mover",
)
FOOT_DOWN: float = given(
    1.2,
    "Lower bolt under the head",
    "tape",
    "From the middle of the cross pipe straight down to the actuator's lower bolt.",
    "Far enough down that the actuator never comes near the line to the head.",
    low=0.2,
    high=4,
    usual=(0.6, 1.6),
    group="Mover",
    us=48 * INCH_M,
)
FOOT_OUT: float = given(
    0.12,
    "Lower bolt off the pole",
    "tape",
    "Level, from the middle of the pole out to that bolt, on the actuator's side.",
    "Half the pole and the bracket.",
    low=0.02,
    high=0.6,
    usual=(0.08, 0.25),
    group="Mover",
    us=5 * INCH_M,
)
SHORT: float = given(
    0.74,
    "Actuator, drawn in",
    "tape",
    "Bolt to bolt when it is drawn in to its end.",
    "Its sheet: hole to hole, retracted.",
    low=0.1,
    high=4,
    usual=(0.4, 1.2),
    group="Mover",
    us=29 * INCH_M,
)
STROKE: float = given(
    0.50,
    "Stroke",
    "tape",
    "How far it comes out from there.",
    "Its sheet.",
    low=0.05,
    high=3,
    usual=(0.3, 0.9),
    group="Mover",
    us=20 * INCH_M,
)
ACTUATOR_RATED: float | None = given(
    None,
    "Actuator is rated for",
    "force",
    "The push and the pull that it holds at any length, its own safety within. Left empty: nobody has "
    "looked.",
    "Its sheet, the static load, not the one that it moves.",
    low=100,
    high=1e6,
    usual=(2e3, 3e4),
    group="Mover",
)
DRIVE_TURNS: float | None = given(
    None,
    "Drive holds, about the pole",
    "moment",
    "The turning that its gear holds, standing. Left empty: nobody has looked.",
    "Its sheet, holding torque.",
    low=10,
    high=1e6,
    usual=(1e3, 5e4),
    group="Mover",
)
DRIVE_TIPS: float | None = given(
    None,
    "Drive holds, tipping",
    "moment",
    "The moment that tips the head off the pole. Left empty: nobody has looked.",
    "Its sheet, tilting moment.",
    low=10,
    high=1e6,
    usual=(1e3, 1e5),
    group="Mover",
)
PAST_LIMIT: float = given(
    2.0,
    "Runs on past a limit",
    "angle",
    "How far it still goes when a switch has tripped, its hysteresis counted.",
    "Run it by hand from a battery and read a level.",
    low=0,
    high=15,
    usual=(0.5, 4),
    group="Mover",
)
LOOP: float = given(
    0.2,
    "Cable hangs off the pole's middle",
    "tape",
    "Where it leaves the part that turns: it winds round by this.",
    "A tape from the pole's middle.",
    low=0.02,
    high=2,
    usual=(0.05, 0.4),
    group="Mover",
    us=8 * INCH_M,
)
# What only one that tilts, and what only one that turns, is told.
OF_TILTING = frozenset(
    {
        "flattest_deg",
        "steepest_deg",
        "stow_deg",
        "full_wind",
        "away_wind_m_s",
        "actuator_on",
        "arm_m",
        "arm_under_m",
        "foot_down_m",
        "foot_out_m",
        "drawn_in_m",
        "stroke_m",
        "actuator_rated_n",
        "past_limit_deg",
    }
)
OF_TURNING = frozenset({"turn_each_way_deg", "drive_turns_n_m", "drive_tips_n_m"})
OF_MOVERS = OF_TILTING | OF_TURNING | {"cable_loop_m"}
NOT_TOLD: dict[Moved, frozenset[str]] = {
    "stands fixed": OF_MOVERS,
    "follows the sun": frozenset(),
    "turns about the pole": OF_TILTING,
    "tilts alone": OF_TURNING,
}
