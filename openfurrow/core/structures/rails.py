"""Rails up the slope, two under each column of modules, on pipes that are saddled on the posts."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section, section
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.bents.sized import Strained
from openfurrow.core.structures.edge_gusts import Gust
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.layout import PostLine
from openfurrow.core.structures.members import Piece
from openfurrow.core.structures.purlins import Bending
from openfurrow.core.structures.roles import Bent, Role
from openfurrow.core.structures.stand import Stand

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Rail:
    """One rail, from past the lower to past the upper edge of the glass, clamped to its pipes.

    ``start_m`` and ``places_m``, where the pipes are, are measured from the lower edge of the glass;
    ``end_m`` is the rail past the glass at both ends. ``gust`` is on one bay of it, where it bends as
    ``gust_bending``.
    """

    section: Section
    start_m: float
    end_m: float
    length_m: float
    places_m: Floats
    strained: Strained
    gust: Gust
    gust_bending: Bending

    @property
    def used(self) -> float:
        """How much of it is used; a gust comes with what pushes along it when it is used most."""
        along = abs(self.strained.axial_n) / self.strained.axial_limit_n
        return max(self.strained.used, self.gust_bending.used + along)


def rail_on(
    rows: RowsPlan, rail: Section, pipes_m: Floats, strained: Strained, gust: tuple[Gust, Bending]
) -> Rail:
    """A rail over pipes that lie ``pipes_m`` up the slope from the lower edge of the glass."""
    end = constant("common", "rail_end_m").value
    return Rail(
        section=rail,
        start_m=-end,
        end_m=end,
        length_m=rail_m(rows),
        places_m=pipes_m,
        strained=strained,
        gust=gust[0],
        gust_bending=gust[1].under(gust[0]),
    )


def rail_m(rows: RowsPlan) -> float:
    """How long a rail is: past the glass at both ends, for the end clamps."""
    return rows.section.chord_m + 2 * constant("common", "rail_end_m").value


def rails_of(posts: Stand, size: int) -> int:
    """Rails of a table of one size."""
    rails = posts.sizes[size].rails_m
    return 0 if rails is None else rails.size


def rails_of_tables(posts: Stand) -> NDArray[np.int64]:
    """Rails of every table."""
    rails = np.array([rails_of(posts, size) for size in range(len(posts.sizes))])
    return np.asarray(rails[posts.size_of_line[posts.line_of]])


def stack_m(givens: StructureGivens, module_m: float) -> float:
    """From the glass to the middle of the pipe; ``module_m`` is the module's own depth."""
    pipe, rail = section(givens.pipe_section), section(givens.rail_section)
    return module_m + rail.depth_m + pipe.depth_m / 2


def saddled(
    givens: StructureGivens,
    post: Section,
    roles: tuple[Role, ...],
    spaced: Callable[[int, float], PostLine],
    post_given: str = "structure.post_section",
) -> Bent:
    """Posts that end under the pipe that is saddled on their heads."""
    under = section(givens.pipe_section).depth_m / 2
    return Bent(post=post, top_m=-under, post_given=post_given, roles=roles, spaced=spaced)


def weigh_kg_per_m2(posts: Stand, rows: RowsPlan, givens: StructureGivens, module_kg: float) -> Floats:
    """Modules, rails and a pipe for each line of posts, per area of glass, of each size of table."""
    pipe, rail = section(givens.pipe_section), section(givens.rail_section)
    found = []
    for size, line in enumerate(posts.sizes):
        table = int(posts.tables_of_size(size)[0])
        modules = module_kg * rows.modules_high * int(rows.tables.columns[table])
        rails = rails_of(posts, size) * rail_m(rows) * rail.mass_kg_per_m
        pipes = len(posts.roles) * line.purlin_m * pipe.mass_kg_per_m
        glass_m2 = rows.section.chord_m * float(rows.tables.lengths_m[table])
        found.append((modules + rails + pipes) / glass_m2)
    return np.array(found)


def rail_piece(rail: Rail, rails: int) -> Piece:
    """Two rails a column of modules."""
    return Piece(
        key="rail",
        title="Rail",
        cut="rail",
        where="Two under each column of modules.",
        profile=rail.section.name,
        mass_kg_per_m=rail.section.mass_kg_per_m,
        lengths_m=np.full(rails, rail.length_m),
        each="rail",
    )
