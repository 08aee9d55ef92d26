"""Members of a pipe grid: rails up the slope, the pipe along each line, posts and cross braces."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack
from openfurrow.core.codes.section import Section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.bending import PIPE, bending_limit_n_m, bending_limits, bends
from openfurrow.core.members.columns import column_limit_n
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.bents.along import Along
from openfurrow.core.structures.bents.carry import Bents, under_loads
from openfurrow.core.structures.bents.shape import BACK, FRONT_HIGH, BentShape
from openfurrow.core.structures.bents.sized import Brace, Strained, worst_of
from openfurrow.core.structures.edge_gusts import Gust, Member, gust_on
from openfurrow.core.structures.layout import PostLine, carried
from openfurrow.core.structures.members import Fixing, Piece, Stock, Used
from openfurrow.core.structures.pipe_grid import cuts
from openfurrow.core.structures.purlins import Bending, Purlin
from openfurrow.core.structures.rails import Rail, rail_on
from openfurrow.core.structures.strain import Strain
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


def size_rail(
    rows: RowsPlan,
    shape: BentShape,
    rail: Section,
    under: tuple[Bents, Floats, TableLoads],
    held: tuple[float, RulePack],
) -> Rail:
    """Modules hold a rail's upper flange, its lower one is free.

    ``under`` are the bents, the factors of strength and the loads, ``held`` how much of the row it
    carries, and the rule pack. Under a gust it may bend either way.
    """
    (bents, acting, loads), (row_m, pack) = under, held
    bars = slice(BACK + 1, BACK + len(shape.joints_m))
    pull = under_loads(bents, acting, bents.forces.pull_n[:, :, bars], row_m)
    moments = under_loads(bents, acting, bents.forces.moments_n_m[:, :, bars], row_m)
    upper, lower = bending_limits(rail, pack)
    between = float(np.diff(shape.bolts_m)[0])
    strained = worst_of(
        rail,
        pull[..., None],
        moments,
        column_limit_n(rail, between, pack),
        np.where(moments >= 0, upper, lower),
        bends(rail, pack).words,
    )
    # Pipes that lie beyond the rail are said to by a check of their own.
    under_m = np.clip(shape.bolts_m, 0.0, rows.section.chord_m)
    lies = Member(rows.section.chord_m, under_m, row_m, along=False)
    gust = gust_on(pack, rows, loads, loads.dead_kg_per_m2, lies)
    least = Bending(0.0, 0.0, min(upper, lower), min(upper, lower), bends(rail, pack).words)
    return rail_on(rows, rail, shape.bolts_m, strained, (gust, least))


def on_pipes_n(shape: BentShape, bents: Bents, acting: Floats) -> Floats:
    """What a metre of the row brings to the front and the back pipe: (kinds, bounds, cases, 2, 2).

    It is what posts and brace hold its head with, turned about: x to the back and z up.
    """
    frames, forces = bents.frames, bents.forces
    found = []
    for head, bars in ((0, [FRONT_HIGH]), (1, [BACK])):
        braces = [] if shape.brace is None or head == 0 else [len(frames.ends) - 1]
        vector = np.zeros((*forces.pull_n.shape[:2], 2))
        for bar in (*bars, *braces):
            first, last = frames.ends[bar]
            run = frames.joints_m[:, last] - frames.joints_m[:, first]
            long = np.hypot(run[:, 0], run[:, 1])[:, None]
            way = run / long
            side = np.column_stack((-way[:, 1], way[:, 0]))
            shear = (forces.moments_n_m[:, :, bar, 0] - forces.moments_n_m[:, :, bar, 1]) / long
            vector += forces.pull_n[:, :, bar, None] * way[:, None] + shear[..., None] * side[:, None]
        found.append(under_loads(bents, acting, vector, 1.0))
    return np.stack(found, axis=-2)


def most_n(vectors: Floats) -> float:
    """The greatest of forces, whichever way they act."""
    return float(np.hypot(vectors[..., 0], vectors[..., 1]).max())


def size_pipe(
    line: PostLine,
    pipe: Section,
    on_it_n_per_m: tuple[float, float],
    gust: Gust,
    pack: RulePack,
) -> Purlin:
    """The pipe on one line of posts, under the rails that lie on it; bends alike every way.

    ``on_it_n_per_m`` is what a metre of the row brings in strength and in service.
    """
    strength_n_per_m, service_n_per_m = on_it_n_per_m
    stiffness = pipe.elastic_pa * pipe.inertia_m4
    unit = carried(line, stiffness)
    sag = np.abs(unit.deflections_m)
    inside = (unit.stations_m >= line.along_m[0]) & (unit.stations_m <= line.along_m[-1])
    limit = bending_limit_n_m(pipe, pack)
    most = strength_n_per_m * unit.largest_moment_n_m
    bending = Bending(most, most, limit, limit, PIPE)
    return Purlin(
        section=pipe,
        line=line,
        load_n_per_m=strength_n_per_m,
        lift_n_per_m=strength_n_per_m,
        # The load is square to the pipe whichever way it goes: the slope's part is in it.
        slope_n_per_m=0.0,
        loose=None,
        held=True,
        bending=bending,
        gust=gust,
        gust_bending=bending.under(gust),
        # What its saddles hold is told by the bent.
        crossing_n=0.0,
        sag_m=float(sag[inside].max() * service_n_per_m),
        sag_span_m=line.span_m,
        shape_sag_m=unit.deflections_m * service_n_per_m,
        shape_moment_n_m=unit.moments_n_m * strength_n_per_m,
        stations_m=unit.stations_m,
    )


@dataclass(frozen=True, kw_only=True)
class Members:
    """The members of the worst table; ``purlin`` is the pipe along the row, ``beam`` the rail.

    ``rails`` are those of the whole array, ``head_n`` what the saddle on any head holds at worst.
    """

    beam: Rail
    purlin: Purlin
    posts: Strained
    brace: Brace | None
    along: Along
    sag_limit_m: float
    bents: int
    head_n: float
    rails: int
    strains: tuple[Strain, ...]
    brace_at_posts_m: Floats | None

    @property
    def places_m(self) -> Floats:
        """Where pipes lie under the rails."""
        return self.beam.places_m

    @property
    def stock(self) -> Stock:
        """A pipe on each line."""
        return cuts.STOCK

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """Rails and cross braces."""
        return cuts.pieces(self.beam, self.rails, self.brace)

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """Saddles on the posts, clamps of the rails, bolts of the braces."""
        return cuts.fixings(self.bents, self.rails, self.brace, self.posts.section)

    @property
    def used(self) -> tuple[Used, ...]:
        """Pipe, rail and brace."""
        found = [
            Used("pipe", self.purlin.section.name.removeprefix("pipe "), self.purlin.used),
            Used("rail", self.beam.section.name, self.beam.used),
        ]
        if self.brace is not None:
            share = self.brace.push_n / self.brace.limit_n
            found.append(Used("brace", self.brace.section.name, share))
        return tuple(found)

    @property
    def at_posts(self) -> tuple[str, Floats] | None:
        """The cross brace of every post's pair."""
        return None if self.brace_at_posts_m is None else ("brace", self.brace_at_posts_m)

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """How long rails and braces are cut."""
        return cuts.cut_answers(self.beam, self.rails, self.brace)
