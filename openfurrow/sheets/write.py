"""Writing a plan as sheets."""

from collections import Counter
from dataclasses import replace

from openfurrow.core.checks import LEVELS, MENDED_THERE, Check, worst_first
from openfurrow.core.design import ARRAY_STAGES, BUILT_STAGES, PLACES, Design
from openfurrow.core.energy.around import far_horizon
from openfurrow.core.fields import (
    ARRAY_OWN,
    ARRAY_STANDING,
    NAME,
    Field,
    field_at,
    fields,
    value_at,
)
from openfurrow.core.labels import label_of
from openfurrow.core.looked import not_looked
from openfurrow.core.paths import address_of, in_array, stamped
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.unsaid import KEY as UNSAID
from openfurrow.core.working import Answer
from openfurrow.sheets.assembly_table import assembly_table
from openfurrow.sheets.bonding_table import bonding_table
from openfurrow.sheets.built_tables import (
    care_table,
    covers_table,
    inspections_table,
    posts_table,
    strings_table,
)
from openfurrow.sheets.cautions import caution as caution_of
from openfurrow.sheets.cost_tables import costs_table, priced_table
from openfurrow.sheets.drawings.built import built_drawing, serial_drawing
from openfurrow.sheets.drawings.carried import used_drawing
from openfurrow.sheets.drawings.cut import cut
from openfurrow.sheets.drawings.cutting import cutting_drawings
from openfurrow.sheets.drawings.footings import footings_drawing
from openfurrow.sheets.drawings.frame import frame_drawing
from openfurrow.sheets.drawings.modules import modules_drawing, strings_drawing
from openfurrow.sheets.drawings.on_wall import on_wall_drawing
from openfurrow.sheets.drawings.one_line import one_line_drawing
from openfurrow.sheets.drawings.overhead import stakes_drawing
from openfurrow.sheets.drawings.rows import rows_drawing
from openfurrow.sheets.drawings.schedule import schedule_drawing
from openfurrow.sheets.drawings.site import site_drawing
from openfurrow.sheets.drawings.structure import structure_drawing
from openfurrow.sheets.drawings.sun import sun_drawing
from openfurrow.sheets.drawings.tables import tables_drawing
from openfurrow.sheets.drawings.tested import tested_drawings
from openfurrow.sheets.drawings.trench import trench_drawing
from openfurrow.sheets.drawings.wall import wall_drawing
from openfurrow.sheets.forms import field_text, list_text, named_places, table_places, with_own
from openfurrow.sheets.kinds import kinds_table
from openfurrow.sheets.load_tables import load_tables
from openfurrow.sheets.marks import Drawing
from openfurrow.sheets.models import (
    AnswerText,
    CheckText,
    EditText,
    GivenText,
    InputText,
    JobSheet,
    MendText,
    MissingText,
    PracticeText,
    StageMark,
    StageSheet,
    State,
    TableText,
    WorkingText,
)
from openfurrow.sheets.pallet_table import pallet_tables
from openfurrow.sheets.readings_table import readings_tables
from openfurrow.sheets.saw_tables import bundles_table, cuts_table, sticks_table
from openfurrow.sheets.schedule_tables import days_table, tasks_table
from openfurrow.sheets.section_table import sections_table
from openfurrow.sheets.tables import (
    materials_table,
    shadow_table,
    stakes_table,
    tickets_table,
)
from openfurrow.sheets.tested_table import tested_table
from openfurrow.sheets.tilt_tables import tilts_table
from openfurrow.sheets.touching_table import touching_table
from openfurrow.sheets.tree_table import tree_table
from openfurrow.sheets.wire_tables import on_wall_tables, signs_table, wires_table

# What stands in a field that only people can fill.
NOT_SAID = "not said yet"
# Ways of other arrays: asked for where there are others.
SPURS = "site.spurs"
# What each stage's first number is called where there is room for one word.
SHORT = {
    "site": "fall",
    "sun": "compass",
    "rows": "pitch",
    "structure": "posts at",
    "footings": "depth",
    "frame": "beams",
    "modules": "first",
    "trench": "dig",
    "wiring": "strings",
    "materials": "lines",
    "stakeout": "ends",
    "schedule": "done",
    "fieldbook": "posts",
    "handover": "on",
}
# The same where the first number is another one than most jobs have.
SHORT_OF = {
    "locate": "lines",
    "rail": "rails",
    "reveal": "pole",
    "from_origin": "origin",
    "weight_1": "front",
    "supports": "held at",
    "to_a_layer": "a layer",
    "lines": "lines",
}


def answer_text(answer: Answer, units: UnitSystem) -> AnswerText:
    """An answer with its working, in the reader's units."""
    working = answer.working
    text = format_value(working.value, working.kind, units)
    return AnswerText(
        array=answer.array,
        stage=answer.stage,
        key=answer.key,
        label=in_words(answer.label, units),
        text=text,
        headline=answer.headline,
        working=WorkingText(
            symbol=working.symbol,
            formula=working.formula,
            inputs=tuple(
                InputText(
                    symbol=item.symbol,
                    meaning=item.meaning,
                    value=format_value(item.value, item.kind, units),
                )
                for item in working.inputs
            ),
            value=text,
            source=working.source.text,
            sureness=working.source.sureness,
            note=in_words(working.note, units),
        ),
    )


def check_text(check: Check, units: UnitSystem) -> CheckText:
    """A check in the reader's units."""
    relation = {"<=": "at most", ">=": "at least", "is": "wanted"}[check.relation]
    given = address_of(check.given) if check.given != MENDED_THERE else None
    return CheckText(
        array=check.array,
        stage=check.stage,
        key=check.key,
        title=check.title,
        level=check.level,
        measured=in_words(format_value(check.measured, check.kind, units), units),
        relation=relation,
        limit=format_value(check.limit, check.kind, units),
        remedy=in_words(check.remedy, units),
        source=check.source.text,
        given=check.given,
        given_stage=given.stage if given else check.stage,
        given_array=given.array if given else check.array,
        mends=tuple(
            MendText(
                words=in_words(mend.words, units),
                edits=tuple(EditText(path=path, text=text) for path, text in mend.edits),
            )
            for mend in check.mends
        ),
    )


def _own_value(field: Field, plan: Plan, units: UnitSystem) -> str:
    """What the plan takes where an optional field is left empty."""
    if field.needed:
        return NOT_SAID
    soils = plan.site.known_soils
    own = {
        "rows.pitch_m": plan.rows.pitch_m if plan.has("rows") else None,
        "footings.depth_m": plan.footings.posts.depth_m if plan.has("footings") else None,
        "site.fine_soil_top_m": soils[0].frost_grip_m if soils else None,
        "site.hand_dig_m": plan.site.hand_dig.value,
        "site.machine_width_m": plan.site.access.machine.value,
        "site.chute_reach_m": plan.site.access.chute.value,
        "site.pump_reach_m": plan.site.access.pump.value,
    }.get(field.path)
    return "" if own is None else f"{format_value(own, field.kind, units)} (the plan's own)"


def _written(stage: str, plan: Plan) -> bool:
    """Whether there is anything to draw or list."""
    return stage in plan.built if stage in BUILT_STAGES else plan.has(stage)


def _drawings(stage: str, design: Design, plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    if not _written(stage, plan):
        return ()
    match stage:
        case "site":
            return site_drawing(plan, units)
        case "sun":
            return sun_drawing(plan, far_horizon(design.sun.horizon))
        case "rows":
            return (*rows_drawing(plan, units), tables_drawing(plan, units))
        case "structure":
            return structure_drawing(plan, units)
        case "footings":
            moved = design.array(plan.array.id).footings.test_moved_m
            shown = footings_drawing(plan, units)
            return (*shown, used_drawing(plan), *tested_drawings(plan, moved, units))
        case "frame":
            return frame_drawing(plan, units)
        case "modules":
            return modules_drawing(plan, units)
        case "trench":
            return (*trench_drawing(plan, units), *wall_drawing(plan, units))
        case "wiring":
            return (
                *strings_drawing(plan, units),
                one_line_drawing(plan, units),
                *on_wall_drawing(plan, units),
            )
        case "materials":
            return cutting_drawings(plan, units)
        case "stakeout":
            return stakes_drawing(plan, units)
        case "schedule":
            return schedule_drawing(plan, units)
        case "fieldbook":
            return built_drawing(plan, units)
        case "handover":
            return (serial_drawing(plan),)
    raise KeyError(stage)


def _tables(stage: str, design: Design, plan: Plan, units: UnitSystem) -> tuple[TableText, ...]:
    if not _written(stage, plan):
        return ()
    if stage == "site":
        return (tickets_table(plan),)
    if stage == "sun":
        return (shadow_table(plan),)
    if stage == "structure":
        return (kinds_table(plan, units),)
    if stage == "frame":
        tilts = tilts_table(plan, units)
        tables = (assembly_table(plan, units), *(() if tilts is None else (tilts,)))
        return (*tables, touching_table(plan))
    if stage == "modules":
        return (bonding_table(plan),)
    if stage == "footings":
        return (tested_table(plan, units),) if plan.footings.posts.tests else ()
    if stage == "trench":
        return (sections_table(plan, units),) if plan.trench.sections else ()
    if stage == "wiring":
        readings = readings_tables(design, plan, units)
        hung = on_wall_tables(plan, units)
        return (wires_table(plan, units), *readings, *hung, signs_table(plan, units))
    if stage == "materials":
        lists = (
            materials_table(plan, units),
            sticks_table(plan, units),
            cuts_table(plan, units),
            bundles_table(plan),
            tree_table(plan, design, units),
            *(load_tables(plan, units) if plan.has("schedule") else ()),
            *(pallet_tables(plan, units) if plan.has("schedule") else ()),
        )
        if not any(one.price for one in plan.materials.cost.priced):
            return lists
        return (*lists, costs_table(plan, design.materials), priced_table(plan, units))
    if stage == "stakeout":
        return (stakes_table(plan, units),)
    if stage == "schedule":
        return (days_table(plan, units), tasks_table(plan, units))
    if stage == "fieldbook":
        return (posts_table(plan, units), covers_table(plan, units), strings_table(plan, units))
    if stage == "handover":
        return (inspections_table(plan), care_table(plan))
    return ()


def _givens(
    stage: str, design: Design, plan: Plan, units: UnitSystem, practice: frozenset[str]
) -> tuple[GivenText, ...]:
    """The fields of a stage, those of the array that is open, with what they hold.

    An empty optional one shows the plan's own value behind.
    """
    if stage in BUILT_STAGES:
        return ()
    array = plan.array.id if stage in ARRAY_STAGES else ""
    holder = design.array(array) if array else design
    shown, pack = getattr(holder, stage).shown(), design.site.rule_pack
    several = len(design.arrays) > 1
    named = ARRAY_OWN if stage == ARRAY_STAGES[0] and several else ()
    own = tuple(
        field
        for field in fields().values()
        if field.stage == stage
        and field.pack in (None, pack)
        and not field.item
        and field.path.removeprefix(f"{stage}.") in shown
    )
    # Of one array alone nobody asks on Rows: whether it stands is the first question of the job.
    path = in_array(plan.array.id, ARRAY_STANDING.path)
    standing = (replace(ARRAY_STANDING, group=NAME.group), path)
    first = ((NAME, NAME.path), *(() if several else (standing,))) if stage == "site" else ()
    return tuple(
        field_text(
            with_own(field, design, [value_at(design, path)]),
            path,
            value_at(design, path),
            _own_value(field, plan, units),
            units,
            practice,
        )
        for field, path in (*first, *((field, in_array(array, field.path)) for field in (*named, *own)))
    )


def stage_sheet(stage: str, design: Design, plan: Plan, units: UnitSystem) -> StageSheet:
    """One stage's screen, of the array that is open. Raises KeyError for an unknown stage."""
    answers, checks = plan.shown(stage)
    practice = frozenset(not_looked(design))
    if stage == "materials":
        # Each line of the list stands in the table; only the totals are answers of their own.
        lines = {line.key for line in plan.materials.lines} if plan.has(stage) else set()
        answers = tuple(answer for answer in answers if answer.key not in lines)
    return StageSheet(
        stage=stage,
        array=plan.array.id if stage in ARRAY_STAGES else "",
        givens=_givens(stage, design, plan, units, practice),
        lists=tuple(
            list_text(field, path, value_at(design, path), units, design, practice)
            for field in fields().values()
            if field.stage == stage
            and field.item
            and (field.path != SPURS or len(design.arrays) > 1 or design.site.spurs)
            for path in (stamped(field.path, plan.array.id),)
        ),
        places=named_places(design, plan, units)
        if stage == "site"
        else table_places(design, plan, units)
        if stage == "rows" and plan.has(stage)
        else (),
        answers=tuple(answer_text(answer, units) for answer in answers),
        checks=tuple(check_text(check, units) for check in worst_first(checks)),
        drawings=_drawings(stage, design, plan, units),
        tables=_tables(stage, design, plan, units),
        caution=in_words(caution_of(stage, plan), units),
        tilts=len(plan.rows.positions) if plan.has("rows") else 0,
    )


def job_sheet(design: Design, plan: Plan, units: UnitSystem) -> JobSheet:
    """The cut, every stage's state and the stops, worst first."""
    marks = []
    practice = practice_texts(design)
    checks = [check for check in plan.checks if check.key != UNSAID]
    for stage in PLACES:
        levels = [check.level for check in checks if check.stage == stage]
        state: State = min(levels, key=LEVELS.index, default="sound")
        known = plan.has(stage) and (levels or stage not in BUILT_STAGES)
        first = next((answer for answer in plan.shown(stage)[0] if answer.headline), None)
        marks.append(
            StageMark(
                stage=stage,
                state=state if known else "nothing",
                short=SHORT_OF.get(first.key if first else "", SHORT[stage]),
                headline=format_value(first.value, first.kind, units) if first else "",
                practice=sum(len(group.labels) for group in practice if group.stage == stage),
            )
        )
    told = once(tuple(checks), len(plan.arrays))
    return JobSheet(
        cut=cut(plan),
        stages=tuple(marks),
        missing=missing_texts(plan.missing, len(plan.arrays), units),
        practice=practice,
        stops=tuple(check_text(c, units) for c in told if c.level != "sound"),
        sound=sum(check.level == "sound" for check in told),
    )


def missing_texts(paths: tuple[str, ...], arrays: int, units: UnitSystem) -> tuple[MissingText, ...]:
    """What has still to be said, each with where a planner gets it and where it is typed."""
    # Whether an array stands is asked with the job's name, or with the array's where there are several.
    own = "site" if arrays == 1 else ARRAY_STAGES[0]
    found = []
    for path in paths:
        field, at = field_at(path), address_of(path)
        assert field is not None
        found.append(
            MissingText(
                path=path,
                label=field.label,
                stage=at.stage or own,
                array=at.array,
                where=in_words(field.where, units),
            )
        )
    return tuple(found)


def practice_texts(design: Design) -> tuple[PracticeText, ...]:
    """What is practice and nobody has looked at, group by group as the forms have it."""
    groups: dict[tuple[str, str, str], list[str]] = {}
    for path in not_looked(design):
        at = address_of(path)
        groups.setdefault((at.stage, at.array, fields()[at.pattern].group), []).append(path)
    return tuple(
        PracticeText(
            stage=stage,
            array=array,
            group=group,
            path=paths[0],
            labels=tuple(label_of(path) for path in paths),
        )
        for (stage, array, group), paths in groups.items()
    )


def _shown_alike(value: float | str) -> float | str:
    """Numbers that differ in their last bits alone are one."""
    return value if isinstance(value, str) else float(f"{round(value, 9):.9g}")


def once(checks: tuple[Check, ...], arrays: int) -> tuple[Check, ...]:
    """What every one of several arrays says alike is told once, and of none of them."""

    def said(check: Check) -> tuple[object, ...]:
        values = (_shown_alike(check.measured), _shown_alike(check.limit))
        return check.stage, check.key, check.level, *values, check.remedy

    alike = Counter(said(check) for check in checks if check.array)
    found: dict[tuple[object, ...], Check] = {}
    for check in checks:
        of_all = arrays > 1 and check.array and alike[said(check)] == arrays
        key = said(check) if of_all else (check.array, check.stage, check.key)
        found.setdefault(key, replace(check, array="") if of_all else check)
    return tuple(found.values())
