"""How the marks of each layer look: one set of data, which the screen's style sheets are written from.

``layers.json`` are rules in their order, each a set of SVG's own properties for marks of some kinds
(``on``, any where it says none) on some layers (all where it says none). Colours are named; what they
are by day and at dusk is said in ``colours.json``, the hatches in ``hatches.svg``.
"""

import json
import re
from collections.abc import Mapping
from functools import cache
from importlib.resources import files
from pathlib import Path

Style = Mapping[str, str]
Rule = Mapping[str, str | list[str]]
# Marks that are drawn as an outline that may be filled share one way of being named.
DRAWN_AS = {
    "line": "line",
    "area": "area",
    "rings": "area",
    "dot": "dot",
    "dots": "dot",
    "label": "text",
}
OF_A_RULE = ("on", "layers")
# The roles that drawings share with the screen around them, which says what they are.
ROLES = "roles"
PAPER = "daylight"


def _text(name: str) -> str:
    return (files(__package__) / name).read_text(encoding="utf-8")


@cache
def rules() -> tuple[Rule, ...]:
    """Every rule in its order."""
    return tuple(json.loads(_text("layers.json")))


@cache
def colours(theme: str = PAPER) -> Style:
    """What each named colour is."""
    found = json.loads(_text("colours.json"))
    return {**found[ROLES], **found[theme]}


def hatches() -> str:
    """The patterns of what is cut through, their colours by name."""
    return _text("hatches.svg")


def _weight(rule: Rule) -> int:
    """Which of two rules goes before the other, as style sheets have it.

    An element alone weighs less than a class alone, whether that is a kind's or a layer's.
    """
    if rule.get("layers") and rule.get("on"):
        return 2
    return 0 if rule.get("on") == ["text"] else 1


@cache
def style_of(kind: str, layer: str) -> Style:
    """The properties of a mark, colours named; ``kind`` is the mark's own."""
    drawn = DRAWN_AS[kind]
    meant = [
        rule
        for rule in rules()
        if drawn in rule.get("on", (drawn,)) and layer in rule.get("layers", (layer,))
    ]
    found: dict[str, str] = {}
    # Of rules that weigh the same the later one counts.
    for rule in sorted(meant, key=_weight):
        found |= {name: str(value) for name, value in rule.items() if name not in OF_A_RULE}
    return found


# --- for the screen ----------------------------------------------------------------------------
WRITTEN = "/* Written from openfurrow/sheets/paper by `python -m openfurrow.sheets.paper.write`. */\n"


def _value(name: str, value: str) -> str:
    if name.startswith("font-"):
        return f"var(--{value})" if value.startswith("font-") else value
    if value.startswith("hatch-"):
        return f"url(#{value})"
    return f"var(--{value})" if value in colours() else value


def _selectors(rule: Rule) -> str:
    kinds = [("text" if on == "text" else f".{on}") for on in rule.get("on", ())] or [""]
    layers = [f".layer-{layer}" for layer in rule.get("layers", ())] or [""]
    return ",\n".join(f".drawing {kind}{layer}" for layer in layers for kind in kinds)


def layers_css() -> str:
    """The rules as a style sheet."""
    blocks = [
        "\n".join(
            (
                f"{_selectors(rule)} {{",
                *(
                    f"  {name}: {_value(name, str(value))};"
                    for name, value in rule.items()
                    if name not in OF_A_RULE
                ),
                "}",
            )
        )
        for rule in rules()
    ]
    return WRITTEN + "\n".join(blocks) + "\n"


def materials_css() -> str:
    """The colours of the materials, by theme, as a style sheet."""
    found = json.loads(_text("colours.json"))
    blocks = [
        "\n".join(
            (
                f'[data-theme="{theme}"] {{',
                *(f"  --{name}: {value};" for name, value in found[theme].items()),
                "}",
            )
        )
        for theme in found
        if theme != ROLES
    ]
    return WRITTEN + "\n\n".join(blocks) + "\n"


def for_the_screen() -> dict[str, str]:
    """The front end's files that follow from the data, by their paths in it."""
    return {
        "src/materials.css": materials_css(),
        "src/drawing/layers.css": layers_css(),
        "src/drawing/hatches.svg": hatches(),
    }


def write_for_the_screen(root: Path) -> None:
    """Write those files."""
    for path, text in for_the_screen().items():
        (root / "frontend" / path).write_text(text, encoding="utf-8")


def in_colour(text: str, theme: str = PAPER) -> str:
    """A text of SVG with its colours in place of their names."""
    known = colours(theme)
    return re.sub(r"var\(--([\w-]+)\)", lambda found: known[found[1]], text)
