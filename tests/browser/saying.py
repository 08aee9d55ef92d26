"""A job from nothing of which all is said at once, for tests of what comes after."""

from playwright.sync_api import Page

# Somewhere in the metric school; lengths and places as they are typed there.
SAID = {
    "arrays.1.standing": "no",
    "site.latitude_deg": "47.2",
    "site.longitude_deg": "11.4",
    "site.elevation_m": "580 m",
    "site.time_zone": "Europe/Vienna",
    "site.slope": "4 %",
    "site.falls_toward_deg": "180",
    "site.wind_speed_m_s": "24 m/s",
    "site.ground_snow_pa": "1.5 kPa",
    "site.soil_class": "sandy gravel",
    "site.frost_depth_m": "0.9 m",
    "site.route": "6 m, 6 m\n24 m, 30 m",
    "site.lowest_temperature_c": "-19 C",
    "site.hottest_temperature_c": "34 C",
    "site.dig_date": "2027-04-19",
    "arrays.1.rows.modules_along": "18",
}
SEND = """async ([job, edits]) => {
  const at = `/api/jobs/${job}`;
  const {draft} = await (await fetch(`${at}/stages/site`)).json();
  const body = {stage: 'site', units: 'metric', step: draft.position, edits};
  const answer = await fetch(`${at}/edits`, {
    method: 'POST', headers: {'Content-Type': 'application/json'}, body: JSON.stringify(body)});
  return answer.status;
}"""


def say_all(page: Page, **but: str) -> None:
    """Say everything of the job on the screen, and show it; ``but`` by the names of the fields."""
    job = page.url.split("/jobs/")[1].split("/")[0]
    edits = [
        {"path": path, "text": but.get(path.rsplit(".", 1)[-1], text)} for path, text in SAID.items()
    ]
    assert page.evaluate(SEND, [job, edits]) == 200
    page.reload()
    page.locator("[data-shown]").wait_for()
