"""What is told of a turning tube: how it follows, its drive, its twist, what keeps it still."""

from typing import Literal

from openfurrow.core.givens import given

TurnsBack = Literal["turns back from shade", "takes the shade"]

TURNS_BACK: TurnsBack = given(
    "turns back from shade",
    "Morning and evening it",
    "choice",
    "Turns back from shade: as far off the sun as keeps each row out of the next one's shadow. Takes "
    "the shade: square to the sun to its limit.",
    "Turning back: a band of shade costs more than the light that is missed.",
    group="Mover",
)
DRIVE: float | None = given(
    None,
    "Drive holds, about the tube",
    "moment",
    "The turning that its gear holds, standing, its own safety within. Left empty: nobody has looked.",
    "Its sheet, holding torque, not the one that it turns with.",
    low=100,
    high=1e6,
    usual=(3e3, 5e4),
    group="Mover",
)
TWIST: float = given(
    6.0,
    "Ends may twist by",
    "angle",
    "How far the far end of a tube may turn on past its drive in wind in service.",
    "What its modules' frames stand across two rails, and what the light is worth.",
    low=0.5,
    high=20,
    usual=(3, 10),
    group="Mover",
)
STEADY: float | None = given(
    None,
    "Steady in wind up to",
    "speed",
    "The wind in which it was shown not to flutter as it is stowed, of the same kind as the design "
    "wind. Left empty: nobody has looked.",
    "The maker's report from a wind tunnel, for these modules, this tube and this length.",
    low=5,
    high=95,
    usual=(20, 60),
    group="Mover",
)
COUPLER: float | None = given(
    None,
    "Coupler passes on",
    "moment",
    "The twist that a joint of two tubes takes without slipping. Left empty: nobody has looked.",
    "Its maker's sheet, or an engineer's figure for its bolts.",
    low=50,
    high=1e6,
    usual=(1e3, 4e4),
    group="Mover",
)
OF_TUBES = frozenset(
    {"turns_back", "tube_drive_n_m", "tube_twist_deg", "tube_steady_m_s", "tube_coupler_n_m"}
)
# Of what movers on poles are told it is told these too.
OF_MOVERS_TOO = frozenset(
    {"steepest_deg", "stow_deg", "full_wind", "away_wind_m_s", "past_limit_deg", "cable_loop_m"}
)
