"""Wiring givens: strings to an inverter at the building."""

from openfurrow.core.givens import Givens, given


class WiringGivens(Givens):
    """The inverter's limits and how much may be lost on the way."""

    maximum_dc_v: float = given(
        600.0, "Most volts at the inverter", "voltage", "The input voltage never to be exceeded.",
        "Inverter data sheet, and the limit for the building.", low=50, high=1500,
        usual=(500, 1000),
        caution="A string is live as soon as light falls on it. Covers on, connectors apart, "
        "and a licensed electrician for the landing.",
    )
    start_v: float = given(
        150.0, "Least volts to run", "voltage", "Lower end of the tracking range.",
        "Inverter data sheet.", low=20, high=1000, usual=(80, 400),
    )
    inverter_ac_w: float = given(
        12500.0, "Inverter output", "power", "Rated AC power of all inverters together.",
        "Inverter data sheet.", low=100, high=5e7, usual=(3000, 100000),
    )
    inverter_inputs: int = given(
        3, "String inputs", "count", "Strings the inverters take, all together.",
        "Inverter data sheet.", low=1, high=5000, usual=(2, 12),
    )
    drop_limit: float = given(
        0.02, "Voltage drop aimed at", "ratio", "Share of the string's voltage lost on the way.",
        "2 % is usual, 3 % is tolerated.", low=0.001, high=0.1, usual=(0.01, 0.03),
    )
    slack_m: float = given(
        1.5, "Slack at each end", "tape", "Wire left over for landing and for a mistake.",
        "1.5 m (5 ft) at each end.", low=0, high=20, usual=(1, 3),
    )
