"""What the way to the building takes: conduit, sand and tape, supports over the ground, seed on top."""

import math

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.materials.lines import Loses, Take
from openfurrow.core.quantities import spoken
from openfurrow.core.trench.conduit import Conduit
from openfurrow.core.trench.data_pipe import DataPipe
from openfurrow.core.trench.ends import Fittings, box_side_m
from openfurrow.core.trench.over_ground import Over
from openfurrow.core.trench.plan import TrenchPlan
from openfurrow.core.trench.putting_back import Back
from openfurrow.core.trench.runs import Run


def run_takes(run: Run, depth_m: float, pack: RulePack, *, over: bool) -> tuple[Take, ...]:
    """One array's conduit, its bends and rises; ``over`` the ground it has a heavy wall all the way."""
    if run.conduit is None:
        return _cable_takes(run, depth_m, pack)
    size, count, fit = run.conduit.label, run.conduits, run.fittings
    assert fit is not None
    heavy = math.ceil((run.ups_m + 2 * depth_m) / constant(pack, "stick_m").value - 1e-9)
    return (
        Take(
            "trench",
            "conduit",
            f"Conduit, {size}{', heavy wall' if over else ''}",
            # Over the ground the rises are of the same wall.
            float(run.sticks + (heavy * count if over else 0)),
            "count",
            "Sticks on their supports, and up both ends." if over else "Sticks in the trench.",
            "cut",
        ),
        Take(
            "trench",
            "sweep",
            f"Sweep 90°, {size}, heavy wall",
            float(2 * count),
            "count",
            "Down at the array, up at the wall.",
        ),
        Take(
            "trench",
            "bend",
            f"Bend, {size}",
            float(fit.bends * count),
            "count",
            "Where the way turns by 20° and more; or a heat gun.",
        ),
        Take(
            "trench",
            "riser",
            f"Conduit, {size}, heavy wall",
            0.0 if over else float(heavy * count),
            "count",
            "Up the post and up the wall, where sun and trimmers reach it.",
        ),
        Take(
            "trench",
            "pull_box",
            f"Pull box, {box_side_m(pack, run.conduit, count)[1]}",
            # Conduits beside each other meet in one.
            float(run.boxes),
            "count",
            "Where bends add up to more than 360°.",
        ),
        *_fitting_takes(fit, size, count),
        *_pull_takes(run, run.conduit, pack),
    )


def _pull_takes(run: Run, conduit: Conduit, pack: RulePack) -> tuple[Take, ...]:
    """The line that wires are drawn in by, which stays for the next, and what makes them slide."""
    long_m = run.route.wire_m * run.conduits
    litres = constant("common", "lubricant_m3_per_m2").value * long_m * conduit.trade_m
    return (
        Take(
            "trench",
            "pull_line",
            "Pull line",
            long_m,
            "run",
            "Blown or sucked through; another is drawn in behind the wires and stays.",
            "cut",
            pack=constant(pack, "tape_step_m").value,
        ),
        Take(
            "trench",
            "lubricant",
            "Pulling lubricant, bottle",
            litres / constant("common", "lubricant_bottle_m3").value,
            "count",
            "A listed one, on the wires and into the conduit.",
            "small",
        ),
    )


def _fitting_takes(fit: Fittings, size: str, count: int) -> tuple[Take, ...]:
    """What joins the sticks, ends them, holds them and lets them give; metal tubing inside."""
    cans = fit.cement_m3 * count / constant("common", "cement_can_m3").value
    small = (
        ("coupling", f"Coupling, {size}", fit.couplings, "Where no bell and no thread joins."),
        ("terminal", f"Terminal with bushing, {size}", fit.terminals, "Where it ends in a box."),
        ("rise_strap", f"Strap, {size}", fit.straps, "Up the post and up the wall."),
        ("settling", f"Expansion fitting, {size}", fit.gives, "At both rises: the trench settles."),
        ("duct_seal", "Duct seal, a stick", 2, "In both ends, once the wires are in."),
        ("cement", "Cement and cleaner for conduit, can", cans / count, "Joints, dry fitted first."),
    )
    found = [
        Take("trench", key, item, float(each * count), "count", where, "small")
        for key, item, each, where in small
        if each
    ]
    if fit.inside is None:
        return tuple(found)
    label = fit.inside.label
    inside: tuple[tuple[str, str, int, str, Loses], ...] = (
        ("inside_tube", f"Metal tubing, {label}", fit.inside_sticks, "On in the building.", "cut"),
        ("inside_strap", f"Strap, metal tubing {label}", fit.inside_straps, "Along it.", "small"),
        ("inside_end", f"Connector, metal tubing {label}", 2, "At both its ends.", "small"),
        ("flexible", f"Flexible metal conduit, {label}, short piece", 1, "At the inverter.", "small"),
    )
    found += [
        Take("trench", key, item, float(each * count), "count", where, waste)
        for key, item, each, where, waste in inside
        if each
    ]
    return tuple(found)


def _cable_takes(run: Run, depth_m: float, pack: RulePack) -> tuple[Take, ...]:
    """What cable comes up through, and what holds it at its ends."""
    found = []
    if run.sleeve is not None:
        each = math.ceil((run.ups_m + 2 * depth_m) / constant(pack, "stick_m").value - 1e-9)
        found += [
            Take(
                "trench",
                "riser",
                f"Conduit, {run.sleeve.label}, heavy wall",
                float(each * run.conduits),
                "count",
                "Over the cable where it comes up, at both ends.",
            ),
            Take(
                "trench",
                "bushing",
                f"Bushing, {run.sleeve.label}",
                float(4 * run.conduits),
                "count",
                "On both ends of every sleeve, so that no edge cuts the cable.",
                "small",
            ),
        ]
    if run.cable is not None:
        found.append(
            Take(
                "trench",
                "gland",
                f"Gland for armour, {run.cable.gland or 'none listed'}, with tag and shroud",
                2.0 * run.conduits,
                "count",
                "Both ends of every cable; measure the cable first.",
                "small",
            )
        )
    return tuple(found)


def dug_takes(trench: TrenchPlan, pack: RulePack) -> tuple[Take, ...]:
    """Sand and tape: what the trench swallows, shared stretches once."""
    step = constant(pack, "tape_step_m").value
    if trench.over is not None:
        return _over_takes(trench.over)
    return (
        Take(
            "trench",
            "sand",
            "Sand, stone-free",
            trench.bedding_m3,
            "volume",
            "Below the pipe; above it too for bare cable.",
            "cut",
            pack=0.1,
            kg_per_unit=constant("common", "sand_kg_per_m3").value,
        ),
        Take(
            "trench",
            "warning_tape",
            "Warning tape",
            trench.ground_length_m,
            "run",
            "Half way up the backfill.",
            "cut",
            pack=step,
        ),
        Take(
            "trench",
            "cover_plate",
            "Cover plate for cable",
            float(trench.plates),
            "count",
            "End to end on the sand over the cable.",
            "cut",
        ),
        *_data_takes(trench.data, step),
        *(_back_takes(trench.back) if trench.back is not None else ()),
    )


def _data_takes(data: DataPipe | None, step: float) -> tuple[Take, ...]:
    """A pipe for data, and the cable in it."""
    if data is None:
        return ()
    return (
        Take(
            "trench",
            "data_pipe",
            f"Conduit for data, {data.label}",
            float(data.sticks),
            "count",
            "Sticks along the other wall of the trench.",
            "cut",
        ),
        Take(
            "trench",
            "data_sweep",
            f"Sweep 90° for data, {data.label}",
            float(data.sweeps),
            "count",
            "Up at both ends.",
        ),
        Take(
            "trench",
            "data_cable",
            "Data cable for wet places",
            data.cable_m,
            "run",
            "From each array to the building, slack counted.",
            "cut",
            pack=step,
        ),
    )


def _back_takes(back: Back) -> tuple[Take, ...]:
    """What lies on top of opened ground in the end."""
    found = [
        Take(
            "trench",
            "grass_seed",
            "Grass seed",
            back.seed_kg,
            "mass",
            "The owner's own mixture; half of it one way, half across.",
            "cut",
            pack=constant("common", "seed_pack_kg").value,
            kg_per_unit=1.0,
        ),
        Take(
            "trench",
            "straw_bale",
            "Straw, small bale",
            back.straw_kg / constant("common", "straw_bale_kg").value,
            "count",
            "Shaken out thin, so that earth shows through; on a slope under a net.",
            "cut",
            piece_kg=constant("common", "straw_bale_kg").value,
        ),
        Take(
            "trench",
            "gravel_top",
            "Gravel, over the trench",
            back.gravel_m3,
            "volume",
            "Rolled in two layers once the backfill has settled.",
            "cut",
            pack=0.1,
            kg_per_unit=constant("common", "stone_kg_per_m3").value,
        ),
    ]
    return tuple(one for one in found if one.net > 0)


def _over_takes(over: Over) -> tuple[Take, ...]:
    """What holds conduit over the ground, and lets it grow."""
    return (
        Take(
            "trench",
            "ground_support",
            "Support on the ground, with strut and straps",
            float(over.supports),
            "count",
            "Near both ends of every straight, and between; what lies side by side shares them.",
        ),
        Take(
            "trench",
            "expansion",
            f"Expansion fitting, {spoken(over.travel_m, 'thickness')}",
            float(over.all_fittings),
            "count",
            "In every straight that grows.",
        ),
    )
