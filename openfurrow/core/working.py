"""The working behind a number: symbol, formula, what was put in, what came out, and its source.

The formula is a plain arithmetic expression over the inputs' symbols, so a working can be
evaluated again; the tests do so for every working of a plan. Angles are in degrees.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

Sureness = Literal[
    "published", "from memory", "common practice", "geometry", "physics", "given", "solved"
]


@dataclass(frozen=True)
class Source:
    """Where a rule comes from and how sure the statement of it is."""

    text: str
    sureness: Sureness


GEOMETRY = Source("geometry", "geometry")
GIVEN = Source("given by the planner", "given")
COMMON_PRACTICE = Source("common practice, no published source", "common practice")


@dataclass(frozen=True)
class Input:
    """One value put into a formula."""

    symbol: str
    meaning: str
    value: float | str
    kind: str


@dataclass(frozen=True)
class Working:
    """How one number came to be.

    ``formula`` is empty for a value that is solved for or looked up; ``note`` then says how.
    Where there is a formula, evaluating it over ``inputs`` gives ``value``.
    """

    symbol: str
    formula: str
    inputs: tuple[Input, ...]
    value: float | str
    kind: str
    source: Source
    note: str = ""


@dataclass(frozen=True)
class Answer:
    """A number a crew would write down, with its working; ``array`` is whose it is, if any's."""

    stage: str
    key: str
    label: str
    working: Working
    headline: bool = False
    array: str = ""

    @property
    def value(self) -> float | str:
        """The value in SI, or text."""
        return self.working.value

    @property
    def kind(self) -> str:
        """What the value is."""
        return self.working.kind


def _degrees(function: Callable[[float], float]) -> Callable[[float], float]:
    return lambda angle_deg: function(math.radians(angle_deg))


FUNCTIONS: Mapping[str, Callable[..., float]] = {
    "sin": _degrees(math.sin),
    "cos": _degrees(math.cos),
    "tan": _degrees(math.tan),
    "arcsin": lambda ratio: math.degrees(math.asin(ratio)),
    "arccos": lambda ratio: math.degrees(math.acos(ratio)),
    "arctan": lambda ratio: math.degrees(math.atan(ratio)),
    "sqrt": math.sqrt,
    "ln": math.log,
    "exp": math.exp,
    "ceil": lambda number: float(math.ceil(number - 1e-9)),
    "floor": lambda number: float(math.floor(number + 1e-9)),
    "max": max,
    "min": min,
    "abs": abs,
    # Brought into 0 to 360°.
    "bearing": lambda angle_deg: angle_deg % 360.0,
}


def evaluate(working: Working) -> float:
    """Put the inputs into the formula again. Raises ValueError where there is no formula."""
    if not working.formula:
        raise ValueError(f"{working.symbol} is solved or looked up, not a formula")
    names = {item.symbol: item.value for item in working.inputs}
    # Formulas are written in this package, never taken from outside.
    return float(eval(working.formula, {"__builtins__": {}}, {**FUNCTIONS, **names}))
