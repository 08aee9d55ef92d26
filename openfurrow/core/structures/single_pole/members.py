"""Members of a single pole: rails that reach past the cross pipe both ways, that pipe, the pole."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.members.bending import PIPE, bending_limit_n_m, bending_limits, bends
from openfurrow.core.members.columns import column_limit_n
from openfurrow.core.quantities import STANDARD_GRAVITY_M_S2
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.rows.travel import Travel
from openfurrow.core.structures.bents.sized import worst_of
from openfurrow.core.structures.cantilevers.along import Along
from openfurrow.core.structures.cantilevers.carry import Heads, on_heads
from openfurrow.core.structures.edge_gusts import Member, gust_on
from openfurrow.core.structures.layout import PostLine
from openfurrow.core.structures.members import Fixing, Piece, Stock, Used
from openfurrow.core.structures.purlins import Bending, Purlin, normal_pressure_pa
from openfurrow.core.structures.rails import Rail, rail_on
from openfurrow.core.structures.single_pole import cuts
from openfurrow.core.structures.strain import Strain
from openfurrow.core.structures.supports import Kinds, Reactions
from openfurrow.core.structures.twisted import Twisted, worst_twisted
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


def size_rail(
    rows: RowsPlan, rail: Section, loads: TableLoads, row_m: float, pack: RulePack
) -> tuple[Rail, float]:
    """A rail held in its middle alone, and how far its ends sag; it carries ``row_m`` of the row.

    Each half of it is a cantilever under the pressure on its half. Pressed, it is its lower flange that
    is squeezed, and that is free; lifted, the upper one, which modules hold. What of weight and snow
    runs down the slope pushes the lower half and pulls the upper.
    """
    table, dead = rows.section, loads.dead_kg_per_m2
    tilt, reach = math.radians(table.tilt_deg), table.chord_m / 2
    pressed = np.stack(normal_pressure_pa(table, loads, dead, loads.strength))
    light = np.stack(normal_pressure_pa(table, loads, loads.least_dead_kg_per_m2, loads.strength))
    combined = loads.strength
    weight = combined.dead * dead * STANDARD_GRAVITY_M_S2
    weight += combined.snow * loads.snow_pa * math.cos(tilt)
    down_slope = np.repeat(weight, len(loads.wind.names)) * math.sin(tilt) * reach * row_m
    upper, lower = bending_limits(rail, pack)
    # Sagging is positive: what presses the ends down bends the rail the other way.
    moments = -np.stack((pressed, light)) * reach**2 / 2 * row_m
    strained = worst_of(
        rail,
        down_slope,
        moments,
        # Its end is free to sway: it buckles as one twice as long.
        column_limit_n(rail, 2 * reach, pack),
        np.where(moments >= 0, upper, lower),
        bends(rail, pack).words,
    )
    in_use = np.abs(np.stack(normal_pressure_pa(table, loads, dead, loads.service))).max()
    stiffness = rail.elastic_pa * rail.inertia_m4
    sag = float(in_use * row_m * reach**4 / 8 / stiffness)
    lies = Member(table.chord_m, np.array([reach]), row_m, along=False)
    gust = gust_on(pack, rows, loads, dead, lies)
    limits = Bending(0.0, 0.0, lower, upper, bends(rail, pack).words)
    return rail_on(rows, rail, np.array([reach]), strained, (gust, limits)), sag


def _row(table: TableSection, loads: TableLoads, dead_kg_per_m2: float) -> Heads:
    """What a metre of the row brings to the cross pipe."""
    return on_heads(table, loads, np.ones(1), np.array([dead_kg_per_m2]))


def size_pipe(
    table: TableSection, line: PostLine, pipe: Section, loads: TableLoads, dead: float, pack: RulePack
) -> tuple[Purlin, Twisted]:
    """The cross pipe on the pole's head: rails on one side of it bend, shear and twist it."""
    rails, bolt = line.rails_m, float(line.along_m[0])
    assert rails is not None
    side = rails[rails > bolt] - bolt
    row = _row(table, loads, dead)
    load = np.hypot(row.across_n, row.down_n)
    arms = line.rail_m * float(side.sum())
    outer = line.rail_m * side.size
    twisted = worst_twisted(pipe, pack, (load * outer, load * arms), row.turning_n_m * outer)
    use = _row(table, replace(loads, strength=loads.service), dead)
    service = float(np.hypot(use.across_n, use.down_n).max())
    stations, moments, sag = _reaching(line, pipe)
    strong = float(load.max())
    limit = bending_limit_n_m(pipe, pack)
    bending = Bending(strong * arms, strong * arms, limit, limit, PIPE)
    purlin = Purlin(
        section=pipe,
        line=line,
        load_n_per_m=strong,
        lift_n_per_m=strong,
        # The load is square to the pipe whichever way it goes: the slope's part is in it.
        slope_n_per_m=0.0,
        loose=None,
        held=True,
        bending=bending,
        gust=None,
        gust_bending=None,
        crossing_n=0.0,
        sag_m=service * float(sag.max()),
        # An end that hangs free counts as half a span of twice its length.
        sag_span_m=2 * line.overhang_m,
        shape_sag_m=service * sag,
        shape_moment_n_m=strong * moments,
        stations_m=stations,
    )
    return purlin, twisted


def _reaching(line: PostLine, pipe: Section) -> tuple[Floats, Floats, Floats]:
    """Stations, moments and sag under a newton a metre of the row, each rail a force."""
    assert line.rails_m is not None
    bolt = float(line.along_m[0])
    stations = np.unique(np.concatenate((np.linspace(0, line.purlin_m, 201), line.rails_m, [bolt])))
    out, on = np.abs(stations - bolt)[:, None], np.abs(line.rails_m - bolt)
    same = np.sign(stations - bolt)[:, None] == np.sign(line.rails_m - bolt)
    at_bolt = out == 0
    # At the pole itself both sides pull alike: one is counted.
    counted = same | (at_bolt & (line.rails_m > bolt))
    moments = -(np.maximum(on - out, 0.0) * counted).sum(axis=1) * line.rail_m
    nearer, further = np.minimum(out, on), np.maximum(out, on)
    stiffness = pipe.elastic_pa * pipe.inertia_m4
    # A force at a on a cantilever: x²(3a - x)/6EI before it, a²(3x - a)/6EI past it.
    sag = (nearer**2 * (3 * further - nearer) / 6 * same).sum(axis=1) * line.rail_m / stiffness
    return stations, moments, sag


def size_pole(pole: Section, kinds: Kinds, found: Reactions, pack: RulePack) -> Twisted:
    """The pole at the ground, where it is bent most over it, about both axes and about its own.

    Its head sways freely, and it stands as if built in a little below the ground.
    """
    height = kinds.high_m + constant("common", "fixity_m").value
    longer = constant("common", "sway_length").value
    columns = column_limit_n(pole, height * longer, pack)[:, None]
    bent = np.abs(found.push_n), np.abs(found.tipping_n_m)
    return worst_twisted(pole, pack, bent, found.twist_n_m, (found.down_n, columns))


def head_moves_m(
    table: TableSection, pole: Section, kinds: Kinds, loads: TableLoads, dead_of: Floats
) -> float:
    """How far wind in service pushes a head over: a cantilever from where it is as if built in."""
    use = on_heads(table, replace(loads, strength=loads.service), kinds.tributary_m, dead_of)
    height = (kinds.high_m + constant("common", "fixity_m").value)[:, None, None]
    stiffness = pole.elastic_pa * pole.inertia_m4
    moved = use.across_n * height**3 / 3 + use.turning_n_m * height**2 / 2
    return float(np.abs(moved).max() / stiffness)


@dataclass(frozen=True, kw_only=True)
class Members:
    """The members of the worst pole; ``purlin`` is the cross pipe, ``beam`` the rail.

    ``turning_n_m`` is what the head holds against turning about the cross pipe, ``twist_n_m`` about the
    pole's own axis. ``rails`` are those of the whole array, ``poles`` how many there are;
    ``travel`` is None where they stand fixed.
    """

    beam: Rail
    rail_sag_m: float
    purlin: Purlin
    pipe: Twisted
    pole: Twisted
    along: Along
    turning_n_m: float
    twist_n_m: float
    head_moves_m: float
    rail_sag_limit_m: float
    sag_limit_m: float
    modules_a_pole: int
    poles: int
    rails: int
    travel: Travel | None
    strains: tuple[Strain, ...]

    @property
    def places_m(self) -> Floats:
        """Where pipes lie under the rails."""
        return self.beam.places_m

    @property
    def stock(self) -> Stock:
        """One cross pipe."""
        return cuts.STOCK

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """Rails."""
        return cuts.pieces(self.beam, self.rails)

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """The head, or what turns it, and what holds rails on the cross pipe."""
        return cuts.fixings(self.poles, self.rails, self.travel)

    @property
    def used(self) -> tuple[Used, ...]:
        """Cross pipe, rail and pole over the ground."""
        return (
            Used("cross pipe", self.pipe.section.name.removeprefix("pipe "), self.pipe.used),
            Used("rail", self.beam.section.name, self.beam.used),
            Used("pole over the ground", self.pole.section.name.removeprefix("pipe "), self.pole.used),
        )

    @property
    def at_posts(self) -> None:
        """Nothing is cut to a pole's own height."""
        return

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """How long rails are cut."""
        return cuts.cut_answers(self.beam, self.rails)
