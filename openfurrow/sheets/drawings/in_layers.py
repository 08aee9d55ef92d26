"""One footing in its layers: what stands there, where frost and water reach, what the soil holds."""

import numpy as np

from openfurrow.core.codes.section import Section
from openfurrow.core.footings.body import bell_high_m
from openfurrow.core.footings.bored.bore import Piers
from openfurrow.core.footings.posts import SizedKind
from openfurrow.core.footings.sizing import curve_of
from openfurrow.core.footings.turned.screw import Screws
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.site.soil import Soil
from openfurrow.sheets.marks import Drawing, Mark, area, box, dimension, drawing, label, line

# The sheet either side of the post, in metres.
LEFT, RIGHT = -3.4, 4.5
# How far what the soil holds is drawn out, and where the needs begin beside it.
HELD_OUT, RULER, APART, WIDE = 1.1, 2.1, 0.34, 0.18
CLASSES = {"clay": "fine-soil", "sand": "sand"}
POINTS = 60


def in_layers_drawing(
    plan: Plan, kind: SizedKind, index: int, called: str, units: UnitSystem
) -> Drawing:
    """The support with this index, one of ``kind``, cut down through its soil; ``called`` in words."""
    posts = plan.footings.posts
    depth, reveal = float(posts.depths_m[index]), float(plan.structure.supports.reveals_m[index])
    needs = kind.needs.all_m
    floor = -max(depth + posts.below_m, *(min(need, depth + 1.0) for need in needs)) - 0.4
    foot = reveal + plan.structure.posts.bent.top_m - float(posts.lengths_m[index])
    piers, screws = plan.footings.piers, plan.footings.screws

    def tape(value: float) -> str:
        return format_value(value, "tape", units)

    marks = _layers(kind.soil, floor, units)
    if plan.site.frost_depth_m > 0:
        marks += _level("frost", "frost", -plan.site.frost_depth_m)
    if kind.soil.water_m is not None and kind.soil.water_m < -floor:
        marks += _level("water-line", "water", -kind.soil.water_m)
    marks += _held(kind, depth, units)
    if piers is not None:
        marks += _pier(piers, depth)
    if screws is not None:
        marks += _screw(screws, depth)
    marks += [
        *_post(plan.structure.posts.post, reveal, foot),
        line("ground", (LEFT, 0.0), (RIGHT, 0.0)),
        *_needs(needs, posts.modes, depth),
        dimension(tape(reveal), (0.0, 0.0), (0.0, reveal), -44),
        dimension(tape(depth), (0.0, -depth), (0.0, 0.0), 16),
    ]
    named = [
        f"{number + 1} {mode}: {tape(need)}"
        for number, (mode, need) in enumerate(zip(posts.modes, needs, strict=True))
    ]
    worst = int(np.argmax(needs))
    return drawing(
        "in_layers",
        f"{called} in its layers",
        marks,
        low=(LEFT, floor),
        high=(RIGHT, reveal + 0.45),
        legend=(
            named[worst],
            *(words for number, words in enumerate(named) if number != worst),
            "green: what the soil is taken to hold sideways",
        ),
    )


def _layers(soil: Soil, floor: float, units: UnitSystem) -> list[Mark]:
    """Every layer that is met, with its class and its strength where that was measured."""
    marks: list[Mark] = []
    top = 0.0
    for layer in soil.layers:
        bottom = max(-layer.bottom_m, floor)
        kind = "rock" if layer.soil_class.endswith("rock") else CLASSES.get(layer.soil_class, "soil")
        marks.append(box(kind, LEFT, bottom, RIGHT, top))
        words = layer.soil_class
        if layer.measured:
            words += f", {format_value(layer.cohesion_pa, 'pressure', units)}"
        marks.append(label(words, (LEFT + 0.08, (top + bottom) / 2 - 0.05), "hole-note", "start"))
        top = bottom
        if bottom <= floor:
            break
    return marks


def _level(layer: str, words: str, at: float) -> list[Mark]:
    return [
        line(layer, (LEFT, at), (RIGHT, at)),
        label(words, (RIGHT - 0.05, at + 0.05), "frost-note", "end"),
    ]


def _held(kind: SizedKind, depth: float, units: UnitSystem) -> list[Mark]:
    """What the soil is taken to hold sideways, drawn out from the middle of the post."""
    curve = curve_of(kind.ground)
    down = np.linspace(0.0, depth, POINTS)
    out = np.interp(down, curve.middle_m, curve.push_n_per_m) / kind.ground.body.across_m
    most = float(out.max())
    if most <= 0:
        return []
    along = [(HELD_OUT * share, -z) for share, z in zip((out / most).tolist(), down, strict=True)]
    return [
        area("chart-won", (0.0, 0.0), *along, (0.0, -depth)),
        label(format_value(most, "pressure", units), (0.12, -depth - 0.24), "note", "start"),
    ]


def _needs(needs: tuple[float, ...], modes: tuple[str, ...], depth: float) -> list[Mark]:
    """How deep each way of failing asks it to go, as a ruler; beyond the sheet it is cut off."""
    worst = int(np.argmax(needs))
    marks: list[Mark] = []
    for number, _ in enumerate(modes):
        across, to = RULER + APART * number, -max(min(needs[number], depth + 1.0), 0.02)
        governs = number == worst
        marks += [
            box("need-governs" if governs else "need", across, to, across + WIDE, 0.0),
            label(f"{number + 1}", (across + WIDE / 2, to - 0.2), "strong" if governs else "note"),
        ]
    return marks


def _post(post: Section, reveal: float, foot: float) -> list[Mark]:
    half = post.depth_m / 2
    found = [box("post", -half, max(foot, 0.0), half, reveal + 0.1)]
    if foot < 0:
        found.append(box("post-buried", -half, foot, half, 0.0))
    return found


def _pier(piers: Piers, depth: float) -> list[Mark]:
    """Concrete with its bell, on its stone."""
    half, wide = piers.diameter_m / 2, max(piers.bell_m or 0.0, piers.diameter_m) / 2
    bell = -depth + bell_high_m(piers.diameter_m, piers.bell_m)
    return [
        box("stone", -piers.bored_m / 2, -depth - piers.stone_m, piers.bored_m / 2, -depth),
        area(
            "pier",
            (-half, piers.top_m),
            (half, piers.top_m),
            (half, bell),
            (wide, -depth),
            (-wide, -depth),
            (-half, bell),
        ),
    ]


def _screw(screws: Screws, depth: float) -> list[Mark]:
    half, out = screws.shaft.depth_m / 2, screws.out_m
    found = [box("post-buried", -half, -depth, half, out)]
    if screws.helix_m:
        at = -depth + 0.1
        found.append(line("helix", (-screws.helix_m / 2, at - 0.03), (screws.helix_m / 2, at + 0.03)))
    return found
