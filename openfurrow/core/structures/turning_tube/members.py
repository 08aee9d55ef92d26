"""Members of a turning tube: rails that it holds in their middle, and the tube, bent and twisted."""

import math
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.loads.on_table import TableLoads
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.rows.geometry import TableSection
from openfurrow.core.structures.cantilevers.along import Along
from openfurrow.core.structures.edge_gusts import Member, gust_on
from openfurrow.core.structures.layout import PostLine, carried
from openfurrow.core.structures.members import Fixing, Piece, Stock, Used
from openfurrow.core.structures.pipe_grid.members import size_pipe
from openfurrow.core.structures.purlins import Purlin
from openfurrow.core.structures.rails import Rail
from openfurrow.core.structures.strain import Strain
from openfurrow.core.structures.turning_tube import cuts
from openfurrow.core.structures.turning_tube.carry import row_heads
from openfurrow.core.structures.turning_tube.line import Twisting, drive_of, twisting
from openfurrow.core.structures.twisted import Twisted, worst_twisted
from openfurrow.core.working import Answer

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Tube:
    """A table's tube: ``bent`` along the row as ``purlin``, and ``twisted`` as it is used most.

    ``turning_n_m`` is the most that its drive holds, ``passed_n_m`` the most that the tube passes on to
    it from one side. ``ends_deg`` is how far the far end twists in wind in service; ``gives_pa`` the
    pressure of wind at which it winds itself up and ``gives_m_s`` that wind at the glass, ``swings_hz``
    how often its free end swings.
    """

    purlin: Purlin
    twisted: Twisted
    twisting: Twisting
    turning_n_m: float
    passed_n_m: float
    ends_deg: float
    resists_n_m2: float
    inertia_kg_m: float
    gives_pa: float
    gives_m_s: float
    swings_hz: float

    @property
    def gust_used(self) -> float:
        """A gust on one bay, while the rest of the row twists it as it does at worst."""
        assert self.purlin.gust_bending is not None
        twist = self.passed_n_m / self.twisted.twist_limit_n_m
        return self.purlin.gust_bending.used + twist**2

    @property
    def used(self) -> float:
        """How much of it is used at worst."""
        return max(self.twisted.used, self.gust_used)


def resists_twist_n_m2(pipe: Section) -> float:
    """GJ of a pipe: J = 2 I, G = E / 2 (1 + nu)."""
    shear_pa = pipe.elastic_pa / (2 * (1 + constant("common", "poisson").value))
    return shear_pa * 2 * pipe.inertia_m4


def gives_pa(resists_n_m2: float, reach_m: float, chord_m: float) -> float:
    """Pressure of wind at which a tube with one free end winds itself up, level to the wind.

    Turned by a, a flat plate is turned on by q c**2 (pi / 2) a on each metre: a shaft that is held at
    one end gives way where that reaches (pi / 2 l)**2 G J. Source: Bisplinghoff, Ashley & Halfman,
    Aeroelasticity (1955), torsional divergence by strips; pi / 2 is of thin plates (lift a quarter in).
    """
    slope = constant("common", "plate_moment_slope").value
    return (math.pi / (2 * reach_m)) ** 2 * resists_n_m2 / (chord_m**2 * slope)


def swings_hz(resists_n_m2: float, reach_m: float, inertia_kg_m: float) -> float:
    """The slowest swing of a shaft that is held at one end: sqrt(G J / I) / 4 l."""
    return math.sqrt(resists_n_m2 / inertia_kg_m) / (4 * reach_m)


def size_tube(
    rows: RowsPlan, line: PostLine, pipe: Section, loads: TableLoads, dead: float, pack: RulePack
) -> Tube:
    """One table's tube under every load: bent over its bearings, twisted toward its drive."""
    table, turned = rows.section, twisting(line)
    row = row_heads(table, loads, dead)
    use = row_heads(table, replace(loads, strength=loads.service), dead)
    load, serves = (np.hypot(one.across_n, one.down_n)[0] for one in (row, use))
    half = Member(line.purlin_m, line.along_m, table.chord_m / 2, along=True)
    purlin = size_pipe(
        line,
        pipe,
        (float(load.max()), float(serves.max())),
        gust_on(pack, rows, loads, dead, half),
        pack,
    )
    unit = carried(line, pipe.elastic_pa * pipe.inertia_m4)
    drive = float(line.along_m[drive_of(line)])
    beyond = turned.beyond_m(unit.stations_m - drive)
    shear = _shear_m(line, unit.stations_m, unit.reactions_n)
    turning = np.abs(row.turning_n_m[0])
    twisted = worst_twisted(
        pipe,
        pack,
        (load[..., None] * shear, load[..., None] * np.abs(unit.moments_n_m)),
        turning[..., None] * beyond,
    )
    stiff = resists_twist_n_m2(pipe)
    inertia = _inertia_kg_m(table, dead)
    gives = gives_pa(stiff, turned.reach_m, table.chord_m)
    return Tube(
        purlin=purlin,
        twisted=twisted,
        twisting=turned,
        turning_n_m=float(turning.max()) * turned.row_m,
        passed_n_m=float(turning.max()) * turned.longest_m,
        ends_deg=math.degrees(float(np.abs(use.turning_n_m).max()) * turned.turned_m2 / stiff),
        resists_n_m2=stiff,
        inertia_kg_m=inertia,
        gives_pa=gives,
        gives_m_s=math.sqrt(gives / constant(pack, "air_density_half").value),
        swings_hz=swings_hz(stiff, turned.reach_m, inertia),
    )


def _inertia_kg_m(table: TableSection, dead_kg_per_m2: float) -> float:
    """About the tube, of a metre of the row, all of it taken to lie in the glass."""
    return dead_kg_per_m2 * table.chord_m * (table.chord_m**2 / 12 + table.stack_m**2)


def _shear_m(line: PostLine, stations_m: Floats, reactions_m: Floats) -> Floats:
    """Shear at stations under a newton on each metre of the row, the greater of both sides of each."""
    assert line.rails_m is not None
    at = np.concatenate((line.rails_m, line.along_m))
    force = np.concatenate((np.full(line.rails_m.size, -line.rail_m), reactions_m))
    order = np.argsort(at, kind="stable")
    summed = np.concatenate(([0.0], np.cumsum(force[order])))
    before = summed[np.searchsorted(at[order], stations_m - 1e-9)]
    after = summed[np.searchsorted(at[order], stations_m + 1e-9, side="right")]
    return np.asarray(np.maximum(np.abs(before), np.abs(after)))


@dataclass(frozen=True, kw_only=True)
class Members:
    """The members of the worst table; ``purlin`` is the tube along the row, ``beam`` the rail.

    ``rails``, ``posts`` and ``tables`` are those of the whole array; ``wind_pa`` is the pressure of the
    design wind, its factor in, at which nothing may wind itself up. ``post_limit_n_m`` is what the post
    under the drive bears of its turning.
    """

    beam: Rail
    rail_sag_m: float
    tube: Tube
    along: Along
    rail_sag_limit_m: float
    sag_limit_m: float
    wind_pa: float
    post_limit_n_m: float
    rails: int
    posts: int
    tables: int
    strains: tuple[Strain, ...]

    @property
    def purlin(self) -> Purlin:
        """The tube, as it is bent along the row."""
        return self.tube.purlin

    @property
    def places_m(self) -> Floats:
        """Where the tube lies under the rails."""
        return self.beam.places_m

    @property
    def stock(self) -> Stock:
        """One tube a table."""
        return cuts.STOCK

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """Rails."""
        return cuts.pieces(self.beam, self.rails)

    @property
    def fixings(self) -> tuple[Fixing, ...]:
        """Bearings, drives, and what holds rails on the tube."""
        return cuts.fixings(self.posts, self.tables, self.rails)

    @property
    def used(self) -> tuple[Used, ...]:
        """Tube and rail."""
        pipe = self.tube.twisted.section.name.removeprefix("pipe ")
        return (
            Used("tube", pipe, self.tube.used),
            Used("rail", self.beam.section.name, self.beam.used),
        )

    @property
    def at_posts(self) -> None:
        """Nothing is cut to a post's own height."""
        return

    @property
    def cut_answers(self) -> tuple[Answer, ...]:
        """How long rails are cut."""
        return cuts.cut_answers(self.beam, self.rails)
