"""What 10,000 supports ask of the ground, in every family and both schools.

Beside it the same done singly: support after support, for a sample of them, times how many there are.
Alike supports are solved once and all kinds together; the ratio says what that is worth. Plane frames
are compared with PyNiteFEA on the same bent. Run: ./furrow bench structures
"""

import time
import warnings
from dataclasses import replace

import numpy as np
from Pynite import FEModel3D

from bench.plans import median_s
from openfurrow.core.design import Design
from openfurrow.core.frames import solved
from openfurrow.core.plan import Plan, untried
from openfurrow.core.structures.bents.carry import bents_of, factors
from openfurrow.core.structures.bents.carry import reactions as of_bents
from openfurrow.core.structures.bents.shape import frames_of, unit_loads
from openfurrow.core.structures.cantilevers.carry import reactions as of_posts
from openfurrow.core.structures.families import FAMILIES
from openfurrow.core.structures.on_blocks.carry import reactions as on_blocks
from openfurrow.core.structures.pipe_grid import family as pipe_grid
from openfurrow.core.structures.supports import Kinds
from openfurrow.core.structures.two_post_lines import family as two_post_lines
from openfurrow.demo.designs import field

SUPPORTS, SAMPLE, RUNS = 10_000, 40, 5
# So many modules stand on about so many supports, family by family.
MODULES = {
    "one post line": 60_000,
    "two post lines": 30_000,
    "pipe grid": 22_000,
    "ballast frame": 30_000,
    "table on blocks": 18_000,
    "single pole": 240_000,
    "turning tube": 40_000,
}
SHAPES = {
    "two post lines": two_post_lines.shape_of,
    "pipe grid": pipe_grid.shape_of,
    "ballast frame": two_post_lines.shape_of,
}


def job(family: str, pack: str) -> Design:
    design = field(MODULES[family])
    array = design.arrays[0]
    structure = array.structure.model_copy(update={"family": family})
    site = design.site.model_copy(
        update={"rule_pack": pack} | ({"wind_speed_m_s": 27.0} if pack == "metric" else {})
    )
    arrays = (array.model_copy(update={"structure": structure}),)
    return design.model_copy(update={"arrays": arrays, "site": site})


def alone(kinds: Kinds, kind: int) -> Kinds:
    """One kind by itself."""
    one = slice(kind, kind + 1)
    return replace(
        kinds,
        role=kinds.role[one],
        lows_m=kinds.lows_m[one],
        highs_m=kinds.highs_m[one],
        tributary_m=kinds.tributary_m[one],
        least_tributary_m=kinds.least_tributary_m[one],
        soil_of=kinds.soil_of[one],
        size_of=kinds.size_of[one],
        sheltered=kinds.sheltered[one],
        drives=kinds.drives[one],
    )


def singly_s(family: str, found: Plan, design: Design) -> float:
    """The reactions of a sample of supports, each alone, as seconds for all of them."""
    posts, loads = found.structure.posts, found.structure.loads_at[0]
    supports = posts.supports
    sample = np.linspace(0, supports.count - 1, SAMPLE).astype(int)
    givens = design.arrays[0].structure
    began = time.perf_counter()
    for kind in supports.kind[sample].tolist():
        one = alone(posts.kinds, kind)
        if family == "table on blocks":
            on_blocks(design.site.rule_pack, found.rows, one, loads, np.zeros(1))
            continue
        if family not in SHAPES:
            of_posts(found.rows.section, one, loads)
            continue
        bents = bents_of(SHAPES[family](found.rows, posts, givens), one)
        acting = factors(loads, loads.strength, loads.dead_of_kg_per_m2[one.size_of])
        of_bents(bents, acting, loads)
    return (time.perf_counter() - began) / SAMPLE * supports.count


def families() -> None:
    print(
        f"{'family':<16}{'school':<8}{'supports':>9}{'kinds':>7}{'cases':>7}{'ms':>8}{'x singly':>10}"
    )
    for family in MODULES:
        for pack in ("us", "metric"):
            design = job(family, pack)
            found = untried(design)
            posts, givens = found.structure.posts, design.arrays[0].structure
            loads = found.structure.loads_at[0]
            carry = FAMILIES[family].carry
            whole = median_s(
                lambda posts=posts, found=found, loads=loads, givens=givens, carry=carry: carry(
                    found.site, found.rows, posts, loads, givens
                ),
                RUNS,
            )
            each = singly_s(family, found, design)
            cases = len(found.structure.reactions.names)
            print(
                f"{family:<16}{pack:<8}{posts.supports.count:>9}{posts.kinds.count:>7}{cases:>7}"
                f"{whole * 1e3:>8.1f}{each / whole:>10.0f}"
            )


def bents() -> None:
    """A thousand bents of one shape together, and one in PyNiteFEA."""
    design = job("two post lines", "us")
    found = untried(design)
    shape = two_post_lines.shape_of(found.rows, found.structure.posts, design.arrays[0].structure)
    reveals = np.column_stack((np.linspace(0.8, 1.6, 1000), np.linspace(1.9, 2.7, 1000)))
    holds = np.ones(1000, dtype=bool)
    ours = median_s(lambda: solved(frames_of(shape, reveals, holds), unit_loads(shape)), RUNS) / 1000
    frame = frames_of(shape, reveals[:1], holds[:1])

    def theirs() -> None:
        model = FEModel3D()
        model.add_material("steel", 200e9, 77e9, 0.3, 7850)
        model.add_section("one", 1e-3, 1e-6, 1e-6, 1e-6)
        for joint, (x, z) in enumerate(frame.joints_m[0].tolist()):
            model.add_node(str(joint), x, z, 0.0)
            held = bool(np.asarray(frame.held)[0, joint, 0])
            model.def_support(str(joint), held, held, True, True, True, held)
        for bar, (first, last) in enumerate(frame.ends.tolist()):
            model.add_member(str(bar), str(first), str(last), "steel", "one")
        model.add_node_load("5", "FY", -1.0)
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            model.analyze(check_statics=False)

    peer = median_s(theirs, 3)
    print(f"a bent: {ours * 1e6:.0f} µs, PyNiteFEA {peer * 1e3:.1f} ms, {peer / ours:.0f} times")


if __name__ == "__main__":
    families()
    bents()
