"""Panels between the one in which the job connects and the meter, by their labels and feeders."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.givens import Thing, given, identified

FAR_END: Literal["at the far end of the bus"] = "at the far end of the bus"


class PanelGivens(Thing):
    """One panel, and the feeder from it to the panel before it on the list."""

    name: str = given("", "Panel", "text", "As its door has it.", "The label.", length=40)
    bus_a: float | None = given(
        None,
        "Its bus bears",
        "current",
        "What its bus bars are rated for; not the main breaker.",
        "The label inside its door.",
        low=20,
        high=6000,
        usual=(100, 400),
    )
    main_a: float | None = given(
        None,
        "What guards its bus",
        "current",
        "Its main breaker; where it has none, the breaker that feeds it.",
        "The number on the handle.",
        low=15,
        high=6000,
        usual=(60, 400),
    )
    other_a: float = given(
        0.0,
        "Other sources on it",
        "current",
        "Breakers of what feeds this bus already, together.",
        "The labels in the panel.",
        low=0,
        high=4000,
        usual=(0, 100),
    )
    place: Literal["at the far end of the bus", "anywhere on it"] = given(
        "anywhere on it",
        "The breaker of the feeder sits",
        "choice",
        "At the end away from the main no piece of the bus carries what comes and what comes back.",
        "The panel: which end the main feeds.",
        pack="us",
    )
    loads_a: float | None = given(
        None,
        "All its load breakers together",
        "current",
        "Their ratings added up, the main, the sources and the feeder's breaker left out.",
        "Counted in the open panel, two poles as one.",
        low=0,
        high=10_000,
        usual=(60, 500),
        pack="us",
    )
    feeds_a: float | None = given(
        None,
        "The feeder's breaker",
        "current",
        "In this panel, on the feeder to the panel before it.",
        "The number on its handle.",
        low=15,
        high=6000,
        usual=(40, 200),
    )
    feeder_m: float | None = given(
        None,
        "The feeder is long",
        "run",
        "One way, from panel to panel.",
        "A tape along it; the marks on its jacket.",
        low=0.3,
        high=500,
        usual=(3, 60),
    )
    feeder_us: Literal[
        "nobody has looked",
        "10",
        "8",
        "6",
        "4",
        "3",
        "2",
        "1",
        "1/0",
        "2/0",
        "3/0",
        "4/0",
    ] = given(
        "nobody has looked",
        "Its wire, AWG copper",
        "choice",
        "Of aluminium take the copper that carries as much: two sizes smaller.",
        "The print on its jacket.",
        pack="us",
    )
    feeder_metric: Literal["nobody has looked", "4", "6", "10", "16", "25", "35", "50", "70", "95"] = (
        given(
            "nobody has looked",
            "Its wire, mm² copper",
            "choice",
            "Of aluminium take the copper that carries as much: a size smaller.",
            "The print on its jacket.",
            pack="metric",
        )
    )

    @property
    def called(self) -> str:
        """Its name."""
        return self.name.strip()


Panels = Annotated[tuple[PanelGivens, ...], Field(max_length=8), AfterValidator(identified)]
PANELS = given(
    (),
    "Panels on the way to the meter",
    "list",
    "Those that carry what comes back: first the one that feeds the panel in which it connects, last "
    "the one at the meter.",
    "The feeder at the panel's lugs, followed to the meter.",
    group="Point of connection",
)
