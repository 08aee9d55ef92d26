"""Ways found over the wire: of all arrays in one step of the draft, and told in words."""

import json

import httpx

from openfurrow.demo.designs import larkspur_with_pump_house
from openfurrow.exchange.design_json import write_design


def test_ways_of_two_arrays_are_one_step(planner: httpx.Client) -> None:
    design = larkspur_with_pump_house()
    bare = design.model_copy(update={"site": design.site.model_copy(update={"route": (), "spurs": ()})})
    made = planner.post("/jobs/import", json=json.loads(write_design(bare)))
    assert made.status_code in (200, 201), made.text
    job = f"/jobs/{made.json()['id']}"
    found = planner.post(f"{job}/ways/find", json={"units": "us"}, timeout=120)
    assert found.status_code == 200, found.text
    told = found.json()["draft"]["steps"][-1]["label"]
    assert told.startswith("way found: ") and "; from Pump house: way found: " in told
    kept = planner.get(f"{job}/files/design.json").json()
    assert len(kept["site"]["route"]) >= 1
    (spur,) = kept["site"]["spurs"]
    assert spur["array"] == design.arrays[1].id and spur["id"]
