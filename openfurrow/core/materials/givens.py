"""Material givens: what breaks, bends or is cut wrong."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Givens, given, identified
from openfurrow.core.materials.own_profiles import MOST_PROFILES, ProfileGivens
from openfurrow.core.materials.prices import PriceGivens
from openfurrow.core.quantities import INCH_M, either

TRUCK, AXLES = "On the truck", "Axles of the own truck"
OF_AXLES = frozenset(
    {
        "loads_ride_on",
        "axles_apart_m",
        "bed_begins_m",
        "empty_front_kg",
        "empty_rear_kg",
        "front_axle_kg",
        "rear_axle_kg",
    }
)


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
    truck_kg: float | None = given(
        None,
        "The own truck carries",
        "haul",
        "What may be loaded on it, trailer and all. Left empty: one load a day, however heavy.",
        "Its plate: what it may weigh, less what it weighs with its crew.",
        low=100,
        high=40_000,
        usual=(600, 3500),
        group=TRUCK,
    )
    truck_bed_m: float | None = given(
        None,
        "Its bed is long",
        "run",
        "Length that things lie on, along the truck or its trailer.",
        "A tape, the tail gate shut.",
        low=0.5,
        high=16,
        usual=(1.8, 7),
        group=TRUCK,
    )
    truck_over_m: float = given(
        1.0,
        "May stick out behind",
        "run",
        "How far a load may hang over the end.",
        f"Local traffic law: about {either('4 ft', '1 m')} is usual, with a flag.",
        low=0,
        high=5,
        usual=(0, 1.5),
        group=TRUCK,
        us=48 * INCH_M,
        caution="Long things tied down at both ends, a flag by day and a light by night.",
    )
    loads_ride_on: Literal["a truck", "a trailer"] = given(
        "a truck",
        "Loads ride on",
        "choice",
        "Of a trailer the coupling stands for the front axle: too little on it and it swings, too much "
        "and the car behind it sinks.",
        "What fetches the steel.",
        group=AXLES,
    )
    axles_apart_m: float | None = given(
        None,
        "From axle to axle",
        "run",
        "Front axle to the middle of the rear ones; of a trailer from its coupling. Left empty: axles "
        "are not looked at.",
        "A tape along the sill.",
        low=1,
        high=15,
        usual=(2.5, 5),
        group=AXLES,
    )
    bed_begins_m: float | None = given(
        None,
        "Bed begins behind the front axle",
        "run",
        "To the bed's front wall; of a trailer from its coupling.",
        "A tape along the sill.",
        low=0,
        high=12,
        usual=(1, 3),
        group=AXLES,
    )
    empty_front_kg: float | None = given(
        None,
        "Front axle, empty",
        "haul",
        "With the crew and its tools in; of a trailer what it rests on the coupling with.",
        "A weighbridge, the front wheels alone on it.",
        low=0,
        high=20_000,
        usual=(700, 3000),
        group=AXLES,
    )
    empty_rear_kg: float | None = given(
        None,
        "Rear axle, empty",
        "haul",
        "All rear axles together.",
        "A weighbridge, the rear wheels alone on it.",
        low=50,
        high=20_000,
        usual=(600, 3000),
        group=AXLES,
    )
    front_axle_kg: float | None = given(
        None,
        "Front axle may bear",
        "haul",
        "Of a trailer what the coupling, and what it hangs on, may bear.",
        "Its plate; the plate of the tow bar.",
        low=25,
        high=20_000,
        usual=(1000, 4000),
        group=AXLES,
    )
    rear_axle_kg: float | None = given(
        None,
        "Rear axle may bear",
        "haul",
        "All rear axles together.",
        "Its plate.",
        low=100,
        high=40_000,
        usual=(1000, 8000),
        group=AXLES,
    )
    unweighed: float = given(
        0.1,
        "Allowed for small parts",
        "ratio",
        "Added to a load for clamps, bolts, fittings and tools, whose weight the list does not know.",
        "A tenth of what is weighed; tools alone can be more.",
        low=0,
        high=1,
        usual=(0.05, 0.3),
        group=TRUCK,
    )
    modules_a_pallet: int = given(
        30,
        "Modules on a pallet",
        "count",
        "As they come from the merchant.",
        "The merchant's packing list: 26 to 36 are usual.",
        low=1,
        high=100,
        usual=(20, 40),
        group=TRUCK,
    )
    lifter_kg: float | None = given(
        None,
        "What unloads lifts",
        "haul",
        "Fork, tail lift or crane, as far out as it has to reach.",
        "Its plate; the haulier.",
        low=50,
        high=20_000,
        usual=(1000, 3000),
        group=TRUCK,
        caution="Nobody stands under or beside a pallet that is lifted.",
    )
    laydown_m2: float | None = given(
        None,
        "Ground to lay down on",
        "area",
        "Level and firm, where the delivery truck can reach it.",
        "Paced out on the site walk.",
        low=1,
        high=100_000,
        usual=(20, 2000),
        group=TRUCK,
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
    profiles: Annotated[
        tuple[ProfileGivens, ...], Field(max_length=MOST_PROFILES), AfterValidator(identified)
    ] = given(
        (),
        "Own profiles",
        "list",
        "Profiles that a merchant has and the lists have not, steel or aluminium. Each is offered "
        "on Structure wherever its shape serves.",
        "Catalogues of merchants.",
        group="Own profiles",
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
