"""Paper and screen look alike: every style that paper takes from the data is what Chromium computes."""

import re

import pytest
from playwright.sync_api import Page

from openfurrow.sheets.paper.styles import (
    DRAWN_AS,
    colours,
    for_the_screen,
    rules,
    style_of,
)
from tests.conftest import ROOT

LAYERS = sorted({layer for rule in rules() for layer in rule.get("layers", ())})
# As a style sheet names them, and as the browser writes what they come to.
NAMES = ("fill", "stroke", "stroke-width", "stroke-dasharray", "fill-opacity", "stroke-opacity", "r")
PLAIN = {
    "stroke-dasharray": "none",
    "fill-opacity": "1",
    "stroke-opacity": "1",
    "stroke-width": "1px",
    "stroke": "none",
    "fill": "rgb(0, 0, 0)",
}
COMPUTED = """([layers, kinds, names]) => {
  const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  svg.setAttribute("class", "drawing");
  document.body.append(svg);
  const found = {};
  for (const kind of kinds) for (const layer of layers) {
    const tag = kind === "text" ? "text" : kind === "dot" ? "circle" : "path";
    const one = document.createElementNS("http://www.w3.org/2000/svg", tag);
    one.setAttribute("class", kind === "text" ? `layer-${layer}` : `${kind} layer-${layer}`);
    svg.append(one);
    const style = getComputedStyle(one);
    const values = names.map((name) => [name, style.getPropertyValue(name)]);
    found[`${kind} ${layer}`] = Object.fromEntries(values);
  }
  return found;
}"""


def in_the_browsers_words(name: str, value: str) -> str:
    """A value of the data as Chromium writes what it computes."""
    value = colours().get(value, value)
    if value.startswith("hatch-"):
        return f'url("#{value}")'
    if found := re.fullmatch(r"#([0-9a-f]{2})([0-9a-f]{2})([0-9a-f]{2})", value):
        return f"rgb({', '.join(str(int(part, 16)) for part in found.groups())})"
    if value == "#fff":
        return "rgb(255, 255, 255)"
    if value == "transparent":
        return "rgba(0, 0, 0, 0)"
    if name == "stroke-dasharray" and value != "none":
        return ", ".join(f"{part}px" for part in value.split())
    if name == "stroke-width" and not value.endswith("px"):
        return f"{value}px"
    return value


def test_every_layer_looks_on_paper_as_it_does_on_the_screen(desk: Page) -> None:
    kinds = {drawn: kind for kind, drawn in DRAWN_AS.items()}
    found = desk.evaluate(COMPUTED, [LAYERS, list(kinds), list(NAMES)])
    wrong = []
    for key, computed in found.items():
        drawn, layer = key.split()
        style = style_of(kinds[drawn], layer)
        for name in NAMES:
            if name == "r" and "r" not in style:
                continue
            ours = in_the_browsers_words(name, style.get(name, PLAIN.get(name, "")))
            if computed[name] != ours:
                wrong.append((key, name, computed[name], ours))
    assert len(found) == len(LAYERS) * len(kinds) > 400
    assert wrong == []


@pytest.mark.parametrize("path", list(for_the_screen()))
def test_the_screens_files_are_written_from_the_data(path: str) -> None:
    # What a style sheet of the front end says is said in the data first: write them anew.
    assert (ROOT / "frontend" / path).read_text(encoding="utf-8") == for_the_screen()[path]


def test_the_roles_of_the_theme_are_those_of_the_data() -> None:
    theme = (ROOT / "frontend/src/theme.css").read_text(encoding="utf-8")
    daylight = theme[: theme.index('name: "dusk"')]
    for name, value in colours().items():
        if name.startswith("color-"):
            assert f"--{name}: {value};" in daylight
