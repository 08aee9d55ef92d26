"""A support that stopped short: every way on with its number, and those that are taken by one press."""

from openfurrow.core.codes import constant
from openfurrow.core.compare.refused import Instead, Refused, Shifted, refused_at
from openfurrow.core.design import Design
from openfurrow.core.footings.met import NOTHING_MET, Met
from openfurrow.core.lacking import Lacking
from openfurrow.core.paths import in_array
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.rows.stands import shift_words
from openfurrow.core.structures.supports import bent_id, support_id
from openfurrow.sheets.beside import edit
from openfurrow.sheets.field import cut_words
from openfurrow.sheets.models import AskedSheet, Column, MendText, RecordText, TableText

NO_WAY = "no depth that is looked at"


def refusal_sheet(
    design: Design,
    plan: Plan,
    units: UnitSystem,
    index: int,
    reached_m: float,
    met: Met = NOTHING_MET,
) -> AskedSheet:
    """Ways on for one support of the open array. Raises Lacking before its footings can be told."""
    if not plan.has("footings"):
        raise Lacking(plan.lacking("footings"))
    if plan.footings.weights is not None:
        return AskedSheet(
            drawings=(), tables=(), takes=(), note="Weights stand on the ground: nothing stops them."
        )
    found = refused_at(design, plan, index, reached_m, met)
    return AskedSheet(
        drawings=(),
        tables=(_table(plan, found, units),),
        takes=_takes(design, plan, found, units),
        note="Sized as its kind, which carries at least as much. How a drilled hole grips is not "
        "looked at, nor the concrete of a pier further down, nor how the steel of a post that leans "
        "bends. An engineer decides.",
        record=_record(plan, index, reached_m, units),
    )


def _record(plan: Plan, index: int, reached_m: float, units: UnitSystem) -> RecordText:
    """What the field book would hold of it."""
    places = plan.places
    return RecordText(
        kind="refusal",
        of=f"{plan.array.id}:{support_id(plan.rows, places, index)}",
        typed=format_value(reached_m, "tape", units),
        east_m=float(places.east_m[index]),
        north_m=float(places.north_m[index]),
    )


def _table(plan: Plan, found: Refused, units: UnitSystem) -> TableText:
    def tape(value: float) -> str:
        return format_value(value, "tape", units)

    fails = (*found.fails, *(check.title for check in found.strength))
    carries = not fails
    rows = [
        *_met_rows(plan, found, units),
        (
            "Keep it as it is",
            tape(found.reached_m),
            "carries" if carries else f"does not carry: {'; '.join(fails)}",
            cut_words(found.cut_m, carries, units),
        ),
        (
            "Go on down",
            tape(found.next_m) if found.next_m is not None else "",
            "carries there" if found.next_m is not None else f"carries at {NO_WAY}",
            _harder(plan),
        ),
        (
            "Drill through",
            tape(found.planned_m),
            "look",
            "To the depth that is planned, packed tight again; pull one.",
        ),
        *(_shift_row(plan, found.index, one, units) for one in found.shifted),
        *(_instead_row(one, found, units) for one in found.instead),
        _left_out_row(found, units),
    ]
    name = support_id(plan.rows, plan.places, found.index)
    return TableText(
        key="ways",
        title=f"Support {found.index + 1}, {name}: stopped at {tape(found.reached_m)} of "
        f"{tape(found.planned_m)}",
        columns=tuple(
            Column(title=title, number=number)
            for title, number in (
                ("Way", False),
                ("Number", True),
                ("Verdict", False),
                ("And", False),
            )
        ),
        rows=tuple(rows),
        left_out=0,
        note="",
    )


def _met_rows(plan: Plan, found: Refused, units: UnitSystem) -> list[tuple[str, str, str, str]]:
    """What is done first about what else was found: a lean is pulled out, water is pumped out."""
    rows, met, limit = [], found.met, constant("common", "post_plumb_deg").value
    if met.lean_deg > 0:
        over = met.lean_deg > limit + 1e-9
        rows.append(
            (
                "Pull it straight",
                format_value(met.lean_deg, "angle", units),
                "leans too far" if over else "near enough",
                f"To within {format_value(limit, 'angle', units)}, while the ground still gives; tamp "
                "it. Below it is reckoned as it leans.",
            )
        )
    if met.water_m is not None:
        how = "Pump it out before anything is poured; concrete through a pipe from the foot up"
        rows.append(
            (
                "Water in the hole",
                format_value(met.water_m, "tape", units),
                "look",
                f"{how}."
                if plan.footings.piers is not None
                else "Soil under it holds less: below it is reckoned so.",
            )
        )
    return rows


def _harder(plan: Plan) -> str:
    """What goes on where the first try stopped."""
    if plan.footings.piers is not None:
        return "Teeth of carbide, or a breaker."
    if plan.footings.screws is not None:
        return "Back out, break the stone, turn again; a smaller helix."
    return "A heavier hammer, where it was a stone."


def _along(plan: Plan, index: int) -> float:
    """Which way the row runs that a support stands in."""
    turn = plan.rows.tables.turn_deg[plan.places.of_table[index]]
    return plan.rows.along_deg + float(turn)


def _shift_row(plan: Plan, index: int, one: Shifted, units: UnitSystem) -> tuple[str, str, str, str]:
    stops = "; ".join(check.title for check in one.stops[:2])
    words = in_words(shift_words(one.by_m, _along(plan, index)), units)
    return (
        f"Shift its bent {words}",
        format_value(abs(one.by_m), "tape", units),
        "carries" if not one.stops else "stops",
        stops or "Within the spans; frame and stakes follow.",
    )


def _instead_row(one: Instead, found: Refused, units: UnitSystem) -> tuple[str, str, str, str]:
    pier = one.family == "bored pier"
    called = "Bore and set it in concrete" if pier else "Rock screw in a drilled hole"
    if one.depth_m is None:
        return (called, "", f"carries at {NO_WAY}", "")
    deeper = one.depth_m > found.reached_m + 1e-9
    past = "past what stopped it" if deeper else "above what stopped it"
    more = f"; concrete grows by {format_value(one.concrete_m3, 'volume', units)}" if pier else ""
    return (called, format_value(one.depth_m, "tape", units), "carries there", f"It ends {past}{more}.")


def _left_out_row(found: Refused, units: UnitSystem) -> tuple[str, str, str, str]:
    if found.gap_m is None:
        return ("Leave it out", "", "stops", "It is the last of its table.")
    gap = format_value(found.gap_m, "tape", units)
    most = format_value(found.span_limit_m, "tape", units)
    if found.gap_m > found.span_limit_m + 1e-9:
        return ("Leave it out", gap, "stops", f"The span that opens, at most {most}.")
    weak = [one for one in found.neighbours if one.fails]
    share = format_value(max(one.more for one in found.neighbours) - 1, "ratio", units)
    if weak:
        named = ", ".join(f"{one.index + 1}: {' and '.join(one.fails)}" for one in weak)
        return ("Leave it out", gap, "stops", f"Neighbours take {share} more; {named}.")
    return (
        "Leave it out",
        gap,
        "look",
        f"Neighbours take {share} more and carry it in their ground; posts, beams and purlins are to "
        "be looked at.",
    )


def _takes(design: Design, plan: Plan, found: Refused, units: UnitSystem) -> tuple[MendText, ...]:
    """Shifts that stop nothing, and drilling through."""
    array = plan.array.id
    bent = bent_id(plan.rows, plan.places, found.index)
    takes = [
        MendText(
            words=f"Shift {bent} by "
            + in_words(shift_words(one.by_m, _along(plan, found.index)), units),
            edits=(
                edit(
                    in_array(array, "structure.shifts"),
                    "\n".join(f"{name}, {by_m:.4f} m" for name, by_m in one.shifts),
                ),
            ),
        )
        for one in found.shifted
        if not one.stops
    ]
    if not design.array(array).footings.predrilled:
        takes.append(
            MendText(
                words="Drill through what stops",
                edits=(edit(in_array(array, "footings.predrilled"), "yes"),),
            )
        )
    return tuple(takes)
