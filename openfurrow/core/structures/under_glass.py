"""Purlins on inclined beams: how deep they are under the glass, and what a table of them weighs."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import section
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.stand import Stand

Floats = NDArray[np.float64]


def dead_kg_per_m2(
    rows: RowsPlan,
    row_kg: float,
    length_m: float,
    purlin_kg_per_m: float,
    beam_kg_per_m: float,
    span_m: float,
) -> float:
    """Mass of modules, two purlins a module row and one beam a span, per area of a table.

    ``row_kg`` are the modules of one module row, ``length_m`` the table's glass.
    """
    modules = row_kg * rows.modules_high
    purlins = 2 * rows.modules_high * purlin_kg_per_m / rows.section.chord_m
    return modules / (rows.section.chord_m * length_m) + purlins + beam_kg_per_m / span_m


def stack_m(givens: StructureGivens, module_m: float) -> float:
    """From the glass to the middle of the inclined beam; ``module_m`` is the module's own depth."""
    purlin, beam = section(givens.purlin_section), section(givens.beam_section)
    return module_m + purlin.depth_m + beam.depth_m / 2


def weigh_kg_per_m2(posts: Stand, rows: RowsPlan, givens: StructureGivens, module_kg: float) -> Floats:
    """Mass of the table that the posts carry, per area of its glass, of each size of table."""
    purlin, beam = section(givens.purlin_section), section(givens.beam_section)
    return dead_of_sizes(posts, rows, module_kg, purlin.mass_kg_per_m, beam.mass_kg_per_m)


def dead_of_sizes(
    posts: Stand, rows: RowsPlan, module_kg: float, purlin_kg_per_m: float, beam_kg_per_m: float
) -> Floats:
    """The same by what a metre of purlin and of beam weighs; nought where there is no beam."""
    tables = rows.tables
    # A table of each size.
    some = [int(posts.tables_of_size(size)[0]) for size in range(len(posts.sizes))]
    return np.array(
        [
            dead_kg_per_m2(
                rows,
                module_kg * int(tables.columns[table]),
                float(tables.lengths_m[table]),
                purlin_kg_per_m,
                beam_kg_per_m,
                line.span_m,
            )
            for table, line in zip(some, posts.sizes, strict=True)
        ]
    )
