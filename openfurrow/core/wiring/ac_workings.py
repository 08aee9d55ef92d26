"""Workings of alternating current, alike for outputs in the trench and in the building."""

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.working import Input, Source, Working

OHM = Source("Ohm's law over the table's resistance", "physics")
RATED_OUTPUT = Source("NEC 2020, 690.8 and 690.9; IEC 60364-4-43", "from memory")


def breaker_working(pack: RulePack, amps: float, breaker_a: float, where: str) -> Working:
    """The breaker of an output that carries ``amps``."""
    lasting = constant(pack, "continuous_factor").value
    return Working(
        "I_b",
        "",
        (
            Input("I", "rated output in each line", amps, "current"),
            Input("k", "for a load that lasts", lasting, "factor"),
        ),
        breaker_a,
        "current",
        RATED_OUTPUT,
        f"Next standard rating at or above k × I, {where}. What the inverter's maker allows at most "
        "stands on its label.",
    )


def drop_working(
    times: float, amps: float, one_way_m: float, ohm_per_m: float, volts: float, drop: float
) -> Working:
    """What an output loses on one way; ``times`` is 2 there and back, root of three of three phases."""
    return Working(
        "u",
        "f * I * L * r / V",
        (
            Input("f", "there and back, or root of three", times, "factor"),
            Input("I", "rated output in each line", amps, "current"),
            Input("L", "one way with slack", one_way_m, "run"),
            Input("r", "resistance of the wire", ohm_per_m, "line_resistance"),
            Input("V", "output voltage", volts, "voltage"),
        ),
        drop,
        "ratio",
        OHM,
        "By resistance, at a power factor of one. By as much the voltage rises at the inverter: its "
        "maker and the owner of the grid say how far.",
    )
