"""Designs that break the rules of turning tubes, as ``breaks`` has them."""

Parts = dict[str, dict[str, object]]

ROWS: dict[str, object] = {
    "rows": 2,
    "tables_along": 1,
    "modules_high": 1,
    "modules_along": 6,
    "tilt_deg": 0.0,
    "lower_edge_m": 0.7,
    "follow_ground": False,
}
TUBE: dict[str, object] = {
    "family": "turning tube",
    "pipe_section": "pipe 6 in",
    "post_section": "pipe 6 in",
    "span_limit_m": 4.0,
    "stow_deg": 0.0,
}
TOLD: dict[str, object] = {"tube_drive_n_m": 60e3, "tube_steady_m_s": 80.0, "tube_coupler_n_m": 30e3}


def tube(rows: dict[str, object] | None = None, **givens: object) -> Parts:
    """Two short rows on turning tubes, but for what is said."""
    return {"rows": ROWS | (rows or {}), "structure": TUBE | givens}


LONG = {"modules_along": 18}
TURNED = {"tables": ({"id": "a", "place": "1.1", "turn_deg": 5.0},)}

TUBE_BREAKS: tuple[tuple[str, str, str, Parts], ...] = (
    ("rows", "tube_straight", "stop", tube(TURNED)),
    ("rows", "tube_way", "look", tube({"turn_deg": 30.0})),
    ("rows", "travel", "stop", tube(stow_deg=70.0)),
    ("rows", "swept_apart", "stop", tube({"pitch_m": 1.7})),
    ("rows", "swept_ground", "stop", tube({"lower_edge_m": 0.12, "pitch_m": 5.0})),
    ("structure", "tube", "stop", tube(LONG, pipe_section="pipe 2 in")),
    ("structure", "tube_sag", "look", tube(LONG, pipe_section="pipe 2 in", span_limit_m=9.0)),
    ("structure", "tube_ends", "look", tube(LONG, pipe_section="pipe 3 in")),
    ("structure", "gives", "stop", tube(LONG, pipe_section="pipe 2 in")),
    ("structure", "drive_post", "stop", tube(LONG, post_section="W6x8.5")),
    ("structure", "steady", "look", tube()),
    ("structure", "steady", "stop", tube(tube_steady_m_s=10.0)),
    ("frame", "tube_drive", "look", tube()),
    ("frame", "tube_drive", "stop", tube(tube_drive_n_m=500.0)),
    ("frame", "tube_joint", "look", tube(LONG)),
    ("frame", "tube_joint", "stop", tube(LONG, tube_coupler_n_m=500.0)),
    ("frame", "tube_stow", "stop", tube(stow_deg=59.5)),
)
