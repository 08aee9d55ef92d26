"""Rule packs as data: tables of standards with their source, read once.

A table is a CSV file whose first lines are comments: ``# source: …`` names the standard and
``# sure: …`` says how sure the values are. Columns are numbers where every cell is one.
"""

import csv
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.working import Source, Sureness

RulePack = Literal["us", "metric"]
PACKS: tuple[RulePack, ...] = ("us", "metric")


@dataclass(frozen=True)
class Table:
    """Columns by name: numbers as float arrays, everything else as text."""

    source: Source
    numbers: dict[str, NDArray[np.float64]]
    texts: dict[str, tuple[str, ...]]

    def row(self, key_column: str, key: str) -> int:
        """The index of the row whose ``key_column`` equals ``key``; KeyError if there is none."""
        try:
            return self.texts[key_column].index(key)
        except ValueError:
            known = ", ".join(self.texts[key_column])
            raise KeyError(f"{key_column} is one of {known}, not {key!r}") from None

    def number(self, column: str, row: int) -> float:
        """One cell of a number column."""
        return float(self.numbers[column][row])


@dataclass(frozen=True)
class Constant:
    """One value of a rule pack, in SI, with its source."""

    value: float
    source: Source


def constant(pack: RulePack | Literal["common"], name: str) -> Constant:
    """The constant ``name`` of a rule pack; KeyError names the known ones."""
    data = table(pack, "constants")
    row = data.row("name", name)
    sure, text = data.texts["sure"][row], data.texts["source"][row]
    return Constant(data.number("value", row), Source(text, sure))  # type: ignore[arg-type]


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


@cache
def table(pack: RulePack | Literal["common"], name: str) -> Table:
    """The table ``name`` of a rule pack. Raises FileNotFoundError for an unknown one."""
    text = (files(__package__) / pack / f"{name}.csv").read_text(encoding="utf-8")
    lines = text.splitlines()
    head = dict(line[1:].split(":", 1) for line in lines if line.startswith("#") and ":" in line)
    facts = {key.strip(): value.strip() for key, value in head.items()}
    sure = facts["sure"]
    if sure not in get_args(Sureness):
        raise ValueError(f"{pack}/{name}.csv: 'sure' is one of {get_args(Sureness)}, not {sure!r}")
    rows = list(csv.DictReader(line for line in lines if line and not line.startswith("#")))
    numbers: dict[str, NDArray[np.float64]] = {}
    texts: dict[str, tuple[str, ...]] = {}
    for column in rows[0]:
        cells = tuple(row[column].strip() for row in rows)
        if all(_is_number(cell) for cell in cells) and column != "size":
            numbers[column] = np.array([float(cell) for cell in cells])
        else:
            texts[column] = cells
    return Table(Source(facts["source"], sure), numbers, texts)  # type: ignore[arg-type]
