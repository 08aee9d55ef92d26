"""Where the posts of every table stand, how high, and which of them are alike."""

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.codes.section import Section
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.kinds import kinds_of
from openfurrow.core.structures.layout import PostLine, fits, post_line, shifted
from openfurrow.core.structures.roles import Bent, Role
from openfurrow.core.structures.sheltered import in_shelter
from openfurrow.core.structures.supports import Kinds, SupportPlaces, Supports

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class NotShifted:
    """Supports that were told to shift and cannot, counted from nought, and why."""

    posts: tuple[int, ...]
    words: str


@dataclass(frozen=True, kw_only=True)
class Stand:
    """Posts of every table: in bents, each of a post for every one of its roles.

    ``sizes`` are the tables that differ in length, each with its bents at even places, the most usual
    first; ``lines`` those that differ in where their bents stand, ``size_of_line`` of which size each.
    ``line_of`` is each table's own. ``shift_m`` is how far each post is off its even place and
    ``not_shifted`` says which shifts could not be. Supports stand table by table, in a table line by
    line from the front, in a line from its first end.
    """

    givens: StructureGivens
    bent: Bent
    sizes: tuple[PostLine, ...]
    lines: tuple[PostLine, ...]
    size_of_line: Integers
    line_of: Integers
    shift_m: Floats
    not_shifted: NotShifted
    supports: Supports
    kinds: Kinds

    @property
    def post(self) -> Section:
        """The profile of every post; piles have none."""
        assert self.bent.post is not None
        return self.bent.post

    @property
    def noun(self) -> str:
        """What one support is called."""
        return "pile" if self.bent.post is None else "post"

    @property
    def roles(self) -> tuple[Role, ...]:
        """The posts of a bent, front to back."""
        return self.bent.roles

    @property
    def spaced(self) -> bool:
        """Whether any table has posts beside each other, which a span keeps apart."""
        return any(size.count > 1 for size in self.sizes)

    @property
    def line(self) -> PostLine:
        """The most usual table, its posts at even places."""
        return self.sizes[0]

    @property
    def tallest_under_bolt_m(self) -> float:
        """The highest that a table's own bolt stands over the ground at any of its posts."""
        over = np.array([role.up_m for role in self.roles])[self.supports.places.role]
        return float((self.supports.reveals_m - over).max())

    @property
    def bent_of(self) -> Integers:
        """Of each support which bent it is of, counted through all tables."""
        places = self.supports.places
        counts = np.bincount(places.of_table) // len(self.roles)
        return np.asarray((np.cumsum(counts) - counts)[places.of_table] + places.ordinal)

    @property
    def bents(self) -> int:
        """Bents of the whole array."""
        return self.supports.count // len(self.roles)

    def of_role(self, role: int) -> Integers:
        """The supports of one role, bent by bent."""
        return np.flatnonzero(self.supports.places.role == role)

    def tables_of_size(self, size: int) -> Integers:
        """Which tables are so long."""
        return np.flatnonzero(self.size_of_line[self.line_of] == size)


def stand(
    site: SitePlan,
    rows: RowsPlan,
    givens: StructureGivens,
    purlin_end_m: float,
    bent: Bent,
) -> Stand:
    """Place the posts of every table on the ground."""
    roles = bent.roles
    tables = rows.tables
    columns, size_of = _sizes(tables.columns)
    lengths = [float(tables.lengths_m[tables.columns == count][0]) for count in columns.tolist()]

    def evenly(_: int, length_m: float) -> PostLine:
        return post_line(length_m + 2 * purlin_end_m, givens.span_limit_m, givens.cantilever_ratio)

    sizes = tuple(map(bent.spaced or evenly, columns.tolist(), lengths))
    counts = np.array([size.count for size in sizes])[size_of]
    of_table = np.repeat(np.arange(tables.count), counts)
    ordinal = np.arange(of_table.size) - (np.cumsum(counts) - counts)[of_table]
    even = _each([size.along_m for size in sizes], size_of[of_table], ordinal)
    shift, not_shifted = shifts_of(givens, sizes, size_of, counts, rows)
    lines, size_of_line, line_of = _lines(sizes, size_of, shift, counts)
    middle = np.array([size.purlin_m for size in sizes])[size_of[of_table]] / 2
    tributary = _each([line.tributary_m for line in lines], line_of[of_table], ordinal)
    # From bents to supports: table by table, in each one role after the other.
    of, role = np.tile(np.arange(of_table.size), len(roles)), np.arange(len(roles))
    role = np.repeat(role, of_table.size)
    order = np.lexsort((ordinal[of], role, of_table[of]))
    of, role = of[order], role[order]
    places = support_places(rows, of_table[of], ordinal[of], (even + shift - middle)[of], (roles, role))
    ground = site.ground.level_m(places.east_m, places.north_m)
    bolt = rows.section.bolt_z_m + np.array([one.up_m for one in roles])[role]
    reveals = rows.lie.edge_at(places.of_table, places.from_middle_m) + bolt - ground
    soil_of = site.soil_at(places.east_m, places.north_m)

    def by_role(values: NDArray[np.generic]) -> NDArray[Any]:
        """Of every bent the values of its posts, one row a role."""
        found = np.empty((len(roles), of_table.size), values.dtype)
        found[role, of] = values
        return found

    lee = np.zeros(tables.count, dtype=bool)
    if givens.shelter_share is not None:
        lee = in_shelter(tables, givens.outer_rows, givens.end_tables)
    drives = None
    if bent.drive_of is not None:
        drives = ordinal == np.array([bent.drive_of(size) for size in sizes])[size_of[of_table]]
    kinds, kind = kinds_of(
        by_role(reveals), tributary, by_role(soil_of), size_of[of_table], lee[of_table], drives
    )
    return Stand(
        givens=givens,
        bent=bent,
        sizes=sizes,
        lines=lines,
        size_of_line=size_of_line,
        line_of=line_of,
        shift_m=shift[of],
        not_shifted=NotShifted(
            tuple(np.flatnonzero(np.isin(of, not_shifted.posts)).tolist()), not_shifted.words
        ),
        supports=Supports(
            places=places,
            ground_m=ground,
            reveals_m=reveals,
            tributary_m=tributary[of],
            soil_of=soil_of,
            kind=kind[role, of],
        ),
        kinds=kinds,
    )


def _sizes(columns: Integers) -> tuple[Integers, Integers]:
    """The numbers of columns that tables have, the most usual first, and of each table which it is."""
    found, of, often = np.unique(columns, return_inverse=True, return_counts=True)
    order = np.argsort(-often, kind="stable")
    return found[order], np.argsort(order)[of]


def _each(by_group: list[Floats], group: Integers, ordinal: Integers) -> Floats:
    """Of each post the value that its group of alike tables has at its place in the table."""
    counts = np.array([values.size for values in by_group])
    first = np.cumsum(counts) - counts
    return np.asarray(np.concatenate(by_group)[first[group] + ordinal])


def support_places(
    rows: RowsPlan,
    of_table: Integers,
    ordinal: Integers,
    from_middle_m: Floats,
    which: tuple[tuple[Role, ...], Integers],
) -> SupportPlaces:
    """Every post, each so far along its purlin from its table's middle; ``which`` role each has."""
    tables, (roles, role) = rows.tables, which
    along, back = tables.at_array_m(
        of_table, from_middle_m, np.array([one.back_m for one in roles])[role]
    )
    east, north = rows.setting.east_north_m(along, back)
    return SupportPlaces(
        roles=roles,
        line=tables.line[of_table] * len(roles) + role,
        role=role,
        of_table=of_table,
        ordinal=ordinal,
        from_middle_m=from_middle_m,
        run_m=tables.run_m[of_table] + from_middle_m,
        along_m=along,
        back_m=back,
        east_m=east,
        north_m=north,
    )


def shifts_of(
    givens: StructureGivens,
    sizes: tuple[PostLine, ...],
    size_of: Integers,
    counts: Integers,
    rows: RowsPlan,
) -> tuple[Floats, NotShifted]:
    """The shift of every bent, and which were not possible: those bents stay."""
    shift = np.zeros(int(counts.sum()))
    first = np.cumsum(counts) - counts
    words, told, moved = [], [], set()
    for post, by_m in givens.shifts:
        table_id, ordinal = post.rsplit("/", 1)
        table = rows.stands.index_of(table_id)
        if table is None or int(ordinal) > counts[table]:
            words.append(f"there is no post {post}")
            continue
        shift[first[table] + int(ordinal) - 1] = by_m
        told.append((table, int(first[table]) + int(ordinal) - 1))
        moved.add(table)
    unfit = set()
    for table in sorted(moved):
        mine = slice(int(first[table]), int(first[table] + counts[table]))
        if not fits(sizes[size_of[table]], shift[mine]):
            unfit.add(table)
            shift[mine] = 0.0
            words.append(f"table {rows.stands.name_of(table)}: posts would cross or leave the purlin")
    stay = tuple(sorted({post for table, post in told if table in unfit}))
    return shift, NotShifted(stay, "; ".join(words[:3]))


def _lines(
    sizes: tuple[PostLine, ...], size_of: Integers, shift_m: Floats, counts: Integers
) -> tuple[tuple[PostLine, ...], Integers, Integers]:
    """The lines of posts that differ, each one's size, and of each table which is its own."""
    lines, size_of_line = list(sizes), list(range(len(sizes)))
    line_of = size_of.copy()
    known: dict[tuple[int, bytes], int] = {}
    first = np.cumsum(counts) - counts
    of_post = np.repeat(np.arange(counts.size), counts)
    for table in np.unique(of_post[shift_m != 0]).tolist():
        by_m = shift_m[first[table] : first[table] + counts[table]]
        size = int(size_of[table])
        which = (size, by_m.tobytes())
        if which not in known:
            known[which] = len(lines)
            lines.append(shifted(sizes[size], by_m))
            size_of_line.append(size)
        line_of[table] = known[which]
    return tuple(lines), np.array(size_of_line), line_of
