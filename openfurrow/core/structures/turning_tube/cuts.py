"""What is cut and clamped for a turning tube besides its posts and itself: rails, bearings, drives."""

from openfurrow.core.structures.members import Fixing, Piece, Stock
from openfurrow.core.structures.rails import Rail, rail_piece
from openfurrow.core.structures.single_pole.cuts import CLAMPS_A_RAIL, cut_answers

__all__ = ["STOCK", "cut_answers", "fixings", "pieces"]

STOCK = Stock(
    lines=1,
    word="tube",
    title="Tube along the row",
    cut="tube",
    laps=False,
    under_rails=True,
    splice_key="coupler",
    splice="Coupler, tube to tube",
    parts=1,
    where="One a joint; it passes on the twist too.",
)


def pieces(rail: Rail, rails: int) -> tuple[Piece, ...]:
    """Two rails a column of modules."""
    return (rail_piece(rail, rails),)


def fixings(posts: int, tables: int, rails: int) -> tuple[Fixing, ...]:
    """What the tube turns in, what turns it, and what holds rails on it."""
    return (
        Fixing(
            "tube_bearing",
            "Bearing, tube on post",
            posts - tables,
            "One on each post but the drive's.",
            rated=True,
        ),
        Fixing("tube_drive", "Drive with its motor, tube on post", tables, "One at each table."),
        Fixing(
            "bond_braid",
            "Bonding braid, over bearings",
            posts,
            "Bearings and gear bond nothing: one at each post, long enough for all that it turns.",
        ),
        Fixing("controller", "Controller with its sensor or clock", tables, "One to each drive."),
        Fixing(
            "rail_clamp",
            "U-bolt, rail to tube",
            CLAMPS_A_RAIL * rails,
            "Two at each rail: a rail that slips round the tube leaves the others behind.",
            rated=True,
        ),
    )
