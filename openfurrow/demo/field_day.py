"""The first day in the field of the Larkspur job: four posts, of which one stopped. All invented."""

import uuid
from datetime import UTC, datetime, timedelta

from openfurrow.core.design import Design
from openfurrow.core.fieldbook.records import RecordKind
from openfurrow.core.plan import plan
from openfurrow.core.quantities import format_value
from openfurrow.core.structures.supports import support_id
from openfurrow.store.field_records import Sent

MORNING = datetime(2026, 4, 20, 15, 10, tzinfo=UTC)
# Of the first posts of the first array: what was measured, how far off the planned depth, and a note.
DAY: tuple[tuple[RecordKind, float, str], ...] = (
    ("depth", 0.0, ""),
    ("depth", 0.0254, "went in easily"),
    ("refusal", -0.6604, "rings on rock, two tries"),
    ("depth", -0.0127, ""),
)


def first_day(design: Design) -> tuple[Sent, ...]:
    """Records of the first four posts."""
    found = plan(design)
    places, depths = found.places, found.footings.posts.depths_m
    array = design.arrays[0].id
    sent = []
    for index, (kind, off_m, note) in enumerate(DAY):
        name = f"{array}:{support_id(found.rows, places, index)}"
        depth_m = float(depths[index]) + off_m
        sent.append(
            Sent(
                id=uuid.uuid5(uuid.NAMESPACE_URL, f"{design.name} {name}"),
                device="demo phone",
                kind=kind,
                of=name,
                value=depth_m,
                typed=format_value(depth_m, "tape", design.site.display_units),
                east_m=float(places.east_m[index]),
                north_m=float(places.north_m[index]),
                note=note,
                settles=(),
                device_time=MORNING + timedelta(minutes=35 * index),
            )
        )
    return tuple(sent)
