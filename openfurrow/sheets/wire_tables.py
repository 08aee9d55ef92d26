"""Every circuit of the job as one list, from the modules to where it connects, and every sign."""

from collections.abc import Iterator
from dataclasses import dataclass

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words, round_up
from openfurrow.core.wiring.conductors import ARRAY_WIRE, BARE_COPPER, TRUNK_WIRE
from openfurrow.core.wiring.inverters import title
from openfurrow.core.wiring.service import Leg, cut_m
from openfurrow.sheets.models import Column, TableText


@dataclass(frozen=True, kw_only=True)
class WireRow:
    """Alike circuits: from where to where, so many of so many wires, and what each of them is cut at.

    None where that is not reckoned: ``cut_m`` where each is as long as its way is, ``amps`` where none
    flow, ``guard_a`` and ``drop`` where there is none.
    """

    what: str
    begins: str
    ends: str
    circuits: int
    wires: str
    size: str
    ground: str
    cut_m: float | None
    amps: float | None
    guard_a: float | None
    drop: float | None


def wire_rows(plan: Plan) -> Iterator[WireRow]:
    """Array by array what runs at it and in its trench, then what runs in the building."""
    pack, wiring = plan.site.rule_pack, plan.wiring
    step = constant(pack, "tape_step_m").value
    for number, one in enumerate(plan.each()):
        circuit = wiring.circuits[number]
        feed, name = circuit.feed, one.array.name
        strings = feed.outputs is None
        lands = [i for i, n in zip(wiring.given.inverters, wiring.landed[number], strict=True) if n]
        to = ", ".join(title(i) for i in lands) or "no inverter"
        branch = circuit.branch
        yield WireRow(
            what=f"{'Branches' if branch else 'Strings'} of {name}",
            begins="their last inverters" if branch else "their end modules",
            ends="box at the array" if strings or branch else to,
            circuits=circuit.strings.count,
            wires="trunk cable" if branch else "plus and minus",
            size=TRUNK_WIRE[pack] if branch else ARRAY_WIRE[pack],
            ground=BARE_COPPER[pack],
            cut_m=None,
            amps=feed.current_a if branch else circuit.string_a,
            guard_a=feed.protection_a if branch else circuit.fuse_a,
            drop=circuit.array_drop,
        )
        yield WireRow(
            what=f"Trench from {name}",
            begins="box at the array" if strings or branch else to,
            ends=to if strings else "breaker at the building",
            circuits=feed.wires.circuits,
            wires=("armoured, " if feed.armoured else "")
            + ("plus and minus" if strings else f"{feed.wires.lines - 1} lines and a neutral"),
            size=feed.choice.conductor.label,
            ground=feed.grounding.label,
            cut_m=round_up(circuit.one_way_m, step),
            amps=feed.current_a,
            guard_a=feed.protection_a,
            # The list tells each stretch by itself.
            drop=feed.choice.drop - (circuit.array_drop if strings else 0.0),
        )
    service = wiring.service
    named = {one.id: title(one) for one in wiring.given.inverters}
    on = "meeting panel" if service.feeder is not None else connects_at(plan)
    for leg in service.legs:
        if leg.wire is not None:
            yield _in_building(leg, f"Output of {named[leg.inverter]}", (named[leg.inverter], on), pack)
    if service.feeder is not None:
        yield _in_building(service.feeder, "Feeder", ("meeting panel", connects_at(plan)), pack)
    if (backup := wiring.backup) is not None:
        switch, panel = "transfer switch", "panel of what is kept on"
        yield _in_building(backup.feeder, "What is kept on", (switch, panel), pack)
        if backup.generator is not None:
            yield _in_building(backup.generator, "Generator", ("generator", switch), pack)


def connects_at(plan: Plan) -> str:
    """What it is connected to, in a word or two."""
    return {
        "nobody has said": "nobody has said where",
        "a breaker in the panel": "panel",
        "ahead of the main breaker": "service, ahead of the main breaker",
        "a transformer of its own": "transformer",
    }[plan.wiring.given.connects]


def _in_building(leg: Leg, what: str, ends: tuple[str, str], pack: RulePack) -> WireRow:
    assert leg.wire is not None
    return WireRow(
        what=what,
        begins=ends[0],
        ends=ends[1],
        circuits=leg.units,
        wires=f"{leg.lines} lines and a neutral",
        size=leg.wire.conductor.label,
        ground="" if leg.grounding is None else leg.grounding.label,
        cut_m=cut_m(leg, pack),
        amps=leg.amps,
        guard_a=leg.breaker_a,
        drop=leg.drop,
    )


WIRE_HEADS = (
    ("Circuit", False),
    ("From", False),
    ("To", False),
    ("How many", True),
    ("Wires", False),
    ("Size", False),
    ("Ground", False),
    ("Cut at", True),
    ("Carries", True),
    ("Guard", True),
    ("Lost", True),
)


def _said(value: float | None, kind: str, units: UnitSystem) -> str:
    return "" if value is None else format_value(value, kind, units)


def wires_table(plan: Plan, units: UnitSystem) -> TableText:
    """One line a circuit."""
    return TableText(
        key="wires",
        title="Every circuit, from the modules to where it connects",
        columns=tuple(Column(title=head, number=number) for head, number in WIRE_HEADS),
        rows=tuple(
            (
                row.what,
                row.begins,
                row.ends,
                str(row.circuits),
                row.wires,
                row.size,
                row.ground,
                _said(row.cut_m, "run", units),
                _said(row.amps, "current", units),
                _said(row.guard_a, "current", units),
                _said(row.drop, "ratio", units),
            )
            for row in wire_rows(plan)
        ),
        left_out=0,
        note="Carries: what each wire must be good for. Guard: fuse or breaker of each circuit. Lost: "
        "on that stretch alone, at full power.",
    )


def signs_table(plan: Plan, units: UnitSystem) -> TableText:
    """What must stand on what, in the words of the rules."""
    titles = (("Sign", False), ("Where", False), ("How many", True), ("Asked for by", False))
    return TableText(
        key="signs",
        title="Signs, to stand in the weather as long as the job does",
        columns=tuple(Column(title=head, number=number) for head, number in titles),
        rows=tuple(
            (in_words(sign.text, units), in_words(sign.place, units), str(sign.count), sign.clause)
            for sign in plan.wiring.signs
        ),
        left_out=0,
        note="The authority and the utility may ask for more, and for other words."
        + (
            ""
            if plan.wiring.given.connects != "nobody has said"
            else " Where it connects nobody has said: its signs are not here yet."
        ),
    )


def on_wall_tables(plan: Plan, units: UnitSystem) -> tuple[TableText, ...]:
    """What hangs on the wall, from left to right as a tape reads it; none where nothing is said."""
    things = sorted(plan.wiring.given.on_wall, key=lambda one: one.left_m)
    titles = (
        ("What", False),
        ("Left edge", True),
        ("Right edge", True),
        ("Lower edge", True),
        ("Top", True),
    )
    if not things:
        return ()

    def tape(value_m: float) -> str:
        return format_value(value_m, "tape", units)

    return (
        TableText(
            key="on-wall",
            title="From the point, as a tape along the wall reads it",
            columns=tuple(Column(title=head, number=number) for head, number in titles),
            rows=tuple(
                (one.called, *map(tape, (one.left_m, one.right_m, one.bottom_m, one.top_m)))
                for one in things
            ),
            left_out=0,
            note="Heights are over the floor or the ground before it.",
        ),
    )
