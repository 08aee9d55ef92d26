"""Material givens: what breaks, bends or is cut wrong."""

from typing import Annotated

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, given, identified
from openfurrow.core.materials.prices import PriceGivens
from openfurrow.core.quantities import INCH_M, either


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
    saw_cut_m: float = given(
        0.003,
        "A saw cut",
        "thickness",
        "What the saw eats of a stick at each cut.",
        f"The blade: {either('1/8 in', '3 mm')} for a chop saw, less for a band saw.",
        low=0,
        high=0.02,
        usual=(0.0015, 0.004),
        us=0.125 * INCH_M,
    )
    currency: str = given(
        "EUR",
        "Prices are in",
        "text",
        "The currency of every price of the job.",
        "Three letters, as on the quotation.",
        length=12,
        group="Prices",
        us="USD",
    )
    tax: float = given(
        0.0,
        "Tax on materials",
        "ratio",
        "Added to all that is bought; prices are without it.",
        "What the buyer pays and gets back from nobody.",
        low=0,
        high=0.5,
        usual=(0, 0.25),
        group="Prices",
    )
    hour_cost: float | None = given(
        None,
        "An hour of one person",
        "price",
        "What it costs the firm, all told. Left empty: hours are counted and not priced.",
        "The firm's books.",
        low=0,
        high=1e4,
        group="Prices",
    )
    short_cost: float | None = given(
        None,
        "Running short of concrete costs",
        "price",
        "A second truck with its least load, or a journey for more bags, and the hours that are "
        "waited. Left empty: an order is told by its odds alone.",
        "The plant's price list; what a crew costs that stands.",
        low=0,
        high=1e5,
        group="Prices",
    )
    prices: Annotated[tuple[PriceGivens, ...], Field(max_length=400), AfterValidator(identified)] = (
        given(
            (),
            "Prices",
            "list",
            "What each item costs. They come from a file as well, or go out in one to be filled in.",
            "Quotations of merchants.",
            group="Prices",
        )
    )
