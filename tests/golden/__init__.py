"""What the demo jobs give, kept: every answer, rule, drawing, list and file.

`python -m tests.golden` writes the files anew; a test holds the plans against them, through the keys
that moved and the changes that were meant.
"""

import hashlib
import io
import json
from pathlib import Path
from typing import Any

import ezdxf

from openfurrow.core.as_built import as_built
from openfurrow.core.design import PLACES, Design
from openfurrow.core.edits import DesignError
from openfurrow.core.plan import Plan, plan
from openfurrow.core.quantities import UnitSystem, in_words
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.wanted import Wanted
from openfurrow.sheets.scene import scene_of
from openfurrow.sheets.write import job_sheet, stage_sheet

HERE = Path(__file__).parent
DEMOS = ("larkspur", "larkspur-two", "grifo", "quillay", "varnbeck", "marram")
SYSTEMS: tuple[UnitSystem, ...] = ("us", "metric")
Kept = dict[str, Any]


def _exact(value: float | str) -> float | str:
    """Ten digits: what differs beyond them is the order of sums, not a number that anybody reads."""
    return float(f"{value:.10g}") if isinstance(value, float) else in_words(value, "us")


def _digest(value: object) -> str:
    text = json.dumps(value, sort_keys=True, ensure_ascii=False, default=str)
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def _drawing(text: str) -> list[str]:
    """A drawing's entities by layer and place; its head names the minute it was made."""
    space = ezdxf.read(io.StringIO(text)).modelspace()
    kept = [(entity.dxftype(), entity.dxfattribs()) for entity in space]
    return [
        f"{kind} {sorted((k, str(v)) for k, v in said.items() if k != 'handle')}" for kind, said in kept
    ]


def _file(name: str, design: Design, found: Plan, units: UnitSystem) -> str:
    try:
        text = EXPORTS[name].write(design, found, Wanted(units=units))
    except DesignError as error:
        return error.problems[0].message
    return _digest(_drawing(text) if name.endswith(".dxf") else text)


def kept_of(name: str) -> Kept:
    """Everything that a demo job shows, values to ten digits and what is drawn or written by digest."""
    design = DESIGNS[name]()
    found = as_built(design, plan(design))
    sheets: Kept = {}
    for units in SYSTEMS:
        sheets[f"job {units}"] = _digest(job_sheet(design, found, units).model_dump())
        for stage in PLACES:
            sheet = stage_sheet(stage, design, found, units)
            for drawing in sheet.drawings:
                sheets[f"{stage} drawing {drawing.key} {units}"] = _digest(drawing.model_dump())
            for table in sheet.tables:
                sheets[f"{stage} table {table.key} {units}"] = _digest(table.model_dump())
            sheets[f"{stage} fields {units}"] = _digest(
                [(given.path, given.text, given.placeholder) for given in sheet.givens]
            )
    # Of several arrays each has its own; of one alone nobody asks which.
    whose = {one.id: f"{one.id} " if found.several else "" for one in found.arrays} | {"": ""}
    return {
        "answers": {
            f"{whose[a.array]}{a.stage}.{a.key}": [_exact(a.value), a.kind, a.headline]
            for a in found.answers
        },
        "checks": {
            f"{whose[c.array]}{c.stage}.{c.key}": [
                c.level,
                _exact(c.measured),
                _exact(c.limit),
                len(c.mends),
            ]
            for c in found.checks
        },
        "sheets": sheets,
        "scene": _digest(scene_of(found).model_dump()),
        "files": {
            f"{file} {units}": _file(file, design, found, units)
            for units in SYSTEMS
            for file in EXPORTS
        },
    }


def path_of(name: str) -> Path:
    """Where a demo's kept values stand."""
    return HERE / f"{name}.json"
