"""The job's wires as one line: arrays above, what guards and turns them, and where it all connects."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.conductors import ARRAY_WIRE, BARE_COPPER, conductor
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.inverters import title
from openfurrow.core.wiring.service import Leg
from openfurrow.sheets.marks import Drawing, Mark, area, box, dot, drawing, label, line
from openfurrow.sheets.wire_tables import connects_at

WIDE = 10.0
# Levels of the drawing, from the modules down to the grid.
ARRAY, GUARD, WAY, INVERTER, BREAKER, MEETS, FEEDER, SHUT_OFF, PANEL, METER, GRID = (
    10.0 - step for step in (0.0, 1.3, 2.6, 3.9, 5.2, 5.9, 6.7, 7.7, 8.6, 9.85, 10.5)
)
HALF_WIDE, HALF_HIGH = 0.2, 0.24
# Words stand beside what they speak of, line under line.
ASIDE, NEXT_LINE = 0.32, 0.29
# Beside more columns than this there is room for names alone: the list of wires has the rest.
MOST_TOLD = 3
EARTH_X = 0.25
# How far apart panels on the way to the meter are drawn.
PANEL_STEP = 1.5
# Where what is kept on stands, past the columns of the few inverters that a house has.
KEPT_X = 5.7


@dataclass(frozen=True)
class _Told:
    """How words are written: in whose units, and how many lines there is room for."""

    units: UnitSystem
    lines: int

    def beside(self, x: float, y: float, *words: str) -> list[Mark]:
        """Lines of words to the right of a place, the first level with it."""
        shown = [one for one in words if one][: self.lines]
        top = y + NEXT_LINE * (len(shown) - 1) / 2
        return [
            label(one, (x + ASIDE, top - NEXT_LINE * at), "note", "start")
            for at, one in enumerate(shown)
        ]

    @property
    def names_alone(self) -> bool:
        """Whether there is no room for sizes."""
        return self.lines == 1

    def of(self, value: float, kind: str) -> str:
        """A value with its unit."""
        return format_value(value, kind, self.units)


def _columns(count: int) -> list[float]:
    return [(WIDE - 2 * EARTH_X) * (at + 0.16) / count for at in range(count)]


def one_line_drawing(plan: Plan, units: UnitSystem) -> Drawing:
    """Every array, inverter, breaker and switch once, with what joins them."""
    wiring = plan.wiring
    arrays, inverters = plan.each(), wiring.given.inverters
    told = _Told(units, 3 if max(len(arrays), len(inverters)) <= MOST_TOLD else 1)
    at_arrays = _columns(len(arrays))
    order = _beneath(wiring.landed, at_arrays)
    at_inverters = dict(zip(order, _columns(len(inverters)), strict=True))
    marks: list[Mark] = []
    for number, (one, x) in enumerate(zip(arrays, at_arrays, strict=True)):
        marks += _array(one, wiring.circuits[number], wiring.loads[number].watts, x, told)
        lands = [n for n in order if wiring.landed[number, n]]
        for n in lands:
            marks += _joined(x, at_inverters[n], wiring.circuits[number].feed.outputs is None)
    for n, x in at_inverters.items():
        marks += _inverter(inverters[n], x, told)
    legs = {leg.inverter: leg for leg in wiring.service.legs}
    ends = {inverters[n].id: x for n, x in at_inverters.items() if inverters[n].id in legs}
    if ends:
        marks += _service(plan, ends, told)
    marks += _kept_on(plan, min(ends.values()) if ends else None, told)
    marks += _earth(plan, told)
    return drawing(
        "one-line",
        "One line: every circuit from the modules to where it connects",
        marks,
        low=(-0.3, GRID - 0.7 - _further_down(plan)),
        high=(WIDE, ARRAY + 0.6),
        to_scale=False,
        legend=_legend(plan),
    )


def _beneath(landed: np.ndarray, at_arrays: list[float]) -> list[int]:
    """Inverters in the order of the arrays that they take, so that lines cross least."""
    places = np.array(at_arrays)
    middle = [float(places[column > 0].mean()) if (column > 0).any() else WIDE for column in landed.T]
    return sorted(range(len(middle)), key=lambda n: (middle[n], n))


def _array(one: Plan, circuit: Circuit, watts: float, x: float, told: _Told) -> Iterator[Mark]:
    """An array, what guards its strings there, and its way to the building."""
    feed, strings = circuit.feed, circuit.strings
    pack = one.site.rule_pack
    yield box("one-line-array", x - HALF_WIDE, ARRAY - HALF_HIGH, x + HALF_WIDE, ARRAY + HALF_HIGH)
    yield line(
        "one-line-dc",
        (x - HALF_WIDE, ARRAY - HALF_HIGH),
        (x, ARRAY),
        (x + HALF_WIDE, ARRAY - HALF_HIGH),
    )
    yield from told.beside(
        x,
        ARRAY,
        one.array.name,
        f"{one.rows.module_count} modules, {told.of(watts, 'power')}",
        f"{'branches' if circuit.branch else 'strings'}: {strings.words}",
    )
    yield line("one-line-dc", (x, ARRAY - HALF_HIGH), (x, GUARD))
    if feed.outputs is None:
        yield from _fuse(x, GUARD)
        yield from told.beside(
            x,
            GUARD,
            "" if told.names_alone else _box_words(circuit),
            f"fuses {circuit.fuse_a:.0f} A, switches",
            f"array wire {ARRAY_WIRE[pack]}",
        )
    layer = "one-line-dc" if feed.outputs is None else "one-line-ac"
    yield line(layer, (x, GUARD), (x, INVERTER if feed.outputs is None else WAY))
    wires = feed.wires.circuits * feed.wires.lines
    many = f"{feed.conduits} conduit{'s' * (feed.conduits > 1)}"
    lies = "in the trench" if one.run.conduit is None else many
    size = f"{wires} x {feed.choice.conductor.label}, ground {feed.grounding.label}"
    if one.run.cable is not None:
        size = f"armoured, {feed.conduits} of {one.run.cable.label}"
    yield from told.beside(
        x,
        WAY,
        "" if told.names_alone else size,
        "" if told.names_alone else f"{lies}, {told.of(circuit.one_way_m, 'run')} one way",
    )
    # Two strokes across: it runs in the ground here.
    for y in (WAY - 0.05, WAY + 0.05):
        yield line(layer, (x - 0.1, y - 0.06), (x + 0.1, y + 0.06))


def _box_words(circuit: Circuit) -> str:
    if circuit.joined == 1:
        return "box at the array"
    return f"{circuit.feed.boxes} x combiner of {circuit.joined}"


def _joined(x: float, to: float, strings: bool) -> Iterator[Mark]:
    """From an array's column to that of an inverter that takes it."""
    if strings:
        bend = INVERTER + 0.62
        if x != to:
            yield line("one-line-dc", (x, bend), (to, bend), (to, INVERTER))
    elif x != to:
        bend = WAY - 0.5
        yield line("one-line-ac", (x, WAY), (x, bend), (to, bend), (to, BREAKER))
    else:
        yield line("one-line-ac", (x, WAY), (x, BREAKER))


def _inverter(inverter: InverterGivens, x: float, told: _Told) -> Iterator[Mark]:
    """Direct current on one side of the stroke, alternating on the other."""
    y = GUARD if inverter.at_array else INVERTER
    yield box("one-line-box", x - HALF_WIDE, y - HALF_HIGH, x + HALF_WIDE, y + HALF_HIGH)
    yield line("one-line-ac", (x - HALF_WIDE, y - HALF_HIGH), (x + HALF_WIDE, y + HALF_HIGH))
    each = told.of(inverter.each_w, "power")
    many = f"{inverter.units} x " if inverter.units > 1 and not inverter.behind else ""
    many = "behind each module, " if inverter.behind else many
    volts = f"{inverter.ac_v:.0f} V, {inverter.phases}"
    yield from told.beside(
        x,
        y,
        title(inverter),
        f"{many}{each}",
        volts if inverter.to_panel else "to a battery, which is not drawn",
    )
    if inverter.to_panel and not inverter.at_array:
        yield line("one-line-ac", (x, y - HALF_HIGH), (x, BREAKER))


def _fuse(x: float, y: float) -> Iterator[Mark]:
    yield box("one-line-box", x - 0.09, y - 0.2, x + 0.09, y + 0.2)
    yield line("one-line-dc", (x, y - 0.2), (x, y + 0.2))


def _switch(x: float, y: float, *, breaks: bool) -> Iterator[Mark]:
    """A contact that stands open as it is drawn; a cross where it breaks by itself."""
    yield box("one-line-gap", x - 0.05, y - 0.17, x + 0.05, y + 0.17)
    yield line("one-line-ac", (x, y - 0.2), (x - 0.2, y + 0.15))
    if breaks:
        for side in (-1, 1):
            down, up = y + 0.2 - side * 0.07, y + 0.2 + side * 0.07
            yield line("one-line-ac", (x - 0.08, down), (x + 0.08, up))


def _breaker(leg: Leg, x: float, y: float, told: _Told) -> Iterator[Mark]:
    yield from _switch(x, y, breaks=True)
    many = f"{leg.units} x " if leg.units > 1 else ""
    wire = "" if leg.wire is None else f"{leg.wires} x {leg.wire.conductor.label}"
    lost = f", {told.of(leg.one_way_m, 'run')} one way" if leg.wire is not None else ""
    what = "" if told.names_alone else "breaker "
    yield from told.beside(x, y, f"{many}{what}{leg.breaker_a:.0f} A", f"{wire}{lost}")


def _service(plan: Plan, ends: dict[str, float], told: _Told) -> Iterator[Mark]:
    """From the inverters' outputs, by their ids, to the grid.

    Breakers of a panel sit in it, past the shut-off; ahead of a main breaker and before a transformer
    they come first.
    """
    service, given = plan.wiring.service, plan.wiring.given
    legs, feeder = service.legs, service.feeder
    x, last = min(ends.values()), max(ends.values())
    in_panel = given.connects == "a breaker in the panel"
    apart = service.lands_apart
    for leg in legs:
        at = ends[leg.inverter]
        yield line("one-line-ac", (at, BREAKER), (at, PANEL if apart else MEETS))
        if apart:
            yield from _shut_off(plan, at, FEEDER, told)
        yield from _breaker(leg, at, SHUT_OFF if apart else BREAKER, told)
    if not apart:
        yield line("one-line-ac", (x, MEETS), (x, PANEL))
        if len(legs) > 1 or legs[0].units > 1:
            yield line("one-line-bus", (x - 0.4, MEETS), (max(last, x + 0.4), MEETS))
        if feeder is not None:
            yield from told.beside(x + 0.15, MEETS - 0.24, "panel of their own")
            yield from _breaker(feeder, x, SHUT_OFF if in_panel else FEEDER, told)
    if given.connects == "nobody has said":
        yield dot("one-line-open", (x, PANEL))
        yield from told.beside(x, PANEL, "where it connects nobody has said yet")
        return
    if not apart:
        yield from _shut_off(plan, x, FEEDER if in_panel else SHUT_OFF, told)
    yield line("one-line-bus", (x - 0.4, PANEL), (max(last, x + 0.4) if apart else x + 0.4, PANEL))
    # Words stand under a bus that goes on past them.
    under = 0.5 if last > x and apart else 0.0
    yield from told.beside(x + 0.15, PANEL - under, *_panel_words(plan, told))
    down = _further_down(plan)
    yield line("one-line-ac", (x, PANEL), (x, GRID - down))
    if in_panel:
        yield from _switch(x, PANEL - 0.4, breaks=True)
    yield from _on_the_way(plan, x, told)
    yield dot("one-line-meter", (x, METER - down))
    yield from told.beside(x, METER - down, "meter")
    grid = GRID - down
    yield area("one-line-grid", (x - 0.14, grid), (x + 0.14, grid), (x, grid - 0.3))
    yield from told.beside(x, grid - 0.1, "utility")


def _further_down(plan: Plan) -> float:
    """How much lower the grid is drawn for the panels on the way to it."""
    return PANEL_STEP * len(plan.wiring.service.upstream)


def _on_the_way(plan: Plan, x: float, told: _Told) -> Iterator[Mark]:
    """Panels between the one in which it connects and the meter, each with its feeder above it."""
    given, us = plan.wiring.given, plan.site.rule_pack == "us"
    for number, (one, panel) in enumerate(
        zip(plan.wiring.service.upstream, given.panels, strict=True), start=1
    ):
        y = PANEL - PANEL_STEP * number
        size = panel.feeder_us if us else panel.feeder_metric
        label_of = "" if size == "nobody has looked" else conductor(plan.site.rule_pack, size).label
        long = "" if panel.feeder_m is None else told.of(panel.feeder_m, "run")
        breaker = "" if panel.feeds_a is None else f"{panel.feeds_a:.0f} A"
        unread = panel.bus_a is None or panel.main_a is None
        yield line("one-line-bus", (x - 0.4, y), (x + 0.4, y))
        yield from _switch(x, y + 0.3, breaks=True)
        yield from _switch(x, y - 0.4, breaks=True)
        yield from told.beside(
            x + 0.15,
            y,
            f"feeder {', '.join(filter(None, (breaker, label_of, long))) or 'nobody has looked'}",
            f"{one.name}, {'its label nobody has read' if unread else f'bus {panel.bus_a:.0f} A'}",
            "" if unread else f"main breaker {panel.main_a:.0f} A",
        )


def _shut_off(plan: Plan, x: float, y: float, told: _Told) -> Iterator[Mark]:
    yield from _switch(x, y, breaks=False)
    where = plan.wiring.given.shut_off
    said = "nobody has said where" if where == "nobody has said" else where.split(",")[0]
    yield from told.beside(x, y, f"lockable shut-off, {said}")


def _panel_words(plan: Plan, told: _Told) -> tuple[str, ...]:
    """What it connects to, and what that bears, where somebody has read it."""
    given, rules = plan.wiring.given, plan.wiring.service.rules
    unread = "its label nobody has read"
    match given.connects:
        case "a transformer of its own":
            rated = given.transformer_va
            return ("transformer", unread if rated is None else f"{told.of(rated, 'power')} at one")
        case "ahead of the main breaker":
            main = given.panel_main_a
            return (connects_at(plan), unread if main is None else f"of {main:.0f} A")
    if given.panel_bus_a is None or given.panel_main_a is None:
        return ("panel", unread)
    return (
        f"panel, bus {given.panel_bus_a:.0f} A",
        f"main breaker {given.panel_main_a:.0f} A",
        f"outputs {given.panel_place}" if rules and rules[0].way == "at the far end" else "",
    )


def _kept_on(plan: Plan, panel_x: float | None, told: _Told) -> Iterator[Mark]:
    """What runs with the grid out: from the panel past the transfer switch, or from what stands by."""
    found, given = plan.wiring.backup, plan.wiring.given
    if found is None:
        return
    x, high = KEPT_X, PANEL + 0.46
    if panel_x is not None:
        start = panel_x + 0.3
        yield line("one-line-ac", (start, PANEL), (start, high), (x - 0.3, high))
    # Two sources, and between them a contact that is on one or on the other.
    yield line("one-line-ac", (x + 0.3, high), (x + 0.9, high), (x + 0.9, SHUT_OFF + 0.5))
    for side in (-0.3, 0.3):
        yield dot("one-line-meter", (x + side, high))
    yield line("one-line-ac", (x, high - 0.35), (x + 0.24, high - 0.04))
    yield line("one-line-ac", (x, high - 0.35), (x, PANEL - 0.25))
    yield line("one-line-bus", (x - 0.4, PANEL - 0.25), (x + 0.4, PANEL - 0.25))
    yield from told.beside(
        x + 0.15,
        PANEL - 0.5,
        "kept on when the grid is out",
        f"breaker {found.feeder.breaker_a:.0f} A, {_size(found.feeder)}",
        f"{told.of(found.asked.running_w, 'power')} at once",
    )
    yield from told.beside(x + 0.55, high - 0.2, f"transfer switch {found.switch_a:.0f} A")
    top = SHUT_OFF + 0.5
    yield box("one-line-box", x + 0.7, top, x + 1.1, top + 0.4)
    yield line("one-line-bus", (x + 0.8, top + 0.14), (x + 1.0, top + 0.14))
    yield line("one-line-bus", (x + 0.85, top + 0.26), (x + 0.95, top + 0.26))
    held = given.battery_wh
    yield from told.beside(
        x + 0.85,
        top + 0.2,
        "battery" if held is None else f"battery, {told.of(held, 'small_energy')}",
        *(() if found.generator is None else _generator_words(given, found.generator, told)),
    )


def _size(leg: Leg) -> str:
    return "no wire fits" if leg.wire is None else leg.wire.conductor.label


def _generator_words(given: WiringGivens, leg: Leg, told: _Told) -> tuple[str, str]:
    starts = {"by itself, over a start pair": "starts over its pair", "by hand": "started by hand"}
    said = told.of(given.generator_w or 0.0, "power")
    return f"or generator, {said}, {_size(leg)}", starts.get(given.generator_starts, "")


def _earth(plan: Plan, told: _Told) -> Iterator[Mark]:
    """What is bonded: a line of its own along the edge, from the frames to the rods."""
    x, rods = WIDE - EARTH_X, plan.wiring.earthing.rods
    pack = plan.site.rule_pack
    low = GRID - 0.1 - _further_down(plan)
    yield line("one-line-earth", (x, ARRAY), (x, low))
    for step in range(3):
        half = 0.16 - 0.05 * step
        yield line("one-line-earth", (x - half, low - 0.1 * step), (x + half, low - 0.1 * step))
    many = len(plan.wiring.circuits)
    words = (
        f"bare copper {BARE_COPPER[pack]}, frames to rods",
        f"{rods} rod{'s' * (rods > 1)}{' at each array' if many > 1 else ''}",
    )
    for at, one in enumerate(words):
        yield label(one, (x - 0.25, low + 0.15 - NEXT_LINE * at), "note", "end")


def _legend(plan: Plan) -> tuple[str, ...]:
    """What it does not show."""
    given, found = plan.wiring.given, []
    if any(not one.to_panel for one in given.inverters):
        found.append("What hangs on a battery is not drawn.")
    if max(len(given.inverters), len(plan.wiring.circuits)) > MOST_TOLD:
        found.append("Sizes and lengths stand in the list of wires.")
    found.append("A licensed electrician confirms it before anything is connected.")
    return tuple(found)
