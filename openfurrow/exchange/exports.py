"""Which files a plan can be written to, by name."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.exchange.built_csv import (
    as_built_csv,
    covers_csv,
    inspections_csv,
    serials_csv,
    strings_csv,
)
from openfurrow.exchange.care_out import care_ics
from openfurrow.exchange.design_json import write_design
from openfurrow.exchange.geojson import plan_geojson
from openfurrow.exchange.ground_out import shots_csv, site_geojson, surface_xml
from openfurrow.exchange.one_line_out import one_line_dxf, one_line_svg
from openfurrow.exchange.plan_json import plan_json
from openfurrow.exchange.prices_csv import prices_csv
from openfurrow.exchange.profiles_csv import profiles_csv
from openfurrow.exchange.schedule_out import schedule_csv, schedule_ics
from openfurrow.exchange.site_dxf import site_dxf
from openfurrow.exchange.tables_csv import (
    cuts_csv,
    loads_csv,
    materials_csv,
    practice_csv,
    signs_csv,
    stakes_csv,
    sticks_csv,
    wires_csv,
)
from openfurrow.exchange.wanted import Wanted
from openfurrow.exchange.workbook import MEDIA_TYPE, Table, workbook


@dataclass(frozen=True)
class Export:
    """One file a plan can become.

    Writing raises DesignError where there is nothing to write, Lacking where too little is known yet.
    """

    media_type: str
    write: Callable[[Design, Plan, Wanted], str | bytes]


# The sheets of the workbook.
SHEETS: Mapping[str, Table] = {
    "Materials": materials_csv,
    "Prices": prices_csv,
    "Loads": loads_csv,
    "Cuts": cuts_csv,
    "Sticks": sticks_csv,
    "Stakes": stakes_csv,
    "Wires": wires_csv,
    "Signs": signs_csv,
    "Schedule": schedule_csv,
}


EXPORTS: Mapping[str, Export] = {
    "design.json": Export("application/json", lambda design, plan, wanted: write_design(design)),
    "schedule.csv": Export("text/csv", schedule_csv),
    "schedule.ics": Export("text/calendar", schedule_ics),
    "as-built.csv": Export("text/csv", as_built_csv),
    "covers.csv": Export("text/csv", covers_csv),
    "strings.csv": Export("text/csv", strings_csv),
    "serials.csv": Export("text/csv", serials_csv),
    "inspections.csv": Export("text/csv", inspections_csv),
    "care.ics": Export("text/calendar", care_ics),
    "plan.json": Export("application/json", plan_json),
    "stakes.csv": Export("text/csv", stakes_csv),
    "cuts.csv": Export("text/csv", cuts_csv),
    "sticks.csv": Export("text/csv", sticks_csv),
    "materials.csv": Export("text/csv", materials_csv),
    "loads.csv": Export("text/csv", loads_csv),
    "wires.csv": Export("text/csv", wires_csv),
    "prices.csv": Export("text/csv", prices_csv),
    "profiles.csv": Export("text/csv", profiles_csv),
    "tables.xlsx": Export(
        MEDIA_TYPE, lambda design, plan, wanted: workbook(design, plan, wanted, SHEETS)
    ),
    "practice.csv": Export("text/csv", practice_csv),
    # GeoJSON is longitude and latitude, whatever is wanted.
    "plan.geojson": Export("application/geo+json", lambda design, plan, _: plan_geojson(design, plan)),
    "site.geojson": Export("application/geo+json", lambda design, plan, _: site_geojson(design, plan)),
    "one-line.svg": Export("image/svg+xml", one_line_svg),
    "one-line.dxf": Export("image/vnd.dxf", one_line_dxf),
    "signs.csv": Export("text/csv", signs_csv),
    "site.dxf": Export("image/vnd.dxf", site_dxf),
    "surface.xml": Export("application/xml", surface_xml),
    "shots.csv": Export("text/csv", shots_csv),
}


# What was built is written beside what it was built from, not beside a draft of what comes.
BUILT_FILES = frozenset(
    ("as-built.csv", "covers.csv", "strings.csv", "serials.csv", "inspections.csv", "care.ics")
)

# Which file a bare ending means where several have it.
BARE = {"geojson": "plan.geojson", "json": "design.json", "dxf": "site.dxf"}


def export_named(file_name: str) -> Export:
    """The export a file name asks for, by its ending. Raises KeyError with the choices."""
    lowered = file_name.lower()
    for name, export in EXPORTS.items():
        if lowered.endswith((f"/{name}", f"-{name}")) or lowered == name:
            return export
    ending = lowered.rsplit(".", 1)[-1]
    if ending in BARE:
        return EXPORTS[BARE[ending]]
    single = [name for name in EXPORTS if name.endswith(f".{ending}")]
    if len(single) == 1:
        return EXPORTS[single[0]]
    *names, last = (f"…{name}" for name in EXPORTS)
    raise KeyError(f"name the file {', '.join(names)} or {last}")
