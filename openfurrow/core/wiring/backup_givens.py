"""What is kept on when the grid is out: which circuits, from what, and by which switch."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Thing, given, identified

Across = Literal["one line", "all lines"]
Transfer = Literal[
    "nobody has said",
    "inside the inverter",
    "a switch that turns by itself",
    "a switch that is turned by hand",
]
Starts = Literal["nobody has said", "by itself, over a start pair", "by hand"]
# What is asked once something is kept on, and what once a generator stands there.
OF_BACKUP = frozenset(
    {
        "backup_v",
        "kept_on",
        "standby_there",
        "battery_wh",
        "battery_w",
        "battery_peak_w",
        "hours_wanted",
        "transfer",
        "transfer_a",
        "backup_bus_a",
        "backup_m",
        "generator_w",
    }
)
OF_A_GENERATOR = frozenset({"generator_starts", "generator_m"})


class KeptOnGivens(Thing):
    """One circuit that is kept on."""

    name: str = given("", "Circuit", "text", "As it stands in the panel.", "The panel.", length=40)
    across: Across = given(
        "one line",
        "It is on",
        "choice",
        "One line and the neutral: lights, sockets, a fridge. All lines: a pump, a stove.",
        "One pole of its breaker, or several.",
    )
    watts: float = given(
        150.0,
        "Draws while it runs",
        "module_power",
        "What it takes as it runs, not what its breaker would let through.",
        "Its plate, or a meter at the socket.",
        low=0,
        high=1e6,
        usual=(20, 3000),
    )
    start_w: float | None = given(
        None,
        "Draws as it starts",
        "module_power",
        "For the seconds in which a motor comes up; empty where it has none.",
        "Its plate: locked-rotor current times voltage; else three to six times what it draws.",
        low=0,
        high=1e6,
        usual=(300, 12000),
    )
    guard_a: float = given(
        16.0,
        "Its breaker",
        "current",
        "What the feeder must be more than, or it trips first and all is dark.",
        "The panel.",
        low=1,
        high=400,
        usual=(6, 50),
        us=20.0,
    )
    hours: float = given(
        8.0,
        "Runs in a day",
        "hours",
        "All its hours together.",
        "Who lives or works there.",
        low=0,
        high=24,
        usual=(1, 24),
    )

    @property
    def called(self) -> str:
        """Its name."""
        return self.name.strip()

    @property
    def peak_w(self) -> float:
        """As it starts."""
        return self.watts if self.start_w is None else max(self.watts, self.start_w)


KeptOn = Annotated[tuple[KeptOnGivens, ...], Field(max_length=60), AfterValidator(identified)]
GROUP = "When the grid is out"
BACKS_UP = given(
    False,
    "Something is kept on when the grid is out",
    "yes_no",
    "Circuits in a panel of their own, fed from a battery and perhaps a generator past a transfer "
    "switch.",
    "What the owner wants, and pays for.",
    group=GROUP,
)
KEPT_ON = given(
    (),
    "Circuits that are kept on",
    "list",
    "Each with what it draws, also as it starts, and for how long in a day.",
    "The panel, plates of machines, a meter at the socket.",
    group=GROUP,
)
BACKUP_V = given(
    230.0,
    "Voltage there",
    "voltage",
    "From line to line; of one line alone to the neutral.",
    "The panel.",
    low=100,
    high=700,
    usual=(208, 400),
    us=240.0,
    group=GROUP,
)
STANDBY_THERE = given(
    False,
    "Battery and generator are there already",
    "yes_no",
    "Then they are not bought; what they give is said all the same.",
    "A look at them.",
    group=GROUP,
)
BATTERY_WH = given(
    None,
    "Battery gives, full to empty",
    "small_energy",
    "As much as may be taken from it, not what its plate says it holds.",
    "Data sheet, usable energy; all batteries together.",
    low=100,
    high=1e7,
    usual=(5e3, 60e3),
    group=GROUP,
)
BATTERY_W = given(
    None,
    "Gives for long",
    "power",
    "Lasting output of the inverter that works from the battery, with the grid out.",
    "Data sheet, backup or island output.",
    low=100,
    high=1e6,
    usual=(3e3, 20e3),
    group=GROUP,
)
BATTERY_PEAK_W = given(
    None,
    "Gives for some seconds",
    "power",
    "Its output while a motor starts.",
    "Data sheet: surge or peak output, with its seconds.",
    low=100,
    high=1e6,
    usual=(5e3, 40e3),
    group=GROUP,
)
HOURS_WANTED = given(
    12.0,
    "Must last",
    "hours",
    "Without grid, sun or generator.",
    "How long outages are there.",
    low=0.5,
    high=500,
    usual=(6, 72),
    group=GROUP,
)
TRANSFER = given(
    "nobody has said",
    "Transfer switch",
    "choice",
    "What keeps the grid, the battery and a generator apart.",
    "The inverter's data sheet, or the switch before the panel.",
    group=GROUP,
    caution="What feeds back into a dead line kills who works on it. Nothing is kept on over a cord "
    "with two plugs.",
)
TRANSFER_A = given(
    None,
    "Transfer switch rated",
    "current",
    "What it bears for long.",
    "Its plate.",
    low=5,
    high=4000,
    usual=(30, 200),
    group=GROUP,
)
BACKUP_BUS_A = given(
    None,
    "Bus of the panel of what is kept on",
    "current",
    "What it bears.",
    "Its label.",
    low=5,
    high=4000,
    usual=(60, 225),
    group=GROUP,
)
BACKUP_M = given(
    None,
    "From the transfer switch to that panel",
    "run",
    "Along the wall, as the wires go.",
    "A tape along the wall.",
    low=0,
    high=500,
    usual=(1, 15),
    group=GROUP,
)
GENERATOR_W = given(
    None,
    "Generator",
    "power",
    "Its lasting output; empty where there is none.",
    "Its plate.",
    low=300,
    high=1e6,
    usual=(3e3, 30e3),
    group=GROUP,
    caution="Out of doors, off windows and doors: its fumes kill.",
)
GENERATOR_STARTS = given(
    "nobody has said",
    "It starts",
    "choice",
    "By itself: two control wires tell it to, from the transfer switch or the inverter.",
    "Its panel: remote start terminals.",
    group=GROUP,
)
GENERATOR_M = given(
    None,
    "From the generator to the transfer switch",
    "run",
    "As the wires go; the start pair goes as far.",
    "A tape along the wall.",
    low=0,
    high=1000,
    usual=(3, 40),
    group=GROUP,
)
