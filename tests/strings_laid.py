"""Strings laid module by module, by hand as it were: an outside count of links, jumpers and wire."""

from collections.abc import Iterator, Sequence
from itertools import groupby, pairwise
from typing import NamedTuple

from openfurrow.core.design import ArrayGivens, Design

# A hand's breadth at each end of a link, for the bend and the plug.
EASE_M = 0.2
CLAMPED = 0.22


class Laid(NamedTuple):
    """A module: its column along and back, which table in which line, which column, how far up."""

    x: float
    y: float
    table: int
    line: int
    column: int
    row: int


class Way(NamedTuple):
    """A string's modules in the order in which it passes them; ``turned``: from the far end."""

    turned: bool
    passes: list[Laid]


def _in_block(block: list[Laid], walk: str, far: bool) -> Iterator[Laid]:
    columns = sorted({(one.table, one.column) for one in block}, reverse=far)
    if walk == "column by column":
        for number, column in enumerate(columns):
            own = sorted((o for o in block if (o.table, o.column) == column), key=lambda o: o.row)
            yield from own if number % 2 == 0 else reversed(own)
        return
    for row in sorted({one.row for one in block}):
        own = sorted((o for o in block if o.row == row), key=lambda o: (o.table, o.column), reverse=far)
        if walk == "every other and back":
            yield from own[0::2]
            yield from reversed(own[1::2])
        else:
            yield from own if row % 2 == 0 else reversed(own)


def strings_laid(
    modules: Sequence[Laid],
    lengths: Sequence[int],
    walk: str,
    home: tuple[float, float],
    *,
    one_end: bool = False,
) -> list[Way]:
    """Each string begins where less wire goes home: from both its ends, or from the nearer alone."""
    every = list(modules)
    if walk == "whole rows":
        every.sort(key=lambda o: (o.table, o.row, o.column if o.row % 2 == 0 else -o.column))
    found, at = [], 0
    for length in lengths:
        own = every[at : at + length]
        at += length
        if walk == "whole rows":
            found.append(Way(False, own))
            continue
        blocks = [list(block) for _, block in groupby(own, key=lambda o: o.line)]
        ways = [
            Way(far, [one for block in blocks for one in _in_block(block, walk, far)])
            for far in (False, True)
        ]
        homes = []
        for way in ways:
            ends = [abs(m.x - home[0]) + abs(m.y - home[1]) for m in (way.passes[0], way.passes[-1])]
            homes.append(min(ends) if one_end else sum(ends))
        # A millimetre turns nobody round.
        found.append(ways[homes[1] < homes[0] - 1e-3])
    assert at == len(every)
    return found


Ends = tuple[tuple[float, float], tuple[float, float]]


def plug_ends(given: ArrayGivens, row: int) -> Ends:
    """Where the two leads leave a module of a row: from its column's middle, up from the lower edge."""
    m = given.modules
    deep = (
        m.junction_in_m if m.junction_in_m is not None else (m.length_m / 2 if m.cells_halved else 0.1)
    )
    usual = 0.6 * m.width_m if m.cells_halved else 0.05
    half = (m.junction_apart_m if m.junction_apart_m is not None else usual) / 2
    lies = given.rows.orientation == "landscape"
    tall = m.width_m if lies else m.length_m
    middle = row * (tall + m.gap_up_m) + tall / 2
    first, last = (
        ((deep - m.length_m / 2, -half), (deep - m.length_m / 2, half))
        if lies
        else ((-half, m.length_m / 2 - deep), (half, m.length_m / 2 - deep))
    )
    sign = -1 if m.every_second_turned and row % 2 else 1
    return (
        (sign * first[0], middle + sign * first[1]),
        (sign * last[0], middle + sign * last[1]),
    )


def box_place(design: Design, given: ArrayGivens, row: int) -> tuple[float, float]:
    """Where the box of a module of a row hangs, likewise."""
    (ax, ay), (bx, by) = plug_ends(given, row)
    w, m = design.wiring, given.modules
    if w.box_hangs == "the module's frame":
        return w.box_aside_m + (ax + bx) / 2, (ay + by) / 2
    tall = m.width_m if given.rows.orientation == "landscape" else m.length_m
    share = 1 - CLAMPED if w.box_hangs == "the upper purlin" else CLAMPED
    return w.box_aside_m, row * (tall + m.gap_up_m) + share * tall


class Joined(NamedTuple):
    """Links that are wired, the wire in them, leads that do not reach their box, what those lack."""

    jumpers: int
    wire_m: float
    short: int
    lack_m: float
    farthest_m: float


def joined(design: Design, given: ArrayGivens, strings: list[Way], step_m: float) -> Joined:
    """Every link of every string; of those that go one way the pole leads that reaches most."""
    boxes = design.wiring.electronics == "by the module"
    reach = 2 * (design.wiring.box_output_m if boxes else given.modules.lead_m)

    def ends(row: int) -> Ends:
        return (box_place(design, given, row),) * 2 if boxes else plug_ends(given, row)

    def linked(turned: bool, out: int) -> list[tuple[float, bool, bool]]:
        links = []
        for string in strings:
            for a, b in pairwise(string.passes) if string.turned == turned else ():
                (x0, y0), (x1, y1) = ends(a.row)[out], ends(b.row)[1 - out]
                one = a.table == b.table
                on = (b.column - a.column) * step_m if one else b.x - a.x
                off = 0.0 if one else abs(b.y - a.y)
                way = abs(on + x1 - x0) + abs(y1 - y0) + off
                links.append((way, one, one or a.line == b.line))
        return links

    def lacking(links: list[tuple[float, bool, bool]]) -> tuple[int, float]:
        over = sum(way + EASE_M > reach + 1e-9 for way, _, _ in links)
        return over, round(sum(way for way, _, _ in links), 6)

    links = [
        link
        for turned in (False, True)
        for link in min((linked(turned, out) for out in (1, 0)), key=lacking)
    ]
    jumpers, wire, farthest = 0, 0.0, 0.0
    for way, one, line in links:
        farthest = max(farthest, way + EASE_M if one else 0.0)
        if not line:
            jumpers, wire = jumpers + 1, wire + way
        elif way + EASE_M > reach + 1e-9:
            jumpers, wire = jumpers + 1, wire + way + EASE_M - reach
    short, lack = 0, 0.0
    for string in strings if boxes else []:
        for one in string.passes:
            bx, by = box_place(design, given, one.row)
            for x, y in plug_ends(given, one.row):
                need = abs(x - bx) + abs(y - by) + EASE_M
                over_m = need - given.modules.lead_m - design.wiring.box_input_m
                short += over_m > 1e-9 or design.wiring.box_plugs == "another make"
                lack += max(over_m, 0.0)
    return Joined(jumpers, wire, short, lack, farthest)
