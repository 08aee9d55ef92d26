"""How a job begins: from nothing, or with the arrays of another."""

from datetime import date

from openfurrow.core.codes import RulePack
from openfurrow.core.design import ARRAY_STAGES, FIRST_ARRAY, ArrayGivens, Design
from openfurrow.core.edits import validated
from openfurrow.core.fields import fields
from openfurrow.core.looked import with_book
from openfurrow.core.paths import in_array

# Of an array: what another piece of ground asked for, and this one has not.
OF_THE_GROUND = {
    "rows": ("tables", "turn_deg", "pitch_m"),
    "structure": ("shifts",),
    "footings": (
        "depth_m",
        "why",
        "pull_tested",
        "rock_bond_pa",
        "bored_diameter_m",
        "bore_spread_m",
        "stone_chance_per_m",
        "loose_top_m",
        "slab_holds",
        "ground_bites",
        "predrilled",
    ),
}
# Stages of the job that go with its arrays: what is bought, and how it is wired.
WITH_ARRAYS = ("wiring", "materials")
# Said with the job's name, when it is begun.
SAID_AT_ONCE = frozenset({"site.rule_pack", "site.display_units"})
DAY = "sun.walk_date"


def from_nothing(name: str, pack: RulePack, day: date) -> Design:
    """A job of which nobody has said anything but its name and its rules.

    What practice has a value for is as those rules have it; whether something stands there already
    is asked first. It is walked on ``day`` until somebody says else.
    """
    data = Design(name=name, arrays=(ArrayGivens(id=FIRST_ARRAY, standing=None),)).model_dump()
    for field in fields().values():
        holder = data["arrays"][0] if field.stage in ARRAY_STAGES else data
        holder[field.stage][field.path.removeprefix(f"{field.stage}.")] = field.practice(pack)
    data["site"] |= {"rule_pack": pack, "display_units": pack}
    data["sun"]["walk_date"] = day
    return with_book(validated(data).model_copy(update={"taken": (DAY,)}), SAID_AT_ONCE)


def begun_like(new: Design, model: Design) -> Design:
    """A job from nothing with the arrays of another, what is bought for them and how they are wired.

    They stand as they stood to each other, the first at the origin; what only the other ground asked
    for stays there: shifted posts, tables of their own, a turn, a depth that was held, what was tested
    and what bores met. How their rows lie was decided for another place: it is taken, and nobody has
    looked at it here.
    """
    first = model.arrays[0].rows
    arrays = tuple(_on_new_ground(one, (first.at_east_m, first.at_north_m)) for one in model.arrays)
    rows = tuple(
        in_array(array.id, path)
        for array in arrays
        for path in (field.path for field in fields().values() if field.stage == "rows")
    )
    anew = {
        *rows,
        *(
            in_array(array.id, f"{stage}.{name}")
            for array in arrays
            for stage, names in OF_THE_GROUND.items()
            for name in names
        ),
    }
    kept = frozenset(
        path
        for path in model.looked
        if path.startswith(tuple(f"{part}." for part in (*WITH_ARRAYS, "arrays"))) and path not in anew
    )
    return with_book(
        new.model_copy(
            update={
                "arrays": arrays,
                "taken": tuple(sorted({*new.taken, *rows})),
                **{stage: getattr(model, stage) for stage in WITH_ARRAYS},
            }
        ),
        kept | frozenset(new.looked),
    )


def _on_new_ground(array: ArrayGivens, from_m: tuple[float, float]) -> ArrayGivens:
    stages = {
        stage: getattr(array, stage).model_copy(
            update={
                name: type(getattr(array, stage)).model_fields[name].default
                for name in OF_THE_GROUND.get(stage, ())
            }
        )
        for stage in ARRAY_STAGES
    }
    rows = stages["rows"]
    stages["rows"] = rows.model_copy(
        update={"at_east_m": rows.at_east_m - from_m[0], "at_north_m": rows.at_north_m - from_m[1]}
    )
    # What stood there already is asked about: here it may be to build.
    return array.model_copy(update={**stages, "standing": None if array.standing else False})
