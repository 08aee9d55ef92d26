"""What lies on the ground under an array: cloth and stone, so that nothing grows there."""

from dataclasses import dataclass

import numpy as np
import shapely

from openfurrow.core.codes import constant, table
from openfurrow.core.frame.givens import AS_IT_IS, FrameGivens
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.working import GEOMETRY, Answer, Input, Working


@dataclass(frozen=True, kw_only=True)
class Below:
    """The ground that is covered: so much of it, the cloth with its laps, its pins, and the stone.

    ``front_m`` and ``back_m`` are how far it reaches, level, before and behind the posts; ``throws`` is
    the share of light that it throws back.
    """

    area_m2: float
    cloth_m2: float
    pins: int
    stone_m3: float
    front_m: float
    back_m: float
    throws: float


def throws_back(givens: FrameGivens) -> float:
    """What the stone throws back: as was said, else as its kind does once it has weathered."""
    if givens.stone_throws is not None:
        return givens.stone_throws
    kinds = table("common", "ground_below")
    return kinds.number("throws", kinds.row("cover", givens.ground_below))


def below_of(rows: RowsPlan, givens: FrameGivens) -> Below | None:
    """Under all tables at whichever tilt covers most, and so far beyond their edges; None as it is.

    Where tables stand so near that what they cover meets, it is laid once.
    """
    if givens.ground_below == AS_IT_IS:
        return None
    sections = [one.section for one in rows.positions]
    grown = shapely.buffer(np.concatenate(rows.taken), givens.ground_beyond_m, join_style="mitre")
    area = float(shapely.area(shapely.union_all(grown)))
    lap, pins = (constant("common", name).value for name in ("cloth_lap", "cloth_pins_per_m2"))
    return Below(
        area_m2=area,
        cloth_m2=area * (1 + lap),
        pins=round(area * pins + 0.5),
        stone_m3=area * givens.stone_deep_m,
        front_m=max(one.post_x_m for one in sections) + givens.ground_beyond_m,
        back_m=max(one.level_depth_m - one.post_x_m for one in sections) + givens.ground_beyond_m,
        throws=throws_back(givens),
    )


def below_answers(below: Below | None, givens: FrameGivens) -> tuple[Answer, ...]:
    """How much ground, and how much stone."""
    if below is None:
        return ()
    area = Input("A", "ground covered", below.area_m2, "area")
    return (
        Answer(
            "frame",
            "ground_covered",
            f"Ground under the tables, {givens.ground_below}",
            Working(
                "A",
                "",
                (Input("b", "beyond their edges", givens.ground_beyond_m, "tape"),),
                below.area_m2,
                "area",
                GEOMETRY,
                "Tables seen from above, at the tilt that covers most. Laid when posts and trench are "
                "done and before the frame; cut round posts, never under concrete. Water goes through "
                "it: it is no roof.",
            ),
        ),
        Answer(
            "frame",
            "stone",
            "Stone on it",
            Working(
                "V",
                "A * t",
                (area, Input("t", "thick", givens.stone_deep_m, "tape")),
                below.stone_m3,
                "volume",
                GEOMETRY,
                "The lower edge stands by so much less over it.",
            ),
        ),
    )
