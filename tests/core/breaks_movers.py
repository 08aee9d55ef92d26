"""Designs that break the rules of what follows the sun, as ``breaks`` has them."""

Parts = dict[str, dict[str, object]]

FEW: dict[str, object] = {
    "rows": 1,
    "tables_along": 1,
    "modules_high": 1,
    "modules_along": 2,
    "lower_edge_m": 1.2,
    "follow_ground": False,
}
TWO = {"rows": 2, "pitch_m": 6.0}
AT: dict[str, object] = {
    "family": "single pole",
    "pipe_section": "pipe 3 in",
    "pole_section": "pipe 6 in",
    "moved": "follows the sun",
}
RATED: dict[str, object] = {
    "actuator_rated_n": 40e3,
    "drive_turns_n_m": 20e3,
    "drive_tips_n_m": 40e3,
}
HIGH: dict[str, object] = {
    "topic": "height limit",
    "limit_m": 2.0,
    "who": "the desk",
    "words": "as they said",
}
STOWED = "where it is stowed"


def mover(rows: dict[str, object] | None = None, **givens: object) -> Parts:
    """Two modules on a pole that follow the sun, but for what is said."""
    return {"rows": FEW | (rows or {}), "structure": AT | givens}


MOVER = mover(TWO, full_wind=STOWED, away_wind_m_s=20.0) | {"site": {"notes": (HIGH,)}}
LYING = {"tables": ({"id": "a", "place": "1.1", "lies": "along the ground"},)}
SET = {"positions": ({"tilt_deg": 20.0, "day": "3 May"},)}

MOVER_BREAKS: tuple[tuple[str, str, str, Parts], ...] = (
    ("rows", "travel", "stop", mover(steepest_deg=30.0)),
    ("rows", "travel", "stop", mover(stow_deg=70.0)),
    ("rows", "travel", "stop", mover({"tilt_deg": 40.0}, flattest_deg=50.0, steepest_deg=30.0)),
    ("rows", "travel_level", "stop", mover(LYING)),
    ("rows", "travel_days", "look", mover(SET)),
    ("rows", "swept_ground", "stop", mover({"lower_edge_m": 0.12})),
    ("rows", "swept_grass", "look", mover({"lower_edge_m": 0.45})),
    ("rows", "swept_apart", "stop", mover({"rows": 2, "pitch_m": 2.5})),
    ("rows", "swept_room", "look", mover({"rows": 2, "pitch_m": 3.1})),
    ("rows", "shade_movers", "look", mover({"rows": 2, "pitch_m": 3.6})),
    ("rows", "swept_height", "stop", mover() | {"site": {"notes": (HIGH,)}}),
    ("structure", "stow", "look", mover(full_wind=STOWED, away_wind_m_s=20.0)),
    ("structure", "away_said", "look", mover(full_wind=STOWED)),
    ("structure", "away_wind", "stop", mover(full_wind=STOWED, away_wind_m_s=90.0)),
    ("frame", "mover_in", "stop", mover(drawn_in_m=1.0)),
    ("frame", "mover_out", "stop", mover(stroke_m=0.2)),
    ("frame", "mover_over", "stop", mover(foot_down_m=0.35, foot_out_m=0.3)),
    ("frame", "mover_foot", "stop", mover(foot_down_m=2.5)),
    ("frame", "mover_force", "look", mover()),
    ("frame", "mover_force", "stop", mover(actuator_rated_n=500.0)),
    ("frame", "drive_turns", "look", mover()),
    ("frame", "drive_turns", "stop", mover(drive_turns_n_m=50.0)),
    ("frame", "drive_tips", "look", mover()),
    ("frame", "drive_tips", "stop", mover(drive_tips_n_m=50.0)),
)
