"""Conductors: what a wire may carry in its place, what it loses on the way."""

import math
from dataclasses import dataclass

from openfurrow.core.codes import RulePack, Table, constant, table


@dataclass(frozen=True)
class Conductor:
    """One size of a rule pack's table.

    ``ampacity_90_a`` is that of two wires that carry current, ``ampacity_three_a`` of three together.
    """

    size: str
    label: str
    copper_mm2: float
    outside_area_m2: float
    resistance_ohm_per_m: float
    ampacity_75_a: float
    ampacity_90_a: float
    ampacity_three_a: float

    @property
    def mass_kg_per_m(self) -> float:
        """Copper, and as much again by volume of insulation at a seventh of its density."""
        copper = self.copper_mm2 * 1e-6
        return copper * 8960 + max(0.0, self.outside_area_m2 - copper) * 1300


# What the strings run in at the array, in the sun, and what goes along every row to the rods.
ARRAY_WIRE: dict[RulePack, str] = {"us": "10 AWG", "metric": "6 mm²"}
TRUNK_WIRE: dict[RulePack, str] = {"us": "12 AWG", "metric": "2.5 mm²"}
BARE_COPPER: dict[RulePack, str] = {"us": "6 AWG", "metric": "16 mm²"}


def warm_factor(pack: RulePack) -> float:
    """What copper's resistance in a pack's table becomes at the heat at which drop is reckoned."""
    per_c, at_c = (constant("common", name).value for name in ("copper_per_c", "drop_at_c"))
    table_c = constant(pack, "resistance_at_c").value
    return (1 + per_c * (at_c - 20)) / (1 + per_c * (table_c - 20))


def conductors(pack: RulePack) -> tuple[Conductor, ...]:
    """All sizes of a pack, smallest first; resistance with the wire warm, alike in both packs."""
    data = table(pack, "conductor")
    numbers = (
        "copper_mm2",
        "outside_area_m2",
        "resistance_ohm_per_m",
        "ampacity_75_a",
        "ampacity_90_a",
        "ampacity_three_a",
    )
    warm = warm_factor(pack)
    found = []
    for row, size in enumerate(data.texts["size"]):
        copper, area, resistance, *amps = (data.number(name, row) for name in numbers)
        label = data.texts["label"][row]
        found.append(Conductor(size, label, copper, area, resistance * warm, *amps))
    return tuple(found)


def conductor(pack: RulePack, size: str) -> Conductor:
    """One size; the smallest listed where ``size`` is smaller still."""
    known = {item.size: item for item in conductors(pack)}
    return known.get(size, conductors(pack)[0])


def bundling_factor(pack: RulePack, loaded: int) -> float:
    """What crowding leaves of the ampacity; beyond the table its last factor."""
    data = table(pack, "bundling")
    fits = data.numbers["conductors_up_to"] >= loaded
    row = int(fits.argmax()) if fits.any() else fits.size - 1
    return data.number("factor", row)


def beside_factor(lines: int, *, in_conduit: bool) -> float:
    """What lines side by side in the ground leave each other; beyond the table its last factor."""
    data = table("common", "beside")
    fits = data.numbers["lines_up_to"] >= lines
    row = int(fits.argmax()) if fits.any() else fits.size - 1
    return data.number("in_conduit" if in_conduit else "as_cable", row)


def heat_factor(pack: RulePack, ambient_c: float) -> float:
    """sqrt((90 - T_a) / (90 - T_ref)), NEC 310.15 and IEC 60364-5-52 alike."""
    limit = constant("common", "conductor_limit_c").value
    reference = constant(pack, "ampacity_reference_c").value
    return math.sqrt((limit - ambient_c) / (limit - reference))


@dataclass(frozen=True)
class Choice:
    """The chosen conductor, and whether ampacity or drop asked for it."""

    conductor: Conductor
    fits: bool
    asked_by: str
    carries_a: float
    drop: float


@dataclass(frozen=True)
class Way:
    """What is lost on: one way of ``one_way_m``, walked ``times``, and ``before_ohm`` besides.

    ``times`` is 2 there and back, sqrt(3) for three phases, whose loss is a share of the volts between
    lines. ``amps`` flow at full power, ``volts`` are what they come with.
    """

    one_way_m: float
    times: float
    before_ohm: float
    amps: float
    volts: float

    def drop(self, conductor_ohm_per_m: float) -> float:
        """Share of the volts lost with a conductor."""
        lost_ohm = self.times * self.one_way_m * conductor_ohm_per_m + self.before_ohm
        return self.amps * lost_ohm / self.volts


def choose(
    pack: RulePack,
    current_a: float,
    way: Way,
    drop_limit: float,
    loaded: int,
    ambient_c: float,
    fuse_a: float,
    *,
    three: bool = False,
    beside: float = 1.0,
) -> Choice:
    """Smallest conductor that carries ``current_a`` where it lies and that its fuse guards.

    That current is 1.25 I_sc of a string, or an inverter's rated output. us: terminals at 75 °C carry
    1.25 of it, and the 90 °C column after heat and crowding carries it (NEC 690.8(B)). metric: the
    ground column after both carries it. ``fuse_a``: a wire whose fuse would let it burn first is too
    small, whatever it may carry. ``three``: three wires of a circuit carry current. ``beside`` is what
    lines side by side leave of it.
    """
    continuous = constant(pack, "continuous_factor").value
    factor = bundling_factor(pack, loaded) * heat_factor(pack, ambient_c) * beside
    sizes = conductors(pack)
    drops = [way.drop(size.resistance_ohm_per_m) for size in sizes]
    placed = [(s.ampacity_three_a if three else s.ampacity_90_a) * factor for s in sizes]
    carries = [min(s.ampacity_75_a / continuous, there) for s, there in zip(sizes, placed, strict=True)]
    able = [
        index
        for index, amps in enumerate(carries)
        if amps >= current_a - 1e-9 and fuse_a <= largest_fuse_a(pack, sizes[index], placed[index])
    ]
    straight = [index for index, drop in enumerate(drops) if drop <= drop_limit + 1e-12]
    both = [index for index in able if index in straight]
    index = both[0] if both else len(sizes) - 1
    asked_by = "ampacity" if able and index == able[0] else "voltage drop"
    return Choice(sizes[index], bool(both), asked_by, carries[index], drops[index])


def largest_fuse_a(pack: RulePack, wire: Conductor, carries_a: float) -> float:
    """The largest fuse that guards a wire which may carry ``carries_a`` where it lies.

    us: the next standard rating above it (NEC 240.4(B)), and no more than 15, 20 and 30 A for 14, 12
    and 10 AWG (240.4(D)). metric: no more than it carries (IEC 60364-4-43, 433.1).
    """
    if pack == "metric":
        return carries_a
    carries_a = min(carries_a, wire.ampacity_75_a)
    small = table("us", "small_conductor")
    if wire.size in small.texts["size"]:
        return min(protection_a(pack, carries_a), small.number("fuse_a", small.row("size", wire.size)))
    return protection_a(pack, carries_a)


def protection_a(pack: RulePack, wanted_a: float) -> float:
    """The next standard fuse at or above ``wanted_a``; the largest listed if none is."""
    ratings: Table = table(pack, "protection")
    fits = ratings.numbers["rating_a"][ratings.numbers["rating_a"] >= wanted_a - 1e-9]
    return float(fits[0]) if fits.size else float(ratings.numbers["rating_a"][-1])


def breaker_a(pack: RulePack, wanted_a: float) -> float:
    """The next standard breaker at or above ``wanted_a``; the largest listed if none is."""
    ratings = table(pack, "breaker").numbers["rating_a"]
    fits = ratings[ratings >= wanted_a - 1e-9]
    return float(fits[0] if fits.size else ratings[-1])


def grounding_conductor(pack: RulePack, fuse_a: float, line: Conductor) -> Conductor:
    """us: NEC Table 250.122 by the fuse. metric: IEC 60364-5-54, as the line up to 16 mm²."""
    if pack == "us":
        data = table("us", "grounding")
        fits = data.numbers["protection_a"] >= fuse_a - 1e-9
        row = int(fits.argmax()) if fits.any() else fits.size - 1
        return conductor("us", data.texts["size"][row])
    if line.copper_mm2 <= 16:
        return line
    half = 16.0 if line.copper_mm2 <= 35 else line.copper_mm2 / 2
    return next(item for item in conductors("metric") if item.copper_mm2 >= half)
