"""Through the wall: where the holes are on both faces, from one point that both faces share."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_least, holds
from openfurrow.core.codes import constant, table
from openfurrow.core.trench.data_pipe import DataPipe
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.runs import Run
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

Floats = NDArray[np.float64]
MEASURED = Source("measured on both faces from the same point", "given")


@dataclass(frozen=True, kw_only=True)
class Holes:
    """Middles of the holes on both faces: ``right_m`` seen from outside, and so far up on each.

    Seen from inside right is left: there they are at ``-right_m``. ``across_m`` is how wide each hole
    is; ``bay_m`` are the inner edges of the studs beside them, seen from inside, where any are. The
    last is ``for_data`` where data has a pipe of its own.
    """

    right_m: Floats
    out_up_m: float
    in_up_m: float
    across_m: float
    thick_m: float
    bay_m: tuple[float, float] | None
    for_data: bool = False

    @property
    def clear_m(self) -> float:
        """The least from any hole's edge to a stud; negative where one is cut."""
        if self.bay_m is None:
            return np.inf
        inside, (low, high) = -self.right_m, self.bay_m
        return float(min(inside.min() - low, high - inside.max()) - self.across_m / 2)


def holes_of(givens: TrenchGivens, runs: tuple[Run, ...], data: DataPipe | None = None) -> Holes | None:
    """A hole for every conduit or cable, side by side to the right, the last for data's own pipe.

    None where no wall was measured.
    """
    if not givens.passes_wall or givens.wall_thick_m is None:
        return None
    outside = max(*(run.outside_m for run in runs), 0.0 if data is None else data.outside_m)
    count = sum(run.conduits for run in runs) + (data is not None)
    across = outside + constant("common", "wall_play_m").value
    fall = constant("common", "wall_fall").value
    bay = (givens.bay_from_m, givens.bay_to_m)
    return Holes(
        # As far apart as they are wide, so that each has its flange.
        right_m=np.asarray(givens.hole_right_m + 2 * across * np.arange(count), dtype=float),
        out_up_m=givens.hole_up_m,
        in_up_m=givens.hole_up_m + fall * givens.wall_thick_m - givens.reference_higher_m,
        across_m=across,
        thick_m=givens.wall_thick_m,
        bay_m=None if bay[0] is None or bay[1] is None else (bay[0], bay[1]),
        for_data=data is not None,
    )


def wall_answers(holes: Holes | None, givens: TrenchGivens) -> tuple[Answer, ...]:
    """The first hole on both faces, how wide and how deep, and which tool for what."""
    if holes is None:
        return ()
    first, count = float(holes.right_m[0]), holes.right_m.size
    many = "" if count == 1 else f"; {count} of them, the next on to the right from outside"
    if holes.for_data:
        many += ", the last for the data's pipe"
    data, play_m = table("common", "wall"), constant("common", "wall_play_m").value
    tools = data.texts["tools"][data.row("kind", givens.wall_kind)]
    return (
        Answer(
            "trench",
            "wall_outside",
            f"Hole outside, {'right' if first >= 0 else 'left'} of the shared point",
            Working(
                "x",
                "",
                (Input("z", "over it", holes.out_up_m, "tape"),),
                abs(first),
                "tape",
                MEASURED,
                f"As you stand before the wall outside{many}.",
            ),
            True,
        ),
        Answer(
            "trench",
            "wall_inside",
            f"Hole inside, {'left' if first >= 0 else 'right'} of the shared point",
            Working("x_i", "", (Input("x", "outside", first, "tape"),), abs(first), "tape", GEOMETRY),
            True,
        ),
        Answer(
            "trench",
            "wall_inside_up",
            "Hole inside, over the shared point",
            Working(
                "z_i",
                "z + f * t - r",
                (
                    Input("z", "outside over it", holes.out_up_m, "tape"),
                    Input("f", "falls outward", constant("common", "wall_fall").value, "ratio"),
                    Input("t", "wall", holes.thick_m, "tape"),
                    Input("r", "the point is higher inside by", givens.reference_higher_m, "tape"),
                ),
                holes.in_up_m,
                "tape",
                GEOMETRY,
                "Below the point where it is less than nought.",
            ),
            True,
        ),
        Answer(
            "trench",
            "wall_hole",
            "Each hole, across",
            Working(
                "d_h",
                "d + p",
                (
                    Input("d", "what passes", holes.across_m - play_m, "tape"),
                    Input("p", "play for the seal", play_m, "tape"),
                    Input("t", "deep, and a little more for the bit", holes.thick_m, "tape"),
                ),
                holes.across_m,
                "tape",
                COMMON_PRACTICE,
                f"{tools} Sealed around the pipe outside, and with duct seal in it.",
            ),
        ),
    )


def wall_checks(holes: Holes | None, givens: TrenchGivens) -> tuple[Check, ...]:
    """Whether anybody has measured the wall, and whether holes miss what stands in it."""
    if givens.wall_kind == "no wall is passed":
        return ()
    measured = holes is not None
    found = [
        holds(
            "trench",
            "wall_measured",
            "The way through the wall was measured on both faces",
            measured,
            "measured" if measured else "not looked at",
            "measured",
            remedy="One point that both faces share, a window's corner: from it the hole outside, and "
            "how thick the wall is. A finder for what lies in it.",
            source=COMMON_PRACTICE,
            given="trench.wall_thick_m" if givens.passes_wall else "trench.wall_kind",
            otherwise="look",
        )
    ]
    if holes is None or not givens.hollow_wall:
        return tuple(found)
    if holes.bay_m is None or holes.bay_m[0] >= holes.bay_m[1]:
        found.append(
            holds(
                "trench",
                "wall_studs",
                "Holes miss the studs",
                False,
                "nobody has found them" if holes.bay_m is None else "the edges lie the other way round",
                "clear of both",
                remedy="Find the studs beside it from inside, and write their near edges, the left one "
                "first: what lies left of the shared point is less than nought.",
                source=COMMON_PRACTICE,
                given="trench.bay_from_m",
                otherwise="look",
            )
        )
    else:
        found.append(
            at_least(
                "trench",
                "wall_studs",
                "Holes miss the studs",
                holes.clear_m,
                constant("common", "stud_clear_m").value,
                "tape",
                remedy="Move the hole between the studs: one that is cut carries less, and the pipe "
                "does not pass.",
                source=COMMON_PRACTICE,
                given="trench.hole_right_m",
            )
        )
    return tuple(found)
