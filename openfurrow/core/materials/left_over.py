"""What is left when all stands: offcuts by metal for the scrap merchant, whole pieces to take back."""

from openfurrow.core.codes.metal import MetalName
from openfurrow.core.codes.section import section
from openfurrow.core.materials.lines import MaterialLine
from openfurrow.core.materials.sawing import Bar, Sawing
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working

# Wires by the keys of their lines; lines that differ have a number behind it.
COPPER = frozenset(
    {"trench_wire", "grounding_wire", "bare_copper", "ac_wire", "ac_ground", "array_wire"}
)


def _base(key: str) -> str:
    stem, _, last = key.rpartition("_")
    return stem if last.isdigit() else key


def wires_of(lines: tuple[MaterialLine, ...]) -> tuple[MaterialLine, ...]:
    """Those whose ends are copper."""
    return tuple(line for line in lines if _base(line.key) in COPPER)


def whole_over(lines: tuple[MaterialLine, ...]) -> tuple[tuple[MaterialLine, int], ...]:
    """Lines counted in pieces that were bought over what the drawing takes, and how many of each."""
    over = ((line, round(line.quantity - line.net)) for line in lines if line.kind == "count")
    return tuple((line, count) for line, count in over if count > 0)


def left_over_answers(lines: tuple[MaterialLine, ...], sawing: Sawing) -> tuple[Answer, ...]:
    """Each metal in offcuts, copper in ends of wire, and spares that were not needed."""
    wires = [(line, line.quantity - line.net) for line in wires_of(lines)]
    wire_m = sum(one for _, one in wires)
    copper_kg = sum(line.mass_kg / line.quantity * long for line, long in wires if line.quantity)
    over = whole_over(lines)
    unweighed = sum(not line.mass_kg for line, _ in wires)
    of_metal: dict[MetalName, list[Bar]] = {"steel": []}
    for bar in sawing.bars:
        of_metal.setdefault(section(bar.profile).metal.name, []).append(bar)
    return (
        *(_offcuts(name, bars) for name, bars in of_metal.items()),
        Answer(
            "materials",
            "scrap_copper",
            "Wire in ends and slack",
            Working(
                "m_c",
                "",
                (Input("L", "bought over what is drawn", wire_m, "run"),),
                copper_kg,
                "haul",
                COMMON_PRACTICE,
                "If all that was allowed for waste is left, insulation counted."
                + (f" {unweighed} of the wires have no weight here." if unweighed else ""),
            ),
        ),
        Answer(
            "materials",
            "returned",
            "Pieces over, to take back",
            Working(
                "n_o",
                "",
                (Input("n", "lines with some over", float(len(over)), "count"),),
                float(sum(count for _, count in over)),
                "count",
                GEOMETRY,
                "If none is lost or refused. Who takes them back is asked before they are bought.",
            ),
        ),
    )


def _offcuts(name: MetalName, bars: list[Bar]) -> Answer:
    """What the saw leaves of one metal."""
    over = [(bar, bar.nest.bought_m - bar.nest.cut_m) for bar in bars]
    return Answer(
        "materials",
        f"scrap_{name}",
        f"{name.capitalize()} in offcuts",
        Working(
            "m_s",
            "",
            (
                Input("L", "bought and not needed, end to end", sum(long for _, long in over), "run"),
                Input("n", "profiles", float(len(bars)), "count"),
            ),
            sum(long * bar.kg_per_m for bar, long in over),
            "haul",
            GEOMETRY,
            "What the saw eats is in it. Each metal is kept apart: each has its own price.",
        ),
    )
