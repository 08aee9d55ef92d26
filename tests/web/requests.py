"""A sound request for every operation the API describes, by its operation's name."""

import hashlib
import json
from dataclasses import dataclass
from typing import Any

from tests.weather import epw, used

SHOTS = "\n".join(f"{e},{n},{100 + 0.03 * e}" for e in range(-40, 41, 8) for n in range(-40, 49, 8))
METRES = json.dumps({"name": "pasted", "unit": "m", "replace": True})
READ = {"units": "metric", "how": METRES}

# A picture of one pixel, as a file is known by its beginning.
PHOTO = b"\x89PNG\r\n\x1a\n" + bytes(40)
PHOTO_NAME = hashlib.sha256(PHOTO).hexdigest()
RECORD = {
    "id": "6f1d6a1e-6d3f-4f0e-9a53-0d9d0c3f5a11",
    "device": "a phone",
    "kind": "depth",
    "of": "1:1.1/1",
    "typed": "9' 4\"",
    "east_m": 0.0,
    "north_m": 0.0,
    "device_time": "2026-04-20T15:10:00Z",
}


@dataclass(frozen=True)
class Asked:
    """What is sent: under the job's address where ``path`` begins with no slash."""

    method: str
    path: str
    params: dict[str, Any] | None = None
    body: object = None
    content: str | bytes | None = None

    @property
    def writes(self) -> bool:
        return self.method != "GET"

    def sent_to(self, job: str) -> dict[str, Any]:
        """What httpx takes."""
        url = self.path if self.path.startswith("/") else f"{job}/{self.path}"
        sent: dict[str, Any] = {"method": self.method, "url": url, "params": self.params}
        if self.content is not None:
            return sent | {"content": self.content}
        return sent | ({"json": self.body} if self.body is not None else {})


def on_one_job(design: bytes) -> dict[str, Asked]:
    """Requests that all succeed on the demo job, for whoever may change it; ``design`` is its file."""
    edits = [{"path": "arrays.1.rows.tilt_deg", "text": "25"}]
    return {
        "who": Asked("GET", "/session"),
        "list_jobs": Asked("GET", "/jobs"),
        "new_job": Asked("POST", "/jobs", body={"name": "Another"}),
        "import_job": Asked("POST", "/jobs/import", content=design),
        "copy_job": Asked("POST", "copy", body={"name": "Another like it"}),
        "keep_as_usual": Asked("PUT", "usual", body={"usual": True}),
        "put_job": Asked("PUT", "state", body={"state": "open"}),
        "members": Asked("GET", "members"),
        "share_job": Asked("POST", "members", body={"name": "Tobin Reed", "role": "editor"}),
        "show": Asked("GET", "stages/footings"),
        "edit": Asked("POST", "edits", body={"stage": "rows", "units": "us", "edits": edits}),
        "step_to": Asked("POST", "step", body={"stage": "rows", "units": "us", "step": 0}),
        "replace_design": Asked("PUT", "design", {"stage": "rows", "units": "us"}, content=design),
        "look_at_file": Asked("POST", "ground/look", READ, content=SHOTS),
        "take_file": Asked("PUT", "ground", READ, content=SHOTS),
        "grids": Asked("GET", "ground/grids", {"words": "UTM 11N"}),
        "measure": Asked(
            "POST", "measure", body={"units": "metric", "way": "coordinates", "start": "3, 4"}
        ),
        "snap_table": Asked(
            "GET", "tables/snap", {"array": "1", "table": "1.1", "east_m": "2", "north_m": "-3"}
        ),
        "section": Asked("GET", "section", {"units": "metric", "start": "-20, 0", "end": "20, 0"}),
        "scene": Asked("GET", "scene"),
        "sun_on": Asked("GET", "sun", {"day": "2026-06-21"}),
        "take_weather": Asked(
            "PUT", "energy/weather", {"units": "metric", "name": "no.epw"}, content=epw()
        ),
        "take_load": Asked(
            "PUT", "energy/load", {"units": "metric", "name": "pump.csv"}, content=used()
        ),
        "take_profiles": Asked(
            "PUT",
            "materials/profiles",
            {"units": "metric", "name": "p.csv"},
            content=b"shape,depth mm,wall mm,grade\npipe,60.3,3,S235\n",
        ),
        "take_prices": Asked(
            "PUT",
            "materials/prices",
            {"units": "metric", "name": "p.csv"},
            content=b"item,price\nFuse,3\n",
        ),
        "fill_ground": Asked(
            "POST", "tables/fill", body={"units": "us", "array": "1", "modules": "60", "edge": "3 ft"}
        ),
        "find": Asked("POST", "ways/find", body={"units": "us"}),
        "show_energy": Asked("GET", "energy/year", {"units": "metric"}),
        "variants": Asked("GET", "variants", {"units": "metric", "revisions": [1]}),
        "show_shadows": Asked(
            "GET", "energy/shadows", {"units": "metric", "day": "2026-12-21", "minute": "700"}
        ),
        "show_footing": Asked("GET", "footings/support", {"units": "us", "support": "2"}),
        "show_calculation": Asked("GET", "footings/calculation.pdf", {"support": "2"}),
        "show_template": Asked("GET", "trench/template.pdf"),
        "show_stopped": Asked(
            "GET",
            "footings/stopped",
            {"units": "us", "support": "2", "reached": "3 ft 6 in", "leans": "2", "water": "4 ft"},
        ),
        "show_top": Asked(
            "GET", "frame/top", {"units": "us", "support": "2", "off": "1/2 in", "side": "above"}
        ),
        "show_tilts": Asked("GET", "frame/tilts", {"units": "us"}),
        "show_drift": Asked(
            "GET", "modules/drift", {"units": "us", "last": "4", "off": "1/4 in", "side": "above"}
        ),
        "show_odds": Asked("GET", "footings/odds", {"units": "us"}),
        "show_footings": Asked("GET", "footings/families", {"units": "us"}),
        "show_families": Asked("GET", "structure/families", {"units": "us"}),
        "show_support": Asked("GET", "structure/support", {"units": "us", "at": "0 ft, 0 ft"}),
        "show_pitch": Asked("GET", "energy/pitch", {"units": "metric", "accepted": "0.05"}),
        "list_revisions": Asked("GET", "revisions"),
        "save": Asked("POST", "revisions", body={"note": "kept"}),
        "restore": Asked("POST", "revisions/1/restore"),
        "compare": Asked("GET", "compare", {"before": 1}),
        "field": Asked("GET", "field", {"units": "us"}),
        "add": Asked("POST", "field/records", body={"units": "us", "records": [RECORD]}),
        "send_photo": Asked("PUT", f"field/photos/{PHOTO_NAME}", content=PHOTO),
        "see_photo": Asked("GET", f"field/photos/{PHOTO_NAME}"),
        "add_link": Asked("POST", "links", body={"words": "the inspector", "days": 7}),
        "list_links": Asked("GET", "links"),
        "file": Asked("GET", "files/stakes.csv"),
        "ask": Asked("POST", "work", body={"kind": "package"}),
    }


# Signing in and out is tested by itself: here it would end the others' sessions.
# Work has a number of its own only once it was asked for, and a link its token once it was made.
APART = {"enter", "leave", "join", "look", "give_up", "result"}
APART |= {"take_link_back", "look_by_link", "papers_by_link"}


def names_of(openapi: dict[str, Any]) -> set[str]:
    """The name of every operation of an OpenAPI document, as its function is called."""
    return {
        operation["operationId"].split("_api_")[0]
        for path in openapi["paths"].values()
        for operation in path.values()
    }
