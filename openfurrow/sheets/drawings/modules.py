"""Modules: one table square on, with purlins, clamps and edges; strings by number."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.wiring.walks import strings_of
from openfurrow.sheets.marks import (
    Drawing,
    Mark,
    Point,
    box,
    dimension,
    dot,
    drawing,
    label,
    line,
)

SHOWN_COLUMNS = 40


def _grid(plan: Plan, layer: str, columns: int) -> list[Mark]:
    """Module outlines of one table, lower edge at y = 0: of the most usual, or of the first."""
    rows = plan.rows
    return [
        box(layer, x, y, x + rows.module_along_m, y + rows.module_up_m)
        for x in plan.modules.edges_m[: min(columns, SHOWN_COLUMNS)].tolist()
        for y in rows.lows_m.tolist()
    ]


def modules_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """One table seen square to the glass: purlins behind, clamps at every edge."""
    rows = plan.rows
    # The most usual table, as its posts are drawn.
    table = int(plan.structure.posts.tables_of_size(0)[0])
    columns = int(rows.tables.columns[table])
    edges = plan.modules.edges_m[: min(columns, SHOWN_COLUMNS)]
    length, chord = plan.structure.posts.line.purlin_m, rows.section.chord_m
    places = plan.structure.members.places_m.tolist()
    marks = [*_grid(plan, "glass", columns), *_not_bonded(plan, table)]
    marks += [line("purlin", (0.0, y), (length, y)) for y in places]
    marks += _on_rails(plan) if plan.modules.on_rails else _on_purlins(plan, edges, places)
    marks += [
        line("post-line", (x, -0.25), (x, chord + 0.25))
        for x in plan.structure.posts.line.along_m.tolist()
    ]
    step = rows.column_step_m if edges.size > 1 else rows.module_along_m
    marks += [
        dimension(
            format_value(float(edges[0]), "tape", units), (0.0, chord), (float(edges[0]), chord), 6
        ),
        dimension(
            format_value(step, "tape", units), (float(edges[0]), 0.0), (float(edges[0]) + step, 0.0), -6
        ),
        dimension(format_value(chord, "tape", units), (length, 0.0), (length, chord), -8),
        dimension(format_value(places[0], "tape", units), (0.0, 0.0), (0.0, places[0]), 8),
    ]
    return (
        drawing(
            "modules",
            "One table, square to the glass",
            marks,
            low=(-3.2, -1.2),
            high=(length + 1.5, chord + 1.2),
        ),
    )


def _not_bonded(plan: Plan, table: int) -> list[Mark]:
    """The columns of a table from which no known path leads to the rods, and where it breaks."""
    rows = plan.rows
    of, number, _ = rows.each_column
    cut_off = number[(of == table) & ~plan.modules.bonding.reached]
    if not cut_off.size:
        return []
    chord, edges = rows.section.chord_m, plan.modules.edges_m
    first, last = float(edges[cut_off.min()]), float(edges[cut_off.max()]) + rows.module_along_m
    return [
        box("keep-out", first, 0.0, last, chord),
        label("no known path to the rods from here on", (first, chord + 0.35), "strong", "start"),
    ]


def _on_purlins(plan: Plan, edges: NDArray[np.float64], places: list[float]) -> list[Mark]:
    """Clamps where purlins pass the edges of modules."""
    rows, marks = plan.rows, []
    for y in places:
        marks.append(dot("end-clamp", (float(edges[0]), y)))
        marks.append(dot("end-clamp", (float(edges[-1]) + rows.module_along_m, y)))
        marks += [dot("mid-clamp", (x - rows.gap_along_m / 2, y)) for x in edges[1:].tolist()]
    return marks


def _on_rails(plan: Plan) -> list[Mark]:
    """Rails up the slope, and clamps where they pass the edges of modules."""
    rows, rail, marks = plan.rows, plan.structure.members.beam, []
    assert rail is not None
    chord, rails = rows.section.chord_m, plan.structure.posts.line.rails_m
    for x in [] if rails is None else rails[: 2 * SHOWN_COLUMNS].tolist():
        marks.append(line("rail", (x, rail.start_m), (x, rail.start_m + rail.length_m)))
        marks += [dot("end-clamp", (x, y)) for y in (0.0, chord)]
        marks += [dot("mid-clamp", (x, y - rows.gap_up_m / 2)) for y in rows.lows_m[1:].tolist()]
    return marks


def _ends_on(plan: Plan, here: int, there: int) -> tuple[Point, Point]:
    """Where a link leaves one module of the first table and arrives at another, each by its place in
    the order of the strings.
    """
    rows, leads = plan.rows, plan.circuit.leads

    def place(at: int, ends: NDArray[np.float64]) -> Point:
        column, _ = divmod(int(leads.order[at]), rows.modules_high)
        along, up = ends[at].tolist()
        return float(plan.modules.edges_m[column]) + rows.module_along_m / 2 + along, up

    return place(here, leads.leaves_m), place(there, leads.arrives_m)


def strings_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """The same table with the string each module belongs to; every string one tone and a number.

    The line is the way from module to module; where leads do not reach it is drawn apart.
    """
    rows, circuit = plan.rows, plan.circuit
    strings, leads = circuit.strings, circuit.leads
    grid = _grid(plan, "glass", int(rows.tables.columns[0]))
    # Of what is counted off, the modules that this table shows; every one of them is in a string.
    shown = {module: at for at, module in enumerate(leads.order.tolist()) if module < len(grid)}
    number = strings_of(strings.lengths)
    middles: list[Point] = [
        (sum(x for x, _ in mark.points) / 4, sum(y for _, y in mark.points) / 4) for mark in grid
    ]
    marks: list[Mark] = []
    left, up = rows.module_along_m * 0.3, rows.module_up_m * 0.3
    for module, (mark, (x, y)) in enumerate(zip(grid, middles, strict=True)):
        string = int(number[shown[module]])
        marks.append(mark.model_copy(update={"layer": f"string-{string % 4}"}))
        # The number stands aside of the line through them.
        marks.append(label(str(string + 1), (x - left, y + up), "string-note"))
    for at in shown.values():
        on = int(leads.order[at + 1]) if at + 1 < leads.order.size else -1
        if on in shown and number[at] == number[at + 1]:
            layer = "string-jumper" if leads.wired[at] else "string-run"
            (x, y), (x_on, y_on) = _ends_on(plan, at, at + 1)
            # Tied along the frames: along the row, then up or down.
            marks.append(line(layer, (x, y), (x_on, y), (x_on, y_on)))
            marks += [dot("string-plug", (x, y)), dot("string-plug", (x_on, y_on))]
        begins = at == 0 or number[at - 1] != number[at]
        ends = at + 1 == leads.order.size or number[at + 1] != number[at]
        # Of the first module nothing arrives at one lead, of the last nothing leaves by the other.
        leaves, arrives = _ends_on(plan, at, at)
        marks += [dot("string-end", arrives)] * int(begins) + [dot("string-end", leaves)] * int(ends)
    length, start = float(rows.tables.lengths_m[0]), plan.run.route.start_post
    box_at = float(plan.places.from_middle_m[start]) + length / 2 + float(plan.modules.edges_m[0])
    if plan.places.of_table[start] == 0:
        marks += [
            line(
                "copper",
                (float(plan.modules.edges_m[0]), -0.3),
                (length + float(plan.modules.edges_m[0]), -0.3),
            ),
            box("box", box_at - 0.2, -0.75, box_at + 0.2, -0.3),
            label(
                "junction box" if circuit.feed.outputs is None or circuit.branch else "inverters",
                (box_at + 0.35, -0.6),
                "note",
                "start",
            ),
        ]
    what, ending = ("branch", "es") if circuit.branch else ("string", "s")
    title = (
        f"First table: {strings.count} {what}{(ending if strings.count > 1 else '')}, "
        + (
            f"{format_value(circuit.trunk_home_m, 'run', units)} of trunk without plugs"
            if circuit.branch
            else f"{format_value(circuit.array_wire_m, 'run', units)} of array wire in all"
        )
        + (f", {leads.jumpers} jumper{'s' * (leads.jumpers > 1)}" if leads.jumpers else "")
    )
    return (drawing("strings", title, marks, margin=0.4),)
