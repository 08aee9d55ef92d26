"""What follows the wires of the arrays: inverters, their wires in the building, what guards them."""

from collections.abc import Iterator, Mapping
from dataclasses import replace

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.materials.lines import Take
from openfurrow.core.quantities import spoken
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.backup import Backup
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.service import Branches, Leg, Service, cut_m, service_of

STANDS = {
    "at the building": "At the building, on its wall.",
    "at the array": "Out at the array, on its frame.",
    "behind each module": "One behind each module, with a few to spare.",
}
LABELS = Take(
    "wiring",
    "label_set",
    "Label set",
    1.0,
    "count",
    "Box and inverter: live in light, isolate here first; what each says stands with the wires.",
)


def rod_takes(given: WiringGivens, arrays: int) -> tuple[Take, ...]:
    """Rods of every array."""
    long = spoken(given.rod_m, "tape")
    return (
        Take(
            "wiring",
            "rod",
            f"Ground rod with clamp, {long}",
            float(given.rods * arrays),
            "count",
            "Driven fully below grade.",
        ),
    )


def inverter_takes(
    inverters: tuple[InverterGivens, ...], behind: Mapping[str, int]
) -> tuple[Take, ...]:
    """The inverters themselves, alike ones on one line, and a set of labels for each.

    ``behind`` says of entries that stand behind modules how many modules that are.
    """
    return (
        *(
            Take(
                "wiring",
                "inverter",
                f"Inverter, {spoken(one.each_w, 'power')}",
                float(behind.get(one.id, 0) if one.behind else one.units),
                "count",
                STANDS[one.stands],
            )
            for one in inverters
        ),
        replace(LABELS, net=float(len(inverters))),
    )


def service_takes(
    air: Air, given: WiringGivens, bought: tuple[InverterGivens, ...], branches: Branches
) -> tuple[Take, ...]:
    """Breakers and wires of the inverters that are bought, the panel they meet in, the shut-off.

    Nothing before somebody has said where the job connects: a check says so.
    """
    if not any(one.to_panel for one in bought) or given.connects == "nobody has said":
        return ()
    service, ids = service_of(air, given, branches), {one.id for one in bought}
    own = [leg for leg in service.legs if leg.inverter in ids]
    legs = [leg for leg in own if leg.wire is not None]
    met = max(service.amps, service.lands_a)
    switches = [(leg.units, leg.breaker_a) for leg in own] if service.lands_apart else [(1, met)]
    return (
        *(take for leg in legs for take in _circuit_takes(leg, air.rule_pack, "One an output.")),
        *_feeder_takes(service, air.rule_pack),
        *(
            Take(
                "wiring",
                "shut_off",
                f"Switch, AC, lockable, {spoken(amps, 'current')} at least",
                float(count),
                "count",
                "Beside the meter, or where the utility wants it.",
            )
            for count, amps in switches
        ),
    )


def backup_takes(backup: Backup | None, given: WiringGivens, pack: RulePack) -> tuple[Take, ...]:
    """Battery, generator, the feeder of what is kept on, its panel and switch, a start pair."""
    if backup is None:
        return ()
    apart = given.transfer != "inside the inverter"
    switch = Take(
        "wiring",
        "transfer_switch",
        f"Transfer switch, {spoken(backup.switch_a, 'current')} at least",
        1.0,
        "count",
        "Before the panel of what is kept on; it joins no two sources.",
    )
    panel = Take(
        "wiring",
        "backup_panel",
        f"Panel for {len(given.kept_on)} circuits, its bus for "
        f"{spoken(backup.feeder.breaker_a, 'current')} at least",
        1.0,
        "count",
        "Of what is kept on; a bar for the neutral by itself.",
    )
    takes = [*_standby_takes(given), *([switch] if apart else []), panel]
    takes += _circuit_takes(backup.feeder, pack, "Of what is kept on.")
    if backup.generator is not None:
        takes += _circuit_takes(backup.generator, pack, "Of the generator.")
        if given.generator_starts == "by itself, over a start pair":
            takes.append(
                Take(
                    "wiring",
                    "start_pair",
                    "Control wire, two cores, sunlight- and wet-rated",
                    cut_m(backup.generator, pack),
                    "run",
                    "From the transfer switch to the engine, in a conduit of its own.",
                    "cut",
                    pack=constant(pack, "tape_step_m").value,
                )
            )
    return tuple(takes)


def _standby_takes(given: WiringGivens) -> Iterator[Take]:
    """What feeds it when the grid is out, where it is not there already."""
    if given.standby_there:
        return
    if given.battery_wh is not None:
        gives = "" if given.battery_w is None else f", {spoken(given.battery_w, 'power')} at the least"
        yield Take(
            "wiring",
            "backup_battery",
            f"Battery, {spoken(given.battery_wh, 'small_energy')} usable{gives}",
            1.0,
            "count",
            "With its own inverter or charger, listed for it; its weight is on the maker's sheet.",
        )
    if given.generator_w is not None:
        yield Take(
            "wiring",
            "backup_generator",
            f"Generator, {spoken(given.generator_w, 'power')}",
            1.0,
            "count",
            "Out of doors, its exhaust away from doors and windows.",
        )


def _circuit_takes(leg: Leg, pack: RulePack, where: str) -> tuple[Take, ...]:
    """The breaker and the wires of alike outputs."""
    assert leg.wire is not None
    assert leg.grounding is not None
    line, step = leg.wire.conductor, constant(pack, "tape_step_m").value
    each_m = cut_m(leg, pack)
    return (
        Take(
            "wiring",
            "ac_breaker",
            f"Breaker, AC, {leg.breaker_a:.0f} A, {leg.lines} poles",
            float(leg.units),
            "count",
            where,
        ),
        Take(
            "wiring",
            "ac_wire",
            f"Wire {line.label}, building, lines and neutral",
            leg.wires * leg.units * each_m,
            "run",
            "From inverters to where they connect, slack counted.",
            "cut",
            pack=step,
            kg_per_unit=line.mass_kg_per_m,
        ),
        Take(
            "wiring",
            "ac_ground",
            f"Grounding wire {leg.grounding.label}, green, building",
            leg.units * each_m,
            "run",
            "One beside each output.",
            "cut",
            pack=step,
            kg_per_unit=leg.grounding.mass_kg_per_m,
        ),
    )


def _feeder_takes(service: Service, pack: RulePack) -> tuple[Take, ...]:
    """The panel in which outputs meet, and what goes on from it."""
    if service.feeder is None:
        return ()
    breakers = sum(leg.breaker_a * leg.units for leg in service.legs)
    return (
        Take(
            "wiring",
            "meeting_panel",
            f"Panel for {service.outputs} outputs, its bus for {spoken(breakers, 'current')} at least",
            1.0,
            "count",
            "Beside the inverters; no load is put on it.",
        ),
        *_circuit_takes(service.feeder, pack, "Of the feeder."),
    )
