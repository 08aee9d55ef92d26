"""Schedule givens: who works when, how fast, what comes when, and what is held to a day."""

from datetime import date, timedelta
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, ValidationInfo, field_validator

from openfurrow.core.givens import Givens, Thing, given, identified
from openfurrow.core.quantities import MILE_PER_HOUR_M_S, either

WorksOn = Literal["Monday to Friday", "Monday to Saturday", "every day"]
PostMachine = Literal["small machine with a hammer", "tracked rig"]
BoreMachine = Literal["loader with an auger", "two-person auger"]
DigMachine = Literal["small excavator", "by hand"]
Comes = Literal[
    "posts and frame",
    "modules",
    "conduit and wire",
    "inverter",
    "post driver",
    "small excavator",
    "auger",
    "concrete",
]
# More days off than this are a slip of the pen.
MOST_OFF = 366
# One day of a forecast: the day, the coldest and the strongest wind while people work.
ForecastDay = tuple[
    date,
    Annotated[float, Field(ge=-60, le=60)],
    Annotated[float, Field(ge=0, le=100)],
]


def _each_day_once(days: tuple[ForecastDay, ...]) -> tuple[ForecastDay, ...]:
    """In their order. Raises ValueError where a day comes twice."""
    said = [day for day, _, _ in days]
    twice = next((day for day in said if said.count(day) > 1), None)
    if twice:
        raise ValueError(f"{twice.isoformat()} comes twice: keep the newer forecast of it")
    return tuple(sorted(days))


class DeliveryGivens(Thing):
    """When something is on site that work waits for."""

    what: Comes = given(
        "posts and frame",
        "What comes",
        "choice",
        "Nothing that needs it begins before.",
        "The merchant's order; the hire firm.",
    )
    arrives: date | None = given(
        None, "There from", "date", "The first day on which it can be used.", "The confirmation."
    )
    leaves: date | None = given(
        None,
        "There until",
        "date",
        "The last day on which it can be used; of what is hired. Left empty: it stays.",
        "The hire contract.",
    )


class DayOffGivens(Thing):
    """Days on which nobody works."""

    first: date | None = given(None, "From", "date", "The first day off.", "The crew's calendar.")
    last: date | None = given(
        None, "Until", "date", "The last day off. Left empty: the first alone.", "The crew's calendar."
    )
    why: str = given("", "Why", "text", "Holiday, other job.", "The crew's calendar.", length=80)

    @field_validator("last")
    @classmethod
    def _after_the_first(cls, last: date | None, info: ValidationInfo) -> date | None:
        first = info.data.get("first")
        if last is not None and first is not None and not 0 <= (last - first).days <= MOST_OFF:
            raise ValueError(f"is before the first day, or more than {MOST_OFF} days after it")
        return last

    @property
    def days(self) -> tuple[date, ...]:
        """Every day of it; one that is said alone is the only one."""
        first, last = self.first or self.last, self.last or self.first
        if first is None or last is None:
            return ()
        return tuple(first + timedelta(days=k) for k in range((last - first).days + 1))


class LockGivens(Thing):
    """A task that begins on a day, whatever else would be earlier."""

    task: str = given(
        "", "Which task", "text", "By its name in the list of tasks.", "The list below.", length=80
    )
    day: date | None = given(
        None, "Begins on", "date", "The day it begins, neither before nor after.", "What was promised."
    )


def _rate(label: str, kind: str, meaning: str) -> Any:
    """A rate that a crew knows of itself; left empty, the table's for the soil and the machine."""
    return given(
        None,
        label,
        kind,
        f"{meaning} Left empty: common practice for machine and soil.",
        "The crew's own book of the last jobs.",
        low=0.01,
        high=2000,
        group="Rates",
    )


class ScheduleGivens(Givens):
    """When the job may be worked, by whom and how fast."""

    start_date: date | None = given(
        None,
        "First day",
        "date",
        "Nothing is done before. Left empty: the day digging starts.",
        "When the crew is free.",
        group="Calendar",
    )
    works_on: WorksOn = given(
        "Monday to Friday",
        "Works on",
        "choice",
        "Days of the week that are worked.",
        "The crew; the neighbours.",
        group="Calendar",
    )
    day_starts_h: float = given(
        7.5,
        "Work begins at",
        "clock",
        "Local clock. Before sunrise and after sunset nobody works.",
        "The crew; what the drive takes.",
        low=4,
        high=12,
        usual=(6, 9),
        group="Calendar",
    )
    hours_a_day: float = given(
        8.0,
        "Hours of work a day",
        "hours",
        "Without the pauses.",
        "The crew.",
        low=1,
        high=14,
        usual=(6, 10),
        group="Calendar",
    )
    days_off: Annotated[tuple[DayOffGivens, ...], Field(max_length=100), AfterValidator(identified)] = (
        given(
            (),
            "Days off",
            "list",
            "Days on which nobody works.",
            "Public holidays are not known here: say them.",
            group="Calendar",
        )
    )
    people: int = given(
        3,
        "People in the crew",
        "count",
        "Who is there every day. A task that is usually done by more takes longer.",
        "Two lift a module; three are usual.",
        low=1,
        high=40,
        usual=(2, 6),
        group="Crew",
    )
    post_machine: PostMachine = given(
        "small machine with a hammer",
        "Posts are driven by",
        "choice",
        "One of them.",
        "What can be hired and gets through the gate.",
        group="Crew",
    )
    bore_machine: BoreMachine = given(
        "loader with an auger",
        "Bores are made by",
        "choice",
        "One of them, where footings are poured.",
        "What can be hired and gets through the gate.",
        group="Crew",
    )
    dig_machine: DigMachine = given(
        "small excavator",
        "The trench is dug by",
        "choice",
        "Near buried lines it is dug by hand whatever is said here.",
        "What can be hired and gets through the gate.",
        group="Crew",
    )
    stake_per_h: float | None = _rate("Stakes set out", "per_hour", "Posts an hour, by two.")
    drive_per_h: float | None = _rate("Posts driven", "per_hour", "Posts an hour, by the whole gang.")
    boxes_per_h: float | None = _rate("Boxes filled", "per_hour", "Set and filled an hour, by three.")
    piles_per_h: float | None = _rate(
        "Piles laid", "per_hour", "Piles of blocks an hour, levelled and laid by two."
    )
    bore_per_h: float | None = _rate("Bores", "per_hour", "Bores an hour, by the whole gang.")
    screws_per_h: float | None = _rate("Screws", "per_hour", "Screws turned in an hour, by three.")
    stand_per_h: float | None = _rate("Posts stood", "per_hour", "Stood and braced an hour, by three.")
    pour_per_h: float | None = _rate("Piers poured", "per_hour", "From a truck, an hour, by three.")
    bags_per_h: float | None = _rate("Bags mixed", "per_hour", "Mixed and poured an hour, by three.")
    frame_per_h: float | None = _rate("Frame", "per_hour", "Modules' worth of frame an hour, by three.")
    modules_per_h: float | None = _rate("Modules set", "per_hour", "Modules an hour, by three.")
    strings_per_h: float | None = _rate("Strings plugged", "per_hour", "Strings an hour, by two.")
    dig_m_per_h: float | None = _rate("Trench by machine", "pace", "Length of trench an hour.")
    hand_dig_m_per_h: float | None = _rate("Trench by hand", "pace", "Length an hour, by one.")
    joints_per_h: float | None = _rate("Conduit joints", "per_hour", "Joints glued an hour, by two.")
    pull_m_per_h: float | None = _rate("Wires pulled", "pace", "Circuits times way an hour, by three.")
    backfill_m_per_h: float | None = _rate("Backfill", "pace", "Length of trench an hour.")
    restore_m2_per_h: float | None = _rate(
        "Ground put back", "area_pace", "Raked, seeded and strawed an hour, by two."
    )
    cover_m2_per_h: float | None = _rate(
        "Ground covered", "area_pace", "Cloth pinned and stone spread an hour, by two."
    )
    fence_m_per_h: float | None = _rate(
        "Fence put up", "pace", "Posts set, mesh strained, gates hung: length an hour, by three."
    )
    inverter_h: float | None = _rate("Hours an inverter", "hours", "To hang, land and test one.")
    notice_days: int = given(
        1,
        "Inspector's notice",
        "count",
        "Working days from when a thing is ready to be looked at until somebody comes.",
        "The authority; the day after it is asked for at best.",
        low=0,
        high=30,
        usual=(1, 5),
        group="Holds",
    )
    bores_seen: bool = given(
        True,
        "Open bores are inspected",
        "yes_no",
        "Somebody looks at them before concrete comes.",
        "The authority.",
        group="Holds",
    )
    pour_least_c: float = given(
        4.0,
        "No pouring below",
        "temperature",
        "Air at which concrete is not poured without covers and heat.",
        f"About {either('40 °F', '4 °C')} is usual.",
        low=-20,
        high=20,
        usual=(0, 8),
        group="Holds",
        us=(40 - 32) * 5 / 9,
    )
    lift_wind_m_s: float = given(
        9.0,
        "No lifting above",
        "speed",
        "Wind at which nobody lifts a module or a beam.",
        "Common practice: a fresh breeze takes a module out of two people's hands.",
        low=2,
        high=20,
        usual=(6, 12),
        group="Holds",
        us=20 * MILE_PER_HOUR_M_S,
    )
    glue_least_c: float = given(
        4.0,
        "No gluing below",
        "temperature",
        "Air at which conduit glue no longer sets.",
        f"The can; about {either('40 °F', '4 °C')} is usual.",
        low=-20,
        high=20,
        usual=(0, 8),
        group="Holds",
        us=(40 - 32) * 5 / 9,
    )
    forecast: Annotated[
        tuple[ForecastDay, ...], Field(max_length=120), AfterValidator(_each_day_once)
    ] = given(
        (),
        "Forecast",
        "forecast",
        "One day a line: date, coldest while at work, strongest wind.",
        "The weather service, typed or pasted on the eve.",
        group="Holds",
    )
    deliveries: Annotated[
        tuple[DeliveryGivens, ...], Field(max_length=60), AfterValidator(identified)
    ] = given(
        (),
        "Deliveries and hire",
        "list",
        "What comes when, and until when it is hired.",
        "Confirmations: deliveries come when they come.",
        group="Holds",
    )
    locks: Annotated[tuple[LockGivens, ...], Field(max_length=60), AfterValidator(identified)] = given(
        (),
        "Held to a day",
        "list",
        "Tasks that begin on a day that was promised.",
        "The electrician's, the crane's, the customer's day.",
        group="Holds",
    )

    def off(self) -> frozenset[date]:
        """Every day off."""
        return frozenset(day for one in self.days_off for day in one.days)
