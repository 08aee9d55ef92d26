"""What each stage must be told before it computes: its own needs, and those of what it stands on."""

from collections.abc import Mapping
from functools import lru_cache

from openfurrow.core.design import ARRAY_STAGES, STAGES, Design
from openfurrow.core.paths import in_array, stamped
from openfurrow.core.site.known import ground_of

# Of the job itself, in the order of the walk; what is left out on other ground is not asked for.
PLACE = ("site.latitude_deg", "site.longitude_deg", "site.elevation_m", "site.time_zone")
OF_THE_PLANE = ("site.slope", "site.falls_toward_deg")
OWN: Mapping[str, tuple[str, ...]] = {
    "site": (),
    "sun": PLACE,
    "rows": (*OF_THE_PLANE, "rows.modules_along"),
    "structure": ("site.wind_speed_m_s", "site.ground_snow_pa"),
    "footings": ("site.soil_class", "site.frost_depth_m"),
    "frame": (),
    "modules": (),
    # How thick the pipe is follows from the wires, and those from the heat.
    "trench": ("site.route", "site.lowest_temperature_c", "site.hottest_temperature_c"),
    "wiring": (),
    "materials": (),
    "stakeout": (),
    "schedule": ("site.dig_date",),
}
# What each stage stands on; a stage of the job stands on that of every array.
STANDS_ON: Mapping[str, tuple[str, ...]] = {
    "site": (),
    "sun": (),
    "rows": ("sun",),
    "structure": ("rows",),
    "footings": ("structure",),
    "frame": ("structure",),
    "modules": ("structure",),
    "trench": ("structure",),
    "wiring": ("trench",),
    "materials": ("footings", "frame", "modules", "wiring"),
    "stakeout": ("footings",),
    # What is done, and how long it takes, follows from all that is set out, listed and wired.
    "schedule": ("materials", "stakeout"),
}
# The first that is asked: what stands there already is measured, not laid out.
STANDING = "standing"
Lacks = Mapping[tuple[str, str], tuple[str, ...]]


def _open(design: Design) -> frozenset[str]:
    """Paths that are needed and hold nothing."""
    site = design.site
    plain = (*PLACE, *OWN["structure"], "site.frost_depth_m", *OWN["trench"][1:], *OWN["schedule"])
    empty = {path for path in plain if getattr(site, path.removeprefix("site.")) is None}
    if site.soil_class is None and not site.test_holes:
        empty.add("site.soil_class")
    # Level ground falls nowhere; where shots make no surface the plane is asked for.
    unsaid = {
        path
        for path, value in zip(OF_THE_PLANE, (site.slope, site.falls_toward_deg), strict=True)
        if value is None and not (path == OF_THE_PLANE[1] and site.slope == 0.0)
    }
    if unsaid and ground_of(site).surface is None:
        empty |= unsaid
    if not site.route:
        empty.add("site.route")
    for array in design.arrays:
        if array.standing is None:
            empty.add(in_array(array.id, STANDING))
        if array.rows.modules_along is None:
            empty.add(stamped("rows.modules_along", array.id))
    return frozenset(empty)


@lru_cache(maxsize=64)
def lacks_of(design: Design) -> Lacks:
    """What each stage lacks, by array (empty: the job's own) and stage; empty tuples where nothing."""
    empty = _open(design)
    found: dict[tuple[str, str], tuple[str, ...]] = {}
    ids = tuple(array.id for array in design.arrays)
    for stage in STAGES:
        for array in ids if stage in ARRAY_STAGES else ("",):
            wanted: dict[str, None] = {}
            if stage == ARRAY_STAGES[0]:
                wanted |= dict.fromkeys({in_array(array, STANDING)} & empty)
            for before in STANDS_ON[stage]:
                whose = ("",) if before not in ARRAY_STAGES else (array,) if array else ids
                for one in whose:
                    wanted |= dict.fromkeys(found[one, before])
            wanted |= dict.fromkeys(
                path for path in (stamped(own, array) for own in OWN[stage]) if path in empty
            )
            found[array, stage] = tuple(wanted)
    return found


def missing(design: Design) -> tuple[str, ...]:
    """All that only people can say and nobody has, in the order they learn it."""
    lacks = lacks_of(design)
    wanted = dict.fromkeys(path for path in _of_all(lacks, ARRAY_STAGES[0]) if path.endswith(STANDING))
    wanted |= dict.fromkeys(path for stage in STAGES for path in _of_all(lacks, stage))
    return tuple(wanted)


def _of_all(lacks: Lacks, stage: str) -> list[str]:
    return [path for (_, of), paths in lacks.items() if of == stage for path in paths]
