"""What each stage takes from the merchant, read off the finished stages."""

from dataclasses import dataclass

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.footings.plan import FootingsPlan
from openfurrow.core.frame.below import Below
from openfurrow.core.frame.plan import FramePlan
from openfurrow.core.materials.cuts import Cut
from openfurrow.core.materials.footings import footing_takes
from openfurrow.core.materials.lines import Take, together
from openfurrow.core.materials.sawing import Sawing, stick_takes
from openfurrow.core.materials.service import LABELS
from openfurrow.core.materials.way_takes import dug_takes, run_takes
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.modules.plan import ModulesPlan
from openfurrow.core.quantities import spoken
from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.plan import StructurePlan
from openfurrow.core.trench.armoured import ArmouredCable
from openfurrow.core.trench.plan import TrenchPlan
from openfurrow.core.trench.runs import Run
from openfurrow.core.wiring.circuit import Circuit
from openfurrow.core.wiring.conductors import ARRAY_WIRE, BARE_COPPER


def frame_takes(structure: StructurePlan, frame: FramePlan, cuts: tuple[Cut, ...]) -> tuple[Take, ...]:
    """What comes cut, and the bolts of all; what the saw cuts is nested for the whole job."""
    members, stock = structure.members, structure.members.stock
    come = {
        piece.key: [cut for cut in cuts if cut.key == piece.key and not cut.from_stick]
        for piece in members.pieces
    }
    return (
        *(
            Take(
                "frame",
                piece.key,
                f"{piece.title}, {piece.profile}",
                float(sum(cut.count for cut in come[piece.key])),
                "count",
                piece.where,
                piece_kg=come[piece.key][0].length_m * piece.mass_kg_per_m,
                length_m=come[piece.key][0].length_m,
            )
            for piece in members.pieces
            if come[piece.key]
        ),
        *(
            Take("frame", one.key, one.title, float(one.count), "count", one.where, "small")
            for one in members.fixings
        ),
        Take(
            "frame",
            "pad",
            "Pad of rubber or nylon, with sleeve",
            float(frame.pads),
            "count",
            "Wherever aluminium lies on zinc-coated steel.",
            "small",
        ),
        *_below_takes(frame.below),
        Take(
            "frame",
            stock.splice_key,
            stock.splice,
            float(frame.splices * stock.parts),
            "count",
            stock.where,
            "small",
        ),
    )


def _below_takes(below: Below | None) -> tuple[Take, ...]:
    """Cloth, its pins and the stone on it."""
    if below is None:
        return ()
    kg = constant("common", "stone_kg_per_m3").value
    return (
        Take(
            "frame",
            "weed_cloth",
            "Weed cloth, woven",
            below.cloth_m2,
            "area",
            "Under the tables; laps are in it.",
            "cut",
        ),
        Take(
            "frame",
            "cloth_pin",
            "Pin for cloth",
            float(below.pins),
            "count",
            "Laps and edges.",
            "small",
        ),
        Take(
            "frame",
            "ground_stone",
            "Stone under the tables",
            below.stone_m3,
            "volume",
            "Tipped when posts and trench are done.",
            "cut",
            kg_per_unit=kg,
        ),
    )


def module_takes(modules: ModulesPlan, givens: ModulesGivens) -> tuple[Take, ...]:
    """Modules and what holds and bonds them."""
    return (
        Take(
            "modules",
            "module",
            f"Module, {givens.power_w:.0f} W",
            float(modules.modules),
            "count",
            "Counted and looked at before the truck leaves.",
            piece_kg=givens.mass_kg,
        ),
        Take(
            "modules",
            "end_clamp",
            "End clamp",
            float(modules.end_clamps),
            "count",
            "Ends of each module row.",
            "small",
        ),
        Take(
            "modules",
            "mid_clamp",
            "Mid clamp",
            float(modules.mid_clamps),
            "count",
            "Between neighbours.",
            "small",
        ),
        Take(
            "modules",
            "strap",
            "Bonding strap or lug",
            float(modules.bonding_straps),
            "count",
            "As the list of links has them.",
            "small",
        ),
        Take(
            "modules",
            "ground_lug",
            "Lug, steel to bare copper",
            float(modules.bonding.lugs),
            "count",
            "One a table, where the bare copper passes.",
            "small",
        ),
    )


def _copper_kg_per_m(pack: RulePack, label: str) -> float:
    """What bare copper weighs by its section."""
    sizes = table(pack, "conductor")
    area_m2 = sizes.number("copper_mm2", sizes.row("label", label)) * 1e-6
    return area_m2 * constant("common", "copper_kg_per_m3").value


def wiring_takes(
    circuit: Circuit, bare_copper_m: float, pack: RulePack, cable: ArmouredCable | None = None
) -> tuple[Take, ...]:
    """Wire by the length, connectors, fuses and boxes; ``bare_copper_m`` of bare copper.

    ``cable`` is what lies in the trench instead of single wires.
    """
    out_there = circuit.feed.outputs is not None
    return (
        *_wires(circuit, bare_copper_m, pack, cable),
        Take(
            "wiring",
            "connector",
            "Connector pair, one make throughout",
            0.0
            if circuit.branch
            else 2 * float(circuit.strings.count) + 2 * float(circuit.leads.wired.sum()),
            "count",
            "Different makers' connectors are never mated.",
            "small",
        ),
        Take(
            "wiring",
            "box_jumper",
            "Jumper, module to its box",
            float(circuit.leads.box_short),
            "count",
            "Made up with the plug of the module at one end and that of the box at the other.",
            "small",
        ),
        *_trunk_takes(circuit, pack),
        Take(
            "wiring",
            "combiner",
            f"Combiner, {circuit.joined} strings, with isolator",
            float(circuit.lines) if out_there and circuit.joined > 1 else 0.0,
            "count",
            "Beside the inverter out there.",
        ),
        *(_guards_out_there(circuit) if out_there else _guards_of_strings(circuit)),
        LABELS,
    )


def _wires(
    circuit: Circuit, bare_copper_m: float, pack: RulePack, cable: ArmouredCable | None
) -> tuple[Take, ...]:
    """What comes off a reel."""
    line, ground, feed = circuit.choice.conductor, circuit.grounding, circuit.feed
    array, bare = ARRAY_WIRE[pack], BARE_COPPER[pack]
    out_there = feed.outputs is not None
    # A ground goes with every cable: as long as those are all cables.
    in_trench = (
        (
            (
                "armoured_cable",
                f"Armoured cable, {cable.label}, one of them the ground",
                circuit.grounding_wire_m,
                f"{feed.conduits} pieces, array to building, slack counted; none joined in the ground.",
                cable.kg_per_m,
            ),
        )
        if cable is not None
        else (
            (
                "trench_wire",
                f"Wire {line.label}, {'lines and neutral' if out_there else 'red and black'}",
                circuit.trench_wire_m,
                f"{feed.wires.lines} an output, array to building, slack counted."
                if out_there
                else "Two a string, box to inverter, slack counted.",
                line.mass_kg_per_m,
            ),
            (
                "grounding_wire",
                f"Grounding wire {ground.label}, green",
                circuit.grounding_wire_m,
                "One in each conduit.",
                ground.mass_kg_per_m,
            ),
        )
    )
    reels = (
        *in_trench,
        (
            "array_wire",
            f"Array wire {array}, sunlight-rated",
            circuit.array_wire_m,
            f"String ends to the {'inverter' if out_there else 'box'} and from row to row, clipped off "
            "the ground.",
            0.0,
        ),
        (
            "bare_copper",
            f"Bare copper {bare}",
            bare_copper_m,
            "Along every row and the whole trench, to the rods.",
            _copper_kg_per_m(pack, bare),
        ),
    )
    step = constant(pack, "tape_step_m").value
    return tuple(
        Take("wiring", key, item, net, "run", where, "cut", pack=step, kg_per_unit=kg)
        for key, item, net, where, kg in reels
    )


def _guards_of_strings(circuit: Circuit) -> tuple[Take, ...]:
    """Strings meet at a box by the trench and are guarded there."""
    return (
        Take(
            "wiring",
            "fuse",
            f"Fuse {circuit.fuse_a:.0f} A, DC",
            2 * float(circuit.strings.count),
            "count",
            "In each string, at the box.",
            "small",
        ),
        Take(
            "wiring",
            "junction_box",
            f"Combiner, {circuit.joined} strings, with isolator"
            if circuit.joined > 1
            else "Junction box with isolators",
            float(circuit.feed.boxes),
            "count",
            "On the post where the trench begins.",
        ),
    )


def _trunk_takes(circuit: Circuit, pack: RulePack) -> tuple[Take, ...]:
    """What inverters behind modules hang on."""
    if circuit.branch is None:
        return ()
    strings, leads, apart = circuit.strings, circuit.leads, circuit.branch.plug_spacing_m
    return (
        Take(
            "wiring",
            "trunk_plug",
            f"Trunk cable, by the plug, {spoken(apart, 'tape')} apart",
            float(strings.lengths.sum()) + leads.sealed,
            "count",
            "Along every branch, clipped off the ground.",
            "small",
        ),
        Take(
            "wiring",
            "trunk_home",
            "Trunk cable without plugs",
            circuit.trunk_home_m,
            "run",
            "To the next line of tables, and home to the box.",
            "cut",
            pack=constant(pack, "tape_step_m").value,
        ),
        Take(
            "wiring",
            "end_cap",
            "End cap of the trunk",
            float(strings.count),
            "count",
            "One at the far end of each branch.",
            "small",
        ),
        Take(
            "wiring",
            "seal_cap",
            "Sealing cap",
            float(leads.sealed),
            "count",
            "On every plug that stays empty: an open one is live and drinks water.",
            "small",
        ),
        Take(
            "wiring",
            "branch_box",
            "Box, trunk to building wire",
            float(circuit.feed.boxes),
            "count",
            "On the post where the trench begins.",
        ),
    )


def _guards_out_there(circuit: Circuit) -> tuple[Take, ...]:
    """An isolator at each inverter, a breaker for each at the building."""
    count = float(circuit.feed.wires.circuits)
    return (
        Take(
            "wiring",
            "isolator",
            f"Isolator, AC, {circuit.feed.protection_a:.0f} A",
            count,
            "count",
            "One for each output, where the trench begins.",
        ),
        Take(
            "wiring",
            "breaker",
            f"Breaker {circuit.feed.protection_a:.0f} A",
            count,
            "count",
            "At the building, one for each output.",
        ),
    )


@dataclass(frozen=True, kw_only=True)
class Built:
    """One array's finished stages, from its rows to its wires."""

    name: str
    standing: bool
    rows: RowsPlan
    structure: StructurePlan
    footings: FootingsPlan
    frame: FramePlan
    modules: ModulesPlan
    module_givens: ModulesGivens
    cuts: tuple[Cut, ...]
    circuit: Circuit
    run: Run


def array_takes(built: Built, pack: RulePack) -> tuple[Take, ...]:
    """What is to be stood on the ground for one array: nothing where it stands already.

    Raises ValueError where its stages disagree.
    """
    if built.standing:
        return ()
    if built.rows.module_count != built.modules.modules:
        raise ValueError("rows and modules disagree on the number of modules")
    return (
        *footing_takes(built.footings, pack, built.cuts),
        *frame_takes(built.structure, built.frame, built.cuts),
        *module_takes(built.modules, built.module_givens),
    )


ORDER = ("footings", "frame", "modules", "trench", "wiring")


def all_takes(
    pack: RulePack,
    arrays: tuple[Built, ...],
    trench: TrenchPlan,
    connected: tuple[Take, ...],
    sawing: Sawing,
) -> tuple[Take, ...]:
    """The whole list in the order of the job, alike things of several arrays together.

    ``connected`` are the inverters and what follows them.
    Sticks are those that ``sawing`` takes for all arrays at once.
    The bare copper of all arrays meets in the trench: of what they share there is one.
    """
    bare_m = trench.ground_length_m + sum(
        built.circuit.bare_copper_m - built.run.route.ground_length_m for built in arrays
    )
    own = [(built.name, take) for built in arrays for take in array_takes(built, pack)]
    runs = [
        (built.name, take)
        for built in arrays
        for take in run_takes(built.run, trench.depth_m, pack, over=trench.over is not None)
    ]
    wires = [
        (built.name, take)
        for built in arrays
        for take in wiring_takes(
            built.circuit, bare_m if built is arrays[0] else 0.0, pack, built.run.cable
        )
    ]
    shared = dug_takes(trench, pack)
    boxes = (("", take) for take in connected)
    sticks = (("", take) for take in stick_takes(sawing))
    every = (*own, *sticks, *runs, *(("", take) for take in shared), *wires, *boxes)
    return together(sorted(every, key=lambda one: ORDER.index(one[1].stage)))
