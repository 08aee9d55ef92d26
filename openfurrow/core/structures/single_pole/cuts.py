"""What is cut and clamped for a single pole besides the pole and its cross pipe: rails."""

from openfurrow.core.rows.travel import Travel
from openfurrow.core.structures.members import Fixing, Piece, Stock
from openfurrow.core.structures.rails import Rail, rail_piece
from openfurrow.core.working import GEOMETRY, Answer, Input, Working

STOCK = Stock(
    lines=1,
    word="cross pipe",
    title="Cross pipe",
    cut="cross pipe",
    laps=False,
    under_rails=True,
    splice_key="coupler",
    splice="Coupler, pipe to pipe",
    parts=1,
    where="One a joint.",
)
# A rail is held at one place alone: two U-bolts keep it from turning there.
CLAMPS_A_RAIL = 2


def pieces(rail: Rail, rails: int) -> tuple[Piece, ...]:
    """Two rails a column of modules."""
    return (rail_piece(rail, rails),)


def _fixed_head(poles: int) -> tuple[Fixing, ...]:
    return (
        Fixing(
            "pole_head",
            "Head, cross pipe on pole",
            poles,
            "One on each pole, clamped at the tilt.",
            rated=True,
        ),
    )


def _moved_head(poles: int, travel: Travel) -> tuple[Fixing, ...]:
    """The drive and the actuator are held to their own ratings by themselves."""
    found = []
    if travel.turns:
        what = "with the head that it turns" if travel.tilts else "with a head that clamps the pipe"
        found.append(Fixing("drive", f"Drive {what}", poles, "One on each pole."))
    else:
        head = "Head in which the pipe turns"
        found.append(Fixing("pivot_head", head, poles, "One on each pole.", rated=True))
    if travel.tilts:
        found += [
            Fixing("actuator", "Actuator with its pins and switches", poles, "One to each table."),
            Fixing("arm", "Arm for the actuator, on the pipe", poles, "One at each head.", rated=True),
            Fixing(
                "foot_clamp", "Clamp for the actuator's foot", poles, "One on each pole.", rated=True
            ),
        ]
    axes = int(travel.turns) + int(travel.tilts)
    over = " and ".join(
        word for word, is_there in (("drive", travel.turns), ("pivot", travel.tilts)) if is_there
    )
    return (
        *found,
        Fixing(
            "bond_braid",
            f"Bonding braid, over {over}",
            axes * poles,
            "Gear and bearings bond nothing: long enough for all that it turns and tilts.",
        ),
        Fixing("controller", "Controller with its sensor or clock", poles, "One to each pole."),
    )


def fixings(poles: int, rails: int, travel: Travel | None) -> tuple[Fixing, ...]:
    """What holds the cross pipe on the pole, or turns it there, and rails on the pipe."""
    return (
        *(_fixed_head(poles) if travel is None else _moved_head(poles, travel)),
        Fixing(
            "rail_clamp", "U-bolt, rail to pipe", CLAMPS_A_RAIL * rails, "Two at each rail.", rated=True
        ),
    )


def cut_answers(rail: Rail, rails: int) -> tuple[Answer, ...]:
    """How long rails are cut."""
    return (
        Answer(
            "frame",
            "rail",
            "Cut rails at",
            Working(
                "L_r",
                "c + 2 * e",
                (
                    Input(
                        "c", "lower to upper edge of the glass", rail.length_m - 2 * rail.end_m, "tape"
                    ),
                    Input("e", "rail beyond the glass, for the end clamp", rail.end_m, "tape"),
                    Input("y", "cross pipe from the lower edge", float(rail.places_m[0]), "tape"),
                ),
                rail.length_m,
                "tape",
                GEOMETRY,
                f"{rails} of them, {rail.section.name}.",
            ),
            True,
        ),
    )
