"""What goes from an array to the building: its strings, or the outputs of inverters out there."""

import math
from dataclasses import dataclass

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.site.said import Air
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.conductors import (
    Choice,
    Conductor,
    Way,
    beside_factor,
    breaker_a,
    choose,
    grounding_conductor,
)


@dataclass(frozen=True)
class Outputs:
    """Alike inverters out at an array: how many, what each gives, and how it comes."""

    units: int
    watts: float
    volts: float
    three: bool

    @property
    def current_a(self) -> float:
        """In each line at full output."""
        return self.watts / self.volts / (math.sqrt(3) if self.three else 1.0)


@dataclass(frozen=True)
class Wires:
    """``circuits`` of ``lines`` wires each, ``loaded`` of which carry current."""

    circuits: int
    lines: int
    loaded: int


@dataclass(frozen=True, kw_only=True)
class Feed:
    """The wires that lie in the trench, ``in_conduit`` circuits to each of the ``conduits``.

    ``outputs`` is None where they are strings. ``ambient_c`` is about the conduit. ``protection_a``
    guards one circuit, ``current_a`` is what it has to carry, ``way`` what is lost on it. ``beside``
    are the lines side by side where most lie, others' among them, ``warmed`` what their warmth leaves.
    ``armoured``: each of the ``conduits`` is one cable, all its cores under one armour. ``listed_v`` is
    what its wires are good for, ``indoors_m`` how far they run on past the trench's end.
    ``joined`` strings come together before it.
    """

    outputs: Outputs | None
    wires: Wires
    in_conduit: int
    conduits: int
    ambient_c: float
    current_a: float
    protection_a: float
    way: Way
    choice: Choice
    grounding: Conductor
    beside: int = 1
    warmed: float = 1.0
    armoured: bool = False
    listed_v: float = math.inf
    indoors_m: float = 0.0
    joined: int = 1

    @property
    def boxes(self) -> int:
        """Boxes where the way begins: a combiner for each pair of wires; else one for each conduit, and
        of cables one for as many as it takes."""
        if self.joined > 1:
            return self.wires.circuits
        if not self.armoured:
            return self.conduits
        return math.ceil(self.wires.circuits / constant("common", "circuits_a_box").value)


def conduits_for(circuits: int, trench: TrenchGivens) -> int:
    """How many conduits so many circuits take, or cables where there is no conduit."""
    return math.ceil(circuits / trench.circuits_together)


def crowded(pack: RulePack, circuits: int, loaded: int) -> int:
    """How many wires heat each other: us counts those that carry current, metric circuits as pairs."""
    return circuits * (loaded if pack == "us" else 2)


def string_feed(
    site: Air,
    trench: TrenchGivens,
    strings: int,
    string_a: float,
    way: Way,
    fuse_a: float,
    drop_limit: float,
    beside: int = 1,
) -> Feed:
    """The strings themselves, two wires each, which carry ``string_a``."""
    return _feed(site, trench, None, Wires(strings, 2, 2), string_a, fuse_a, way, drop_limit, beside)


def output_feed(
    site: Air,
    trench: TrenchGivens,
    outputs: Outputs,
    one_way_m: float,
    drop_limit: float,
    beside: int = 1,
) -> Feed:
    """The outputs of inverters at the array, lines and a neutral, each on a breaker of its own.

    Breaker and terminals carry the rated output for hours (NEC 690.8(B), 690.9(B); IEC 60364-4-43).
    Lost by resistance alone, at a power factor of one.
    """
    amps = outputs.current_a
    breaker = breaker_a(site.rule_pack, constant(site.rule_pack, "continuous_factor").value * amps)
    way = Way(one_way_m, math.sqrt(3) if outputs.three else 2.0, 0.0, amps, outputs.volts)
    lines = 3 if outputs.three else 2
    wires = Wires(outputs.units, lines + 1, lines)
    return _feed(site, trench, outputs, wires, amps, breaker, way, drop_limit, beside)


def sun_warms_k(pack: RulePack, trench: TrenchGivens) -> float:
    """How much warmer than the air what lies over the ground in the sun is; nought in a trench."""
    if not trench.is_over:
        return 0.0
    near = trench.over_m < constant(pack, "sun_near_ground_m").value
    return constant(pack, "sun_near_ground_k" if near else "sun_on_conduit_k").value


def _listed_v(pack: RulePack, trench: TrenchGivens, outputs: Outputs | None) -> float:
    """What the wires are listed for, as somebody read it or as is usual."""
    if trench.wire_listed_v is not None:
        return trench.wire_listed_v
    data = table(pack, "wire_volts")
    row = data.row("kind", trench.method if trench.is_cable else "in conduit")
    return data.number("dc_v" if outputs is None else "ac_v", row)


def _feed(
    site: Air,
    trench: TrenchGivens,
    outputs: Outputs | None,
    wires: Wires,
    current_a: float,
    fuse_a: float,
    way: Way,
    drop_limit: float,
    beside: int,
) -> Feed:
    pack, ambient_c = site.rule_pack, site.hottest_temperature_c + sun_warms_k(site.rule_pack, trench)
    in_conduit = min(wires.circuits, trench.circuits_together)
    # What lies over the ground is aired on both sides.
    lines = 1 if trench.is_over else max(beside, conduits_for(wires.circuits, trench))
    warmed = beside_factor(lines, in_conduit=not trench.is_cable)
    choice = choose(
        pack,
        current_a,
        way,
        drop_limit,
        crowded(pack, in_conduit, wires.loaded),
        ambient_c,
        fuse_a,
        three=wires.loaded == 3,
        # Of the us school's table one line stands for all: what warms it is looked at by a check.
        beside=1.0 if pack == "us" else warmed,
    )
    return Feed(
        outputs=outputs,
        wires=wires,
        in_conduit=in_conduit,
        conduits=conduits_for(wires.circuits, trench),
        ambient_c=ambient_c,
        current_a=current_a,
        protection_a=fuse_a,
        way=way,
        choice=choice,
        grounding=grounding_conductor(pack, fuse_a, choice.conductor),
        beside=lines,
        warmed=warmed,
        armoured=trench.is_armoured,
        listed_v=_listed_v(pack, trench, outputs),
    )
