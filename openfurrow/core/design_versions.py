"""Older design documents: brought up to date by pure functions, or refused with the reason."""

import math
from collections.abc import Callable, Mapping
from typing import Any

from openfurrow.core.design import SCHEMA_VERSION, Design
from openfurrow.core.edits import DesignError, Problem, validated

Document = dict[str, Any]


def _one_to_two(document: Document) -> Document:
    """Version 1 had one ``site.units`` for rules and display; 2 keeps them apart."""
    site = document.get("site", {})
    if not isinstance(site, dict):
        # Of another shape altogether: the newest version's reading says what is wrong with it.
        return {**document, "schema_version": 2}
    site = dict(site)
    if "units" in site:
        units = site.pop("units")
        site = {"rule_pack": units, "display_units": units, **site}
    return {**document, "schema_version": 2, "site": site}


def _two_to_three(document: Document) -> Document:
    """Version 2 knew things of lists by their place; 3 gives each an id, here the place it has."""
    return {**document, "schema_version": 3}


# Givens that left footings and frame for the structure in version 4.
TO_STRUCTURE = {
    "footings": ("post_section", "span_limit_m", "cantilever_ratio", "shifts", "post_top_m"),
    "frame": (
        "purlin_section",
        "beam_section",
        "strut_reach_m",
        "strut_section",
        "strut_foot_m",
        "deflection_divisor",
    ),
}


def _three_to_four(document: Document) -> Document:
    """Version 4 has a stage of its own for what stands there: its profiles, spans and shifts."""
    moved: Document = {**document, "schema_version": 4}
    if "structure" in document:
        # Version 3 had none: left as it is, the newest version's reading says so and loses nothing.
        return moved
    structure: Document = {}
    for stage, names in TO_STRUCTURE.items():
        held = document.get(stage)
        if not isinstance(held, dict):
            continue
        structure |= {name: held[name] for name in names if name in held}
        moved[stage] = {name: value for name, value in held.items() if name not in names}
    return {**moved, "structure": structure}


def _four_to_five(document: Document) -> Document:
    """Version 5 holds arrays: what there was is its first, and the turn from the equator is its own."""
    if "arrays" in document:
        return {**document, "schema_version": 5}
    array: Document = {"id": "1"}
    array |= {stage: document[stage] for stage in OF_AN_ARRAY if stage in document}
    sun, rows = document.get("sun"), array.get("rows", {})
    job = {name: value for name, value in document.items() if name not in OF_AN_ARRAY}
    if isinstance(sun, dict) and "turn_deg" in sun and isinstance(rows, dict):
        array["rows"] = {**rows, "turn_deg": sun["turn_deg"]}
        job["sun"] = {name: value for name, value in sun.items() if name != "turn_deg"}
    return {**job, "schema_version": 5, "arrays": [array]}


# What became each inverter's own in version 6, when there could be several.
OF_AN_INVERTER = ("maximum_dc_v", "start_v", "inverter_ac_w", "inverter_inputs")


def _five_to_six(document: Document) -> Document:
    """The inverters' limits become those of the one that there was."""
    wiring = document.get("wiring", {})
    if not isinstance(wiring, dict) or "inverters" in wiring:
        # Version 5 had none: left as it is, the newest version's reading says what is wrong with it.
        return {**document, "schema_version": 6}
    inverter = {name: value for name, value in wiring.items() if name in OF_AN_INVERTER}
    left = {name: value for name, value in wiring.items() if name not in OF_AN_INVERTER}
    return {**document, "schema_version": 6, "wiring": {**left, "inverters": [{"id": "1", **inverter}]}}


def _six_to_seven(document: Document) -> Document:
    """Posts that are shifted are known by their table and their place in it, not by a running number.

    Tables stood row by row, all alike; what is not a whole number is left for the newest version's
    reading to tell.
    """
    arrays = document.get("arrays")
    if not isinstance(arrays, list):
        return {**document, "schema_version": 7}
    return {**document, "schema_version": 7, "arrays": [_shifts_by_table(one) for one in arrays]}


def _shifts_by_table(array: Any) -> Any:
    structure = array.get("structure") if isinstance(array, dict) else None
    if not (isinstance(structure, dict) and structure.get("shifts")):
        return array
    rows, modules = (
        held if isinstance(held := array.get(stage, {}), dict) else {} for stage in ("rows", "modules")
    )
    try:
        in_table = _posts_in_a_table(rows, modules, structure)
        along = int(rows.get("tables_along", 1))
        shifts = [
            [f"{1 + at // along}.{1 + at % along}/{post + 1}", by_m]
            for number, by_m in structure["shifts"]
            for at, post in (divmod(int(number) - 1, in_table),)
        ]
    except (TypeError, ValueError, ZeroDivisionError):
        return array
    return {**array, "structure": {**structure, "shifts": shifts}}


def _posts_in_a_table(rows: Document, modules: Document, structure: Document) -> int:
    """The posts of every table as version 6 laid them, where nothing is said with what it took."""
    upright = rows.get("orientation", "portrait") == "portrait"
    side = modules.get("width_m", 1.134) if upright else modules.get("length_m", 1.762)
    columns = rows.get("modules_along", 18)
    glass_m = columns * side + (columns - 1) * modules.get("gap_along_m", 0.02)
    purlin_m = glass_m + 2 * modules.get("purlin_end_m", 0.075)
    spans = purlin_m / structure.get("span_limit_m", 2.6) - 2 * structure.get("cantilever_ratio", 0.35)
    return int(max(1, math.ceil(spans - 1e-9)) + 1)


# What a document of version 7 that did not say it was read as holding; version 8 asks for it instead.
SAID_UNTIL_EIGHT: Document = {
    "latitude_deg": 44.9,
    "longitude_deg": -116.1,
    "elevation_m": 1530.0,
    "time_zone": "America/Boise",
    "slope": 0.04,
    "falls_toward_deg": 180.0,
    "dig_date": "2026-04-20",
    "soil_class": "sandy gravel",
    "frost_depth_m": 0.9,
    "wind_speed_m_s": 47.0,
    "ground_snow_pa": 2400.0,
    "lowest_temperature_c": -31.0,
    "hottest_temperature_c": 33.0,
    "route": [[6.0, 6.0], [24.0, 30.0]],
}
COLUMNS_UNTIL_EIGHT = 18


def _seven_to_eight(document: Document) -> Document:
    """Version 8 takes nothing for said that nobody said; what was taken until then stays as it was."""
    moved: Document = {**document, "schema_version": 8}
    site, arrays = document.get("site", {}), document.get("arrays", [{"id": "1"}])
    if isinstance(site, dict):
        moved["site"] = {**SAID_UNTIL_EIGHT, **site}
    if isinstance(arrays, list):
        moved["arrays"] = [_with_columns(one) for one in arrays]
    return moved


def _with_columns(array: Any) -> Any:
    rows = array.get("rows", {}) if isinstance(array, dict) else None
    if not isinstance(rows, dict):
        return array
    return {**array, "rows": {"modules_along": COLUMNS_UNTIL_EIGHT, **rows}}


def _eight_to_nine(document: Document) -> Document:
    """Version 9 keeps book of what somebody has looked at; until then nobody did."""
    return {**document, "schema_version": 9}


# The stages that became each array's own in version 5.
OF_AN_ARRAY = ("rows", "structure", "footings", "frame", "modules")

UPGRADES: Mapping[int, Callable[[Document], Document]] = {
    1: _one_to_two,
    2: _two_to_three,
    3: _three_to_four,
    4: _four_to_five,
    5: _five_to_six,
    6: _six_to_seven,
    7: _seven_to_eight,
    8: _eight_to_nine,
}


def _refused(message: str) -> DesignError:
    return DesignError(
        (
            Problem(
                "schema_version",
                "Version of the document",
                message,
                f"a whole number from 1 to {SCHEMA_VERSION}",
                "Export the design again from the program that wrote it.",
            ),
        )
    )


def read_document(document: object) -> Design:
    """A design of any known version. Raises DesignError naming the fields, or the version."""
    if not isinstance(document, dict):
        raise DesignError(
            (Problem("design", "Design", "is not a JSON object", "an object", "Export it again."),)
        )
    version = document.get("schema_version")
    if isinstance(version, bool) or not isinstance(version, int):
        raise _refused("is missing or not a whole number")
    if version > SCHEMA_VERSION:
        raise _refused(f"is {version}, newer than this program knows")
    if version < 1:
        raise _refused(f"is {version}, which never was")
    current = dict(document)
    while current["schema_version"] < SCHEMA_VERSION:
        current = UPGRADES[current["schema_version"]](current)
    return validated(current)
