"""Signs: what must stand on which thing, with the numbers of this job in it."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.quantities import spoken
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverters import title
from openfurrow.core.wiring.service import Service


@dataclass(frozen=True)
class Sign:
    """Its words, where it goes, how many of it, and the clause that asks for it."""

    key: str
    text: str
    place: str
    count: int
    clause: str


def signs_of(
    pack: RulePack,
    given: WiringGivens,
    circuits: tuple[Circuit, ...],
    landed: NDArray[np.int64],
    service: Service,
) -> tuple[Sign, ...]:
    """Those of the rules that this job must have, in their order.

    ``landed`` are the strings of each array on each inverter: each says the most volts that it gets.
    """
    strings = [one for one in circuits if one.feed.outputs is None]
    borne_by = service.rules[0].way if service.rules else ""
    whens = {
        "always": True,
        "strings": bool(strings),
        "said": bool(service.legs) and given.connects != "nobody has said",
        "far end": borne_by == "at the far end",
        "all breakers": borne_by == "all breakers",
        "gathered": service.feeder is not None,
        "fed on": bool(service.upstream),
        "backed up": given.backs_up,
        "rapid": given.at_the_building and given.strings_inside == "yes" and given.rapid_shutdown,
    }
    counts = {
        "inverter": sum(1 if one.behind else one.units for one in given.inverters),
        # At both ends, where it can be seen.
        "conduit": 2 * sum(one.conduits for one in strings),
        "connection": 1,
        "upstream": len(service.upstream),
        "switch": service.switches,
    }
    volts = _most_volts(given, circuits, landed)
    filled = {
        "generator": " AND GENERATOR" if given.generator_w is not None else "",
        "ac_a": spoken(service.amps, "current"),
        "ac_v": spoken(service.legs[0].volts if service.legs else 0.0, "voltage"),
    }
    data, spaced_m = table(pack, "sign"), constant(pack, "sign_spacing_m").value
    found = []
    for row in range(len(data.texts["key"])):
        cells = {name: column[row] for name, column in data.texts.items()}
        if not whens[cells["when"]]:
            continue
        # Where inverters get unlike volts each has its own sign.
        each = volts.items() if "{dc_v}" in cells["text"] else [(0, ((), counts[cells["per"]]))]
        for most, (names, count) in each:
            whose = f": {', '.join(names)}" if len(volts) > 1 and names else ""
            text = cells["text"].format(dc_v=f"{most} V", **filled)
            place = cells["place"].format(spaced=spoken(spaced_m, "run"))
            found.append(Sign(cells["key"], text, place + whose, count, cells["clause"]))
    return tuple(found)


def _most_volts(
    given: WiringGivens, circuits: tuple[Circuit, ...], landed: NDArray[np.int64]
) -> dict[int, tuple[tuple[str, ...], int]]:
    """The most volts of strings that come to the building, with the inverters that get them."""
    found: dict[int, tuple[tuple[str, ...], int]] = {}
    for number, inverter in enumerate(given.inverters):
        own = [
            one.coldest_string_v
            for one, strings in zip(circuits, landed[:, number].tolist(), strict=True)
            if strings and one.feed.outputs is None
        ]
        if own:
            # A sign that says less than there may be is worse than none.
            most = math.ceil(max(own))
            names, count = found.get(most, ((), 0))
            found[most] = ((*names, title(inverter)), count + inverter.units)
    return found
