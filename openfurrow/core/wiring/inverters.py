"""Inverters: which array's strings each takes, the volts that follow, and whether all have an input."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.wiring.branches import Branch
from openfurrow.core.wiring.feed import Outputs
from openfurrow.core.wiring.input_rules import Inputs
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.strings import share_inputs
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working

Integers = NDArray[np.int64]
Inverters = tuple[InverterGivens, ...]


@dataclass(frozen=True)
class Volts:
    """What an array's strings must keep to: the least of the most, and the most of the least.

    ``most_of`` and ``least_of`` are the ids of the inverters that ask for it.
    """

    maximum_dc_v: float
    start_v: float
    most_of: str
    least_of: str


@dataclass(frozen=True)
class Load:
    """What one array brings: its strings or branches, their power all together, and the modules.

    Strings that are joined come to an input as one.
    """

    strings: int
    watts: float
    modules: int


def takers(inverters: Inverters, arrays: tuple[str, ...]) -> tuple[tuple[int, ...], ...]:
    """For each array the numbers of the inverters that take it.

    Those that name it; where none does, those that name nothing; where there are none such, all.
    """
    open_to_all = tuple(n for n, one in enumerate(inverters) if not one.takes)
    found = []
    for array in arrays:
        named = tuple(n for n, one in enumerate(inverters) if array in one.takes)
        found.append(named or open_to_all or tuple(range(len(inverters))))
    return tuple(found)


def volts_of(inverters: Inverters, taking: tuple[int, ...]) -> Volts:
    """The limits that hold on whichever of these a string is landed."""
    most = min((inverters[n] for n in taking), key=lambda one: one.maximum_dc_v)
    least = max((inverters[n] for n in taking), key=lambda one: one.start_v)
    return Volts(most.maximum_dc_v, least.start_v, most.id, least.id)


def inputs_at(inverters: Inverters, taking: tuple[int, ...]) -> Inputs:
    """What the inputs stand on whichever of these a string is landed."""
    own = [inverters[n] for n in taking]

    def least(amps: list[float | None]) -> float | None:
        said = [one for one in amps if one is not None]
        return min(said) if len(said) == len(amps) else None

    # Where nobody said it first, then the weakest: that is where a check leads.
    first = min(own, key=lambda one: (one.input_short_a is not None, one.input_short_a or 0.0))
    return Inputs(
        of=first.id,
        joined=min(one.joined for one in own),
        alike=len({one.joined for one in own}) == 1,
        input_a=least([one.input_a for one in own]),
        short_a=least([one.input_short_a for one in own]),
        watched=all(one.arc_fault == "it is listed for it" for one in own),
    )


def outputs_of(inverters: Inverters, taking: tuple[int, ...]) -> Outputs | None:
    """The outputs of the inverters that take an array, where all of them stand out there.

    Unlike ones are told of elsewhere; their wires are those of the largest.
    """
    own = [inverters[n] for n in taking]
    if not all(one.at_array for one in own) or any(one.behind for one in own):
        return None
    largest = max(own, key=lambda one: one.each_w / one.ac_v)
    return Outputs(
        units=sum(one.units for one in own),
        watts=largest.each_w,
        volts=largest.ac_v,
        three=largest.phases == "three phases",
    )


def branch_of(inverters: Inverters, taking: tuple[int, ...]) -> Branch | None:
    """What the inverters behind an array's modules say, where all that take it are such.

    Of several the first: that there are several is told of elsewhere.
    """
    own = [inverters[n] for n in taking]
    if not all(one.behind for one in own):
        return None
    first = own[0]
    return Branch(
        inverter=first.id,
        box_w=first.box_ac_w,
        most=first.branch_most,
        volts=first.ac_v,
        three=first.phases == "three phases",
        guard_a=first.branch_guard_a,
        plug_spacing_m=first.plug_spacing_m,
    )


def inputs_of(
    inverters: Inverters, taking: tuple[tuple[int, ...], ...], fewest: tuple[int, ...]
) -> tuple[int, ...]:
    """How many inputs each array may take, of every inverter its part by its ``fewest`` strings."""
    found = [0] * len(fewest)
    for number, inverter in enumerate(inverters):
        own = [array for array, those in enumerate(taking) if number in those]
        if own:
            # An array on several inverters brings to each its part.
            parts = tuple(-(-fewest[array] // len(taking[array])) for array in own)
            for array, share in zip(own, share_inputs(parts, inverter.takes_strings), strict=True):
                found[array] += share
    return tuple(found)


def given_to(
    strings: tuple[int, ...], taking: tuple[tuple[int, ...], ...], inputs: tuple[int, ...]
) -> Integers:
    """Strings of each array on each inverter, (arrays, inverters): evenly by the inputs that are free.

    Arrays with the fewest to choose from come first. What finds no input is left out of the count.
    """
    landed = np.zeros((len(strings), len(inputs)), dtype=np.int64)
    free = np.array(inputs, dtype=np.int64)
    for array in sorted(range(len(strings)), key=lambda one: (len(taking[one]), one)):
        there = np.array(taking[array])
        room = free[there]
        count = min(strings[array], int(room.sum()))
        share = count * room / max(1, room.sum())
        given = np.floor(share + 1e-9).astype(np.int64)
        # What rounding left goes where the most is missing.
        order = np.argsort(-(share - given), kind="stable")
        given[order[: count - int(given.sum())]] += 1
        landed[array, there] = given
        free[there] -= given
    return landed


def shares_on(
    inverters: Inverters, loads: tuple[Load, ...], landed: Integers
) -> tuple[tuple[float, float], ...]:
    """The power of the modules on each inverter, and what that gives at most.

    One that is alone has to take them all.
    """
    found = []
    for number, inverter in enumerate(inverters):
        on = [
            1.0 if len(inverters) == 1 else int(count) / load.strings if load.strings else 0.0
            for load, count in zip(loads, landed[:, number], strict=True)
        ]
        watts = sum(part * load.watts for part, load in zip(on, loads, strict=True))
        modules = sum(part * load.modules for part, load in zip(on, loads, strict=True))
        found.append((watts, inverter.rated_w(max(1, round(modules)))))
    return tuple(found)


def inverter_answers(
    inverters: Inverters, loads: tuple[Load, ...], landed: Integers
) -> tuple[Answer, ...]:
    """What each inverter takes, and how the modules suit it."""
    found = []
    shares = shares_on(inverters, loads, landed)
    for number, (inverter, (watts, rated_w)) in enumerate(zip(inverters, shares, strict=True)):
        mark, whose = ("", "") if len(inverters) == 1 else (f"_{inverter.id}", f", {title(inverter)}")
        if len(inverters) > 1 and not inverter.behind:
            found.append(
                Answer(
                    "wiring",
                    f"landed{mark}",
                    f"{'Joined pairs' if inverter.joined > 1 else 'Strings'} on {title(inverter)}",
                    Working(
                        "n",
                        "",
                        (Input("i", "its inputs", float(inverter.inverter_inputs), "count"),),
                        float(landed[:, number].sum()),
                        "count",
                        GEOMETRY,
                        "Given evenly to the inverters that take them, by their inputs.",
                    ),
                    True,
                )
            )
        found.append(
            Answer(
                "wiring",
                f"ratio{mark}",
                f"Modules over inverter{whose}",
                Working(
                    "r",
                    "P / P_ac",
                    (
                        Input("P", "modules on it", watts, "power"),
                        Input("P_ac", "inverter output", rated_w, "power"),
                    ),
                    watts / rated_w,
                    "factor",
                    COMMON_PRACTICE,
                    "1.1 to 1.35 is usual.",
                ),
            )
        )
    return tuple(found)


def title(inverter: InverterGivens) -> str:
    """What an inverter is called."""
    return inverter.name.strip() or f"inverter {inverter.id}"


MORE_INPUTS = "More inputs or inverters, or strings joined at a fused combiner."


def inverter_checks(
    inverters: Inverters, arrays: tuple[str, ...], loads: tuple[Load, ...], landed: Integers
) -> tuple[Check, ...]:
    """Whether every string has an input, every inverter suits, and none takes what is not there."""
    ratios = [watts / rated_w for watts, rated_w in shares_on(inverters, loads, landed)]
    worst = inverters[int(np.argmax(ratios))]
    return (
        _room_check(inverters, sum(load.strings for load in loads), landed),
        within(
            "wiring",
            "ratio",
            "Modules suit the inverter",
            max(ratios),
            constant("common", "dc_over_ac"),
            "factor",
            most=True,
            remedy="More inverter, or fewer modules: the top of the day would be thrown away.",
            given=f"wiring.inverters.{worst.id}.{'box_ac_w' if worst.behind else 'inverter_ac_w'}",
            otherwise="look",
        ),
        *_taken_check(inverters, arrays),
        *_place_check(inverters, arrays),
        *_idle_check(inverters, landed),
    )


def _room_check(inverters: Inverters, strings: int, landed: Integers) -> Check:
    """Of one inverter strings against inputs; of several those that found none."""
    alone = len(inverters) == 1 and not inverters[0].behind
    return at_most(
        "wiring",
        "inputs",
        "Every string has an input",
        float(strings if alone else strings - landed.sum()),
        float(inverters[0].inverter_inputs) if alone else 0.0,
        "count",
        remedy=MORE_INPUTS,
        source=COMMON_PRACTICE,
        given=f"wiring.inverters.{inverters[0].id}.inverter_inputs" if alone else "wiring.inverters",
    )


def _place_check(inverters: Inverters, arrays: tuple[str, ...]) -> tuple[Check, ...]:
    """Where any stands out at an array: that it takes that one alone, beside none of another kind."""
    if not any(one.at_array for one in inverters):
        return ()
    words, taking = [], takers(inverters, arrays)
    for number, one in enumerate(inverters):
        count = sum(number in those for those in taking)
        if one.at_array and not one.to_panel:
            words.append(f"{title(one)} charges a battery out there, and nothing goes on from it")
        if one.at_array and not one.behind and count > 1:
            words.append(f"{title(one)} stands at one array and takes {count}")
    for those in taking:
        own = [inverters[n] for n in those]
        if len({one.at_array for one in own}) > 1:
            words.append(
                f"{title(own[0])} and {title(own[-1])} take one array from both ends of its way"
            )
        elif any(one.behind for one in own) and len(own) > 1:
            words.append(f"{title(own[0])} and {title(own[-1])} both stand behind the same modules")
        elif own[0].at_array and len({(one.ac_v, one.phases) for one in own}) > 1:
            words.append(f"{title(own[0])} and {title(own[-1])} of one array give unlike outputs")
    return (
        holds(
            "wiring",
            "stands",
            "Inverters out at the arrays stand each at its own",
            not words,
            "; ".join(words[:2]) or "each at its own",
            "one array each, alike outputs",
            remedy="Name the one array that each takes; all of an array's at the array, or all at the "
            "building.",
            source=COMMON_PRACTICE,
            given="wiring.inverters",
        ),
    )


def _taken_check(inverters: Inverters, arrays: tuple[str, ...]) -> tuple[Check, ...]:
    """Nothing where each array is named by an inverter, or one takes what is left."""
    gone = [title(one) for one in inverters if set(one.takes) - set(arrays)]
    named = {array for one in inverters for array in one.takes}
    left = [] if any(not one.takes for one in inverters) else [a for a in arrays if a not in named]
    words = [f"{name}: takes an array that is gone" for name in gone]
    words += [f"{len(left)} of the arrays are taken by none"] if left else []
    if not words:
        return ()
    return (
        holds(
            "wiring",
            "taken",
            "Every array is taken by an inverter that is there",
            False,
            "; ".join(words[:3]),
            "each array by one",
            remedy="Say which arrays each inverter takes; one that names none takes what is left.",
            source=COMMON_PRACTICE,
            given="wiring.inverters",
        ),
    )


def _idle_check(inverters: Inverters, landed: Integers) -> tuple[Check, ...]:
    """Nothing where every one of several inverters has strings."""
    idle = [title(one) for number, one in enumerate(inverters) if not landed[:, number].sum()]
    if not idle or len(inverters) == 1:
        return ()
    return (
        holds(
            "wiring",
            "idle",
            "Every inverter has strings",
            False,
            ", ".join(idle[:3]) + ": none",
            "some on each",
            remedy="Say which arrays it takes, or take it out.",
            source=COMMON_PRACTICE,
            given="wiring.inverters",
            otherwise="look",
        ),
    )
