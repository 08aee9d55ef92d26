"""A run's ends and fittings: joints, couplings, straps, boxes by size, and what goes on inside."""

import math
from dataclasses import dataclass

from openfurrow.core.checks import Check, at_least, holds
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.quantities import spoken
from openfurrow.core.trench.conduit import COLUMNS_OF_SUPPORT, Conduit, Pull, size_conduit
from openfurrow.core.trench.end_givens import ALONG
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Route
from openfurrow.core.working import COMMON_PRACTICE, Answer, Input, Source, Working

INSIDE_METHOD = "thin-wall metal tubing"
BOXES = Source("NEC 2020, 314.28(A)", "from memory")
INSIDE = Source("NEC 2020, 690.31(D): strings in a building run in metal", "from memory")
# Bends under this are warmed into the sticks; sharper ones are bought as sweeps.
SHARP_DEG = 20.0


@dataclass(frozen=True, kw_only=True)
class Fittings:
    """What goes onto one of a run's conduits, and where it goes on inside.

    ``rise_sticks`` come up at both ends together, ``bends`` are bought. ``joints`` are all that are
    made, ``couplings`` those that want one, ``terminals`` what ends in a box, ``straps`` hold it at
    both rises. ``gives`` are fittings that let it settle. ``inside`` is None where nothing goes on.
    """

    rise_sticks: int
    bends: int
    joints: int
    couplings: int
    terminals: int
    straps: int
    gives: int
    cement_m3: float
    inside: Conduit | None
    inside_m: float
    inside_sticks: int
    inside_straps: int


def fittings_of(
    pack: RulePack,
    givens: TrenchGivens,
    route: Route,
    pull: Pull,
    laid: tuple[Conduit, int, int],
    inside_m: float,
) -> Fittings:
    """Fittings of one conduit. ``laid`` is it, its sticks along the way, and the boxes on it.

    ``inside_m`` is how far its strings run on in the building.
    """
    conduit, sticks, boxes = laid
    stick = constant(pack, "stick_m").value
    ups = givens.ups_m
    rise_sticks = math.ceil(sum(up + max(route.cover_m, 0.0) for up in ups) / stick - 1e-9)
    bends = sum(turn >= SHARP_DEG for turn in route.turns_deg)
    terminals = 2 + 2 * boxes
    # Two sweeps turn it up; every box parts it in two.
    pieces = sticks + bends + 2 + rise_sticks
    plain = givens.method == "PVC conduit"
    # Sticks of plastic have a bell, those of rigid steel come with a coupling: bends have neither.
    couplings = pieces - 1 - boxes if givens.method == INSIDE_METHOD else bends + 2
    cement = constant("common", "cement_m3_per_m").value * conduit.outside_m
    joints = pieces - 1 - boxes + terminals
    inside = size_conduit(pack, INSIDE_METHOD, pull, growth=False) if inside_m else None
    # The last of it is flexible, so that what hums and warms does not pull at it.
    tube_m = max(inside_m - constant("common", "flexible_m").value, 0.0)
    return Fittings(
        rise_sticks=rise_sticks,
        bends=bends,
        joints=joints,
        couplings=couplings,
        terminals=terminals,
        straps=sum(_straps(up, _apart_m(pack, givens.method, conduit)) for up in ups),
        gives=2 if plain and not givens.is_over else 0,
        cement_m3=joints * cement if plain else 0.0,
        inside=inside,
        inside_m=inside_m,
        inside_sticks=math.ceil(tube_m / stick - 1e-9),
        inside_straps=_straps(tube_m, _apart_m(pack, INSIDE_METHOD, inside)) if inside else 0,
    )


def _straps(long_m: float, apart_m: float) -> int:
    """One near each end and no further apart than they may be; none of what is not there."""
    return math.ceil(long_m / apart_m - 1e-9) + 1 if long_m > 0 else 0


def _apart_m(pack: RulePack, method: str, conduit: Conduit) -> float:
    data = table(pack, "support")
    return data.number(COLUMNS_OF_SUPPORT[method], data.row("label", conduit.label))


def box_side_m(pack: RulePack, conduit: Conduit, beside: int) -> tuple[float, str]:
    """The side that a pull box for so many conduits beside each other must have, and the one to buy.

    Straight on eight times the trade size; round a corner six times, and the others of that side. The
    rule is of wires from 4 AWG; thinner ones pull as well through as much.
    """
    straight, turned = (constant("common", f"box_{one}").value for one in ("straight", "round"))
    least = max(straight * conduit.trade_m, (turned + beside - 1) * conduit.trade_m)
    sold = table(pack, "pull_box")
    fits = sold.numbers["side_m"] >= least - 1e-9
    label = sold.texts["label"][int(fits.argmax())] if fits.any() else "made to measure"
    return least, label


def end_answers(
    pack: RulePack, fittings: Fittings, conduit: Conduit, conduits: int, boxes: int
) -> tuple[Answer, ...]:
    """How large a box on the way is, and what goes on inside."""
    found = []
    if boxes:
        side, label = box_side_m(pack, conduit, conduits)
        found.append(
            Answer(
                "trench",
                "box_side",
                "A pull box measures at least",
                Working(
                    "a",
                    "max(8 * D, (6 + k - 1) * D)",
                    (
                        Input("D", "trade size", conduit.trade_m, "thickness"),
                        Input("k", "conduits beside each other", float(conduits), "count"),
                    ),
                    side,
                    "tape",
                    BOXES,
                    f"Sold: {label}. Straight on 8 D; round a corner 6 D and the others of that side, "
                    "and 6 D from one conduit to its own on the other side. Covers stay above ground.",
                ),
            )
        )
    if fittings.inside is not None:
        found.append(
            Answer(
                "trench",
                "inside_conduit",
                "On in the building, in metal tubing",
                Working(
                    "size_i",
                    "",
                    (
                        Input("L", "to the inverter", fittings.inside_m, "run"),
                        Input("f", "filled to", fittings.inside.fill, "ratio"),
                    ),
                    fittings.inside.label + (f", {conduits} of them" if conduits > 1 else ""),
                    "text",
                    INSIDE,
                    f"The last {spoken(constant('common', 'flexible_m').value, 'tape')} flexible. "
                    "Marked as wires of strings wherever a hand may come to them. Its bends, and the "
                    "pull through them, are not looked at: a box where it begins.",
                ),
            )
        )
    return tuple(found)


def end_checks(givens: TrenchGivens, snow_m: float) -> tuple[Check, ...]:
    """Whether a run's ends stand over the snow, and its sleeve where concrete comes."""
    clear = constant("common", "over_snow_m")
    found = [
        at_least(
            "trench",
            "ends_snow",
            "Its ends stand above the snow",
            min(givens.ups_m) - snow_m,
            clear.value,
            "tape",
            remedy="Hang both boxes higher, their openings below: snow and melt water get into what it "
            "covers.",
            source=clear.source,
            given="trench.box_up_m" if givens.box_up_m <= givens.rise_up_m else "trench.rise_up_m",
            otherwise="look",
        )
    ]
    if givens.inside_m and givens.is_cable and not givens.is_armoured:
        found.append(
            holds(
                "trench",
                "inside_metal",
                "Strings run in metal in the building",
                False,
                givens.method,
                "metal tubing, or armour",
                remedy="Conduit or armoured cable, or hang the inverter where the rise ends.",
                source=INSIDE,
                given="trench.inside_m",
            )
        )
    if givens.comes_up != ALONG:
        found.append(
            holds(
                "trench",
                "before_pour",
                "Its sleeve stands before what it passes through is poured",
                givens.before_pour != "nobody has said",
                givens.before_pour,
                "set, plugged and braced",
                remedy="Set it with the cage or the form, plugged at both ends, and look at it with "
                "the inspector before concrete or stone comes.",
                source=COMMON_PRACTICE,
                given="trench.before_pour",
                otherwise="look",
            )
        )
    return tuple(found)
