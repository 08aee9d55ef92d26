"""Which files a plan can be written to, by name."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from openfurrow.core.design import Design
from openfurrow.core.plan import Plan
from openfurrow.exchange.design_json import write_design
from openfurrow.exchange.geojson import plan_geojson
from openfurrow.exchange.ground_out import shots_csv, site_dxf, site_geojson, surface_xml
from openfurrow.exchange.tables_csv import materials_csv, stakes_csv


@dataclass(frozen=True)
class Export:
    """One file a plan can become."""

    media_type: str
    write: Callable[[Design, Plan], str]


EXPORTS: Mapping[str, Export] = {
    "design.json": Export("application/json", lambda design, plan: write_design(design)),
    "stakes.csv": Export(
        "text/csv", lambda design, plan: stakes_csv(plan, design.site.display_units)
    ),
    "materials.csv": Export(
        "text/csv", lambda design, plan: materials_csv(plan, design.site.display_units)
    ),
    "plan.geojson": Export("application/geo+json", plan_geojson),
    "site.geojson": Export("application/geo+json", site_geojson),
    "site.dxf": Export("image/vnd.dxf", site_dxf),
    "surface.xml": Export("application/xml", surface_xml),
    "shots.csv": Export("text/csv", shots_csv),
}


# Which file a bare ending means where several have it.
BARE = {"geojson": "plan.geojson"}


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
