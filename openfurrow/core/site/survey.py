"""What was shot on site: readings as they were taken, and the points they become."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import Field, model_validator

from openfurrow.core.givens import Thing, given

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]

MOST_READINGS = 5000
Far = Annotated[float, Field(ge=-100_000, le=100_000)]
Code = Annotated[str, Field(max_length=40)]
Reading = tuple[Far, Far, Far, Code]
Way = Literal["levels", "rod readings", "tape and level"]


class SurveyGivens(Thing):
    """One sitting with tape, rod, level or receiver.

    A reading is three numbers and a word. ``levels``: east, north, level. ``rod readings``: east,
    north, what the rod read. ``tape and level``: chainage along the line, offset to its right, rise
    over its start.
    """

    name: str = given(
        "shots",
        "Name",
        "text",
        "What this sitting is called.",
        "The page of the book it stands on.",
        length=80,
    )
    way: Way = given(
        "levels",
        "Taken as",
        "choice",
        "levels: east, north, level. rod readings: east, north, rod. tape and level: chainage, "
        "offset right, rise over the line's start.",
        "How the book was kept.",
    )
    benchmark_m: float = given(
        0.0,
        "Level of the benchmark",
        "coordinate",
        "What the benchmark's level is called; every sitting must use the same datum.",
        "A nail, a slab corner, a well cap that will still be there; 100.00 is often used.",
        low=-500,
        high=6000,
        usual=(0, 100),
    )
    backsight_m: float = given(
        1.5,
        "Rod on the benchmark",
        "coordinate",
        "Rod reading on the benchmark: the line of sight over it.",
        "The first reading after setting up.",
        low=-2,
        high=10,
        usual=(0.5, 3),
    )
    start_east_m: float = given(
        0.0,
        "Line starts, east",
        "coordinate",
        "East of the line's start.",
        "Tape or receiver.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
    )
    start_north_m: float = given(
        0.0,
        "Line starts, north",
        "coordinate",
        "North of the line's start.",
        "Tape or receiver.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
    )
    start_level_m: float = given(
        0.0,
        "Level of the start",
        "coordinate",
        "Level of the ground at the line's start.",
        "From the benchmark.",
        low=-500,
        high=6000,
        usual=(0, 100),
    )
    bearing_deg: float = given(
        0.0,
        "Line runs toward",
        "bearing",
        "True bearing of the line.",
        "Compass plus declination, or from two known places.",
        low=0,
        high=360,
        usual=(0, 360),
    )
    left_out: Annotated[tuple[int, ...], Field(max_length=MOST_READINGS)] = given(
        (),
        "Left out",
        "numbers",
        "Numbers of readings that are not used: shot again, misread, on a stump.",
        "Those marked on the plan as off their neighbours.",
    )
    readings: Annotated[tuple[Reading, ...], Field(max_length=MOST_READINGS)] = given(
        (),
        "Readings",
        "readings",
        "One a line: three lengths and, if there is one, a code. Shots of one code that begins with "
        "break are joined: the ground bends along that line.",
        "The field book, or pasted from a file.",
    )
    faces: Annotated[tuple[tuple[int, int, int], ...], Field(max_length=2 * MOST_READINGS)] = ()

    @model_validator(mode="after")
    def _faces_point_at_readings(self) -> "SurveyGivens":
        if self.faces:
            lowest, highest = min(map(min, self.faces)), max(map(max, self.faces))
            if lowest < 0 or highest >= len(self.readings):
                raise ValueError("faces name a reading that is not there")
        return self

    def shown(self) -> frozenset[str]:
        """Only what this way of measuring needs."""
        always = {"name", "way", "left_out", "readings"}
        return frozenset(
            always
            | {
                "levels": set(),
                "rod readings": {"benchmark_m", "backsight_m"},
                "tape and level": {"start_east_m", "start_north_m", "start_level_m", "bearing_deg"},
            }[self.way]
        )


@dataclass(frozen=True)
class Shots:
    """Points from every sitting: ``points_m`` (n, 3); ``sitting`` and ``number`` say which reading."""

    points_m: Floats
    codes: tuple[str, ...]
    sitting: Integers
    number: Integers


def reduced_m(survey: SurveyGivens) -> Floats:
    """A sitting's readings as east, north and level, (n, 3).

    Rod readings: level = benchmark + backsight - rod. Tape and level: along the line, offset to its
    right, rise over its start.
    """
    values = np.array([reading[:3] for reading in survey.readings], dtype=float).reshape(-1, 3)
    first, second, third = values.T
    match survey.way:
        case "levels":
            return values
        case "rod readings":
            return np.column_stack((first, second, survey.benchmark_m + survey.backsight_m - third))
        case "tape and level":
            turn = math.radians(survey.bearing_deg)
            east = survey.start_east_m + first * math.sin(turn) + second * math.cos(turn)
            north = survey.start_north_m + first * math.cos(turn) - second * math.sin(turn)
            return np.column_stack((east, north, survey.start_level_m + third))


def shots_of(surveys: Sequence[SurveyGivens]) -> Shots:
    """All readings that are used, from every sitting in turn."""
    points, codes, sittings, numbers = [np.empty((0, 3))], [], [], []
    for index, survey in enumerate(surveys):
        out = {number - 1 for number in survey.left_out}
        used = np.array([n for n in range(len(survey.readings)) if n not in out], dtype=np.int64)
        points.append(reduced_m(survey)[used])
        codes += [survey.readings[n][3] for n in used.tolist()]
        sittings.append(np.full(used.size, index, dtype=np.int64))
        numbers.append(used + 1)
    none = np.empty(0, dtype=np.int64)
    return Shots(
        np.vstack(points),
        tuple(codes),
        np.concatenate([none, *sittings]),
        np.concatenate([none, *numbers]),
    )


def own_faces(surveys: Sequence[SurveyGivens]) -> Integers | None:
    """A file's own triangles, where one sitting with triangles is all there is and is used whole."""
    if len(surveys) != 1 or not surveys[0].faces or surveys[0].left_out:
        return None
    return np.array(surveys[0].faces, dtype=np.int64)
