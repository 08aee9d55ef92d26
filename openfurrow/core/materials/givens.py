"""Material givens: what breaks, bends or is cut wrong."""

from openfurrow.core.givens import Givens, given


class MaterialsGivens(Givens):
    """Allowances on what is ordered."""

    waste: float = given(
        0.05,
        "Waste on bulk goods",
        "ratio",
        "Added to wire, sand, tape and what boxes are filled with.",
        "5 % is usual.",
        low=0,
        high=0.5,
        usual=(0.03, 0.1),
    )
    spare_fasteners: float = given(
        0.05,
        "Spare clamps and bolts",
        "ratio",
        "Added to small parts, which are dropped in grass.",
        "5 % is usual.",
        low=0,
        high=0.5,
        usual=(0.02, 0.1),
    )
    spare_posts: int = given(
        1,
        "Spare posts",
        "count",
        "For the one that refuses or leans.",
        "One in ten, and at least one.",
        low=0,
        high=500,
        usual=(0, 10),
    )
