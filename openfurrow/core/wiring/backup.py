"""With the grid out: what the circuits that are kept on ask, how long it lasts, their feeder."""

import math
from dataclasses import dataclass

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.site.said import Air
from openfurrow.core.wiring.backup_givens import KeptOnGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.service import Leg, wired


@dataclass(frozen=True, kw_only=True)
class Asked:
    """What all circuits ask together, W; ``on_lines_w`` line by line, ``of_line`` who is on which.

    ``running_w`` and ``peak_w`` are what a source of so many even lines must give for the line that
    carries most: the sum of all, or more where they cannot be shared evenly. ``starts`` names what
    starts hardest.
    """

    on_lines_w: tuple[float, ...]
    of_line: tuple[tuple[str, ...], ...]
    whole_w: float
    running_w: float
    peak_w: float
    starts: str
    wh_a_day: float


@dataclass(frozen=True, kw_only=True)
class Backup:
    """``feeder`` goes from the transfer switch to the panel of what is kept on, ``generator`` to it."""

    asked: Asked
    feeder: Leg
    generator: Leg | None

    @property
    def switch_a(self) -> float:
        """What the transfer switch must be good for."""
        return max(self.feeder.breaker_a, 0.0 if self.generator is None else self.generator.breaker_a)

    def hours(self, battery_wh: float) -> float:
        """How long a full battery lasts at the day's mean; with no sun, what turns it counted."""
        mean = self.asked.wh_a_day / 24
        return math.inf if mean <= 0 else battery_wh * constant("common", "battery_out").value / mean


def lines_of(given: WiringGivens, pack: RulePack) -> tuple[int, float]:
    """How many lines there are, and the volts from one of them to the neutral."""
    if any(one.phases == "three phases" for one in given.inverters):
        return 3, given.backup_v / math.sqrt(3)
    return (2, given.backup_v / 2) if pack == "us" else (1, given.backup_v)


def asked_of(circuits: tuple[KeptOnGivens, ...], lines: int) -> Asked:
    """Circuits of one line are shared among the lines as evenly as the largest first makes it."""
    loads, of_line = [0.0] * lines, [list[str]() for _ in range(lines)]
    placed: list[tuple[KeptOnGivens, int | None]] = []
    for one in sorted(circuits, key=lambda each: -each.watts):
        if one.across == "all lines":
            loads = [load + one.watts / lines for load in loads]
            placed.append((one, None))
            continue
        line = min(range(lines), key=lambda at: loads[at])
        loads[line] += one.watts
        of_line[line].append(one.called)
        placed.append((one, line))
    whole = sum(one.watts for one in circuits)
    peaks = [(lines * max(loads), "")]
    for one, at in placed:
        more = one.peak_w - one.watts
        own = max(loads) + more / lines if at is None else loads[at] + more
        peaks.append((max(whole + more, lines * own), one.called))
    most, starts = max(peaks)
    return Asked(
        on_lines_w=tuple(loads),
        of_line=tuple(map(tuple, of_line)),
        whole_w=whole,
        running_w=max(whole, lines * max(loads)),
        peak_w=most,
        starts=starts if most > lines * max(loads) else "",
        wh_a_day=sum(one.watts * one.hours for one in circuits),
    )


def backup_of(site: Air, given: WiringGivens) -> Backup | None:
    """None where nothing is kept on."""
    if not given.backs_up or not given.kept_on:
        return None
    lines, to_neutral = lines_of(given, site.rule_pack)
    asked = asked_of(given.kept_on, lines)
    three, slack = lines == 3, 2 * given.slack_m
    # No less than the largest breaker behind it, or that of the feeder trips first.
    largest = max(one.guard_a for one in given.kept_on)
    lasting = constant(site.rule_pack, "continuous_factor").value
    feeder = wired(
        site,
        given,
        given.backup_v,
        max(max(asked.on_lines_w) / to_neutral, largest / lasting),
        (given.backup_m or 0.0) + slack,
        three=three,
    )
    generator = None
    if given.generator_w is not None:
        amps = given.generator_w / lines / to_neutral
        generator = wired(
            site, given, given.backup_v, amps, (given.generator_m or 0.0) + slack, three=three
        )
    return Backup(asked=asked, feeder=feeder, generator=generator)
