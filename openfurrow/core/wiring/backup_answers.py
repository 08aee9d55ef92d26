"""What is answered of circuits that are kept on, and what would leave them dark or somebody hurt."""

from openfurrow.core.checks import Check, at_least, at_most, holds
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.quantities import spoken
from openfurrow.core.wiring.ac_workings import OHM
from openfurrow.core.wiring.backup import Backup, lines_of
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

STANDBY = {
    "us": Source("NEC 2020, 702.4 and 702.5", "from memory"),
    "metric": Source("IEC 60364-5-551, 551.2 and 551.6", "from memory"),
}
APART = {
    "us": Source(
        "NEC 2020, 725.136: control wires of class 2 keep out of power's conduits", "from memory"
    ),
    "metric": Source("IEC 60364-5-52, 528.1: band I and band II apart", "from memory"),
}


def backup_answers(found: Backup | None, given: WiringGivens, pack: RulePack) -> tuple[Answer, ...]:
    """What runs together, what the hardest start asks, how long a battery lasts, wires and switch."""
    if found is None:
        return ()
    asked, feeder = found.asked, found.feeder
    lines, _ = lines_of(given, pack)
    shared = "; ".join(
        f"line {at}: {', '.join(filter(None, names)) or 'none of its own'}"
        for at, names in enumerate(asked.of_line, start=1)
    )
    return (
        Answer(
            "wiring",
            "kept_running",
            "Kept on, all at once",
            Working(
                "P_r",
                "max(P, n * P_1)",
                (
                    Input("P", "all circuits", asked.whole_w, "power"),
                    Input("n", "lines", float(lines), "count"),
                    Input("P_1", "on the line that carries most", max(asked.on_lines_w), "power"),
                ),
                asked.running_w,
                "power",
                GEOMETRY,
                "A source gives each line its even part. "
                + (f"In the panel {shared}." if lines > 1 else "All on one line."),
            ),
        ),
        Answer(
            "wiring",
            "kept_peak",
            "With the hardest start",
            Working(
                "P_p",
                "",
                (Input("P_r", "all at once", asked.running_w, "power"),),
                asked.peak_w,
                "power",
                GEOMETRY,
                f"{asked.starts} starts while all else runs."
                if asked.starts
                else "Nothing starts hard.",
            ),
        ),
        *_battery_answer(found, given),
        Answer(
            "wiring",
            "backup_wire",
            "Feeder to what is kept on",
            Working(
                "size",
                "",
                (
                    Input(
                        "I",
                        "on the line that carries most, or its largest breaker's",
                        feeder.amps,
                        "current",
                    ),
                    Input("I_b", "its breaker", feeder.breaker_a, "current"),
                    Input("L", "one way with slack", feeder.one_way_m, "run"),
                ),
                "none" if feeder.wire is None else feeder.wire.conductor.label,
                "text",
                OHM,
                f"{feeder.lines} lines and a neutral. A licensed electrician decides where the neutral "
                "is bonded: at one place only, whichever source feeds.",
            ),
        ),
        Answer(
            "wiring",
            "transfer_a",
            "Transfer switch, at least",
            Working(
                "I_t",
                "",
                (
                    Input("I_b", "breaker of the feeder", feeder.breaker_a, "current"),
                    Input(
                        "I_g",
                        "breaker of the generator",
                        0.0 if found.generator is None else found.generator.breaker_a,
                        "current",
                    ),
                ),
                found.switch_a,
                "current",
                STANDBY[pack],
                "It never joins two sources: what feeds back into a dead line kills who works on it.",
            ),
        ),
    )


def _battery_answer(found: Backup, given: WiringGivens) -> tuple[Answer, ...]:
    if given.battery_wh is None:
        return ()
    out = constant("common", "battery_out").value
    return (
        Answer(
            "wiring",
            "backup_hours",
            "A full battery lasts",
            Working(
                "t",
                "24 * E * k / E_d",
                (
                    Input("E", "it gives, full to empty", given.battery_wh, "small_energy"),
                    Input("k", "left of it through the inverter", out, "ratio"),
                    Input("E_d", "used in a day", found.asked.wh_a_day, "small_energy"),
                ),
                found.hours(given.battery_wh),
                "hours",
                COMMON_PRACTICE,
                "At the day's mean and without sun: what the array adds by day is not counted.",
            ),
            True,
        ),
    )


def backup_checks(found: Backup | None, given: WiringGivens, pack: RulePack) -> tuple[Check, ...]:
    """Power, starts, hours, the switch that keeps sources apart, the panel, the generator."""
    if not given.backs_up:
        return ()
    if found is None:
        return (
            holds(
                "wiring",
                "kept_on",
                "It is said what is kept on",
                condition=False,
                measured="no circuit yet",
                wanted="each with its watts",
                remedy="Every circuit that runs with the grid out: what it draws, and as it starts.",
                source=COMMON_PRACTICE,
                given="wiring.kept_on",
            ),
        )
    return (
        *_source_checks(found, given),
        _length_check(given),
        *_switch_checks(found, given, pack),
        *_generator_checks(found, given, pack),
    )


def _length_check(given: WiringGivens) -> Check:
    """Whether anybody has measured the ways: without, wires are as long as their slack alone."""
    away = given.generator_w is not None and given.generator_m is None
    measured = given.backup_m is not None and not away
    return holds(
        "wiring",
        "backup_length",
        "The ways to what is kept on were measured",
        measured,
        "measured" if measured else "nobody has",
        "a length",
        remedy="A tape along the wall, and to the generator: until then nothing is counted as lost "
        "there, and wire for the slack alone.",
        source=COMMON_PRACTICE,
        given="wiring.generator_m" if away and given.backup_m is not None else "wiring.backup_m",
        otherwise="look",
    )


def _source_checks(found: Backup, given: WiringGivens) -> tuple[Check, ...]:
    """What comes from the battery: enough for all, for the hardest start, for as long as is wanted."""
    asked, told = found.asked, []
    for key, title, measured, limit, field, remedy in (
        (
            "backup_power",
            "What is kept on runs from the battery",
            asked.running_w,
            given.battery_w,
            "battery_w",
            "Fewer circuits, one more inverter, or circuits of one line shared more evenly.",
        ),
        (
            "backup_start",
            "The hardest start comes up",
            asked.peak_w,
            given.battery_peak_w,
            "battery_peak_w",
            "A soft starter on that motor, or an inverter that gives more for some seconds.",
        ),
    ):
        if limit is None:
            told.append(_unsaid(key, title, field))
        else:
            told.append(
                at_most(
                    "wiring",
                    key,
                    title,
                    measured,
                    limit,
                    "power",
                    remedy=remedy,
                    source=GEOMETRY,
                    given=f"wiring.{field}",
                )
            )
    if given.battery_wh is None:
        told.append(_unsaid("backup_hours", "It lasts as long as is wanted", "battery_wh"))
    else:
        told.append(
            at_least(
                "wiring",
                "backup_hours",
                "It lasts as long as is wanted",
                min(found.hours(given.battery_wh), 9999.0),
                given.hours_wanted,
                "hours",
                remedy="A larger battery, fewer circuits, or a generator that starts by itself.",
                source=COMMON_PRACTICE,
                given="wiring.battery_wh",
                otherwise="look",
            )
        )
    return tuple(told)


def _unsaid(key: str, title: str, field: str) -> Check:
    return holds(
        "wiring",
        key,
        title,
        condition=False,
        measured="not looked at: nobody has said what the battery gives",
        wanted="said",
        remedy="The data sheet of the inverter that works from it: lasting output, output for some "
        "seconds, and what the battery gives from full to empty.",
        source=COMMON_PRACTICE,
        given=f"wiring.{field}",
        otherwise="look",
    )


def _switch_checks(found: Backup, given: WiringGivens, pack: RulePack) -> tuple[Check, ...]:
    said = given.transfer != "nobody has said"
    told = [
        holds(
            "wiring",
            "transfer",
            "Sources are kept apart by a transfer switch",
            said,
            given.transfer,
            "a switch that joins no two of them",
            remedy="Listed for it, in the inverter or before the panel: what feeds back into a dead "
            "line kills who works on it.",
            source=STANDBY[pack],
            given="wiring.transfer",
        )
    ]
    for key, title, rated, asked, field, remedy in (
        (
            "transfer_rated",
            "The transfer switch bears what goes through it",
            given.transfer_a,
            found.switch_a,
            "transfer_a",
            f"One for {spoken(found.switch_a, 'current')} or more.",
        ),
        (
            "backup_bus",
            "The panel of what is kept on bears its breaker",
            given.backup_bus_a,
            found.feeder.breaker_a,
            "backup_bus_a",
            f"A panel for {spoken(found.feeder.breaker_a, 'current')} or more.",
        ),
    ):
        if rated is None:
            told.append(
                holds(
                    "wiring",
                    key,
                    title,
                    condition=False,
                    measured="not looked at: nobody has read its plate",
                    wanted=spoken(asked, "current"),
                    remedy=remedy,
                    source=STANDBY[pack],
                    given=f"wiring.{field}",
                    otherwise="look",
                )
            )
        else:
            told.append(
                at_least(
                    "wiring",
                    key,
                    title,
                    rated,
                    asked,
                    "current",
                    remedy=remedy,
                    source=STANDBY[pack],
                    given=f"wiring.{field}",
                )
            )
    return tuple(told)


def _generator_checks(found: Backup, given: WiringGivens, pack: RulePack) -> tuple[Check, ...]:
    if given.generator_w is None:
        return ()
    pair = given.generator_starts != "nobody has said"
    # What turns by itself takes it for granted that the engine does.
    waits = given.transfer == "a switch that turns by itself" and given.generator_starts == "by hand"
    return (
        at_least(
            "wiring",
            "generator_power",
            "The generator carries what is kept on, starts too",
            given.generator_w,
            found.asked.peak_w,
            "power",
            remedy="A larger one, or fewer circuits. Where it gives more for some seconds than its "
            "plate says that lasts, its maker tells.",
            source=STANDBY[pack],
            given="wiring.generator_w",
            otherwise="look" if given.generator_w >= found.asked.running_w else "stop",
        ),
        holds(
            "wiring",
            "generator_start",
            "The generator starts as its switch expects",
            pair and not waits,
            given.generator_starts,
            "over its start pair where the switch turns by itself",
            remedy="Two control wires from the transfer switch to the engine, in their own conduit.",
            source=APART[pack],
            given="wiring.generator_starts",
            otherwise="look",
        ),
    )
