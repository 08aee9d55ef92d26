"""10,000 supports sized on every family of footing in both schools, and trials of what may go wrong.

Beside the first the same done singly, support after support, for a sample of them, times how many there
are; beside the trials the bare draw of as many numbers. Run: ./furrow bench footings
"""

import time

import numpy as np

from bench.plans import median_s
from openfurrow.core.compare.risk import concrete_in, stopped_in
from openfurrow.core.design import Design
from openfurrow.core.footings.posts import called_in, size_posts
from openfurrow.core.footings.sizing import beside, sized
from openfurrow.core.plan import Plan, untried
from openfurrow.demo.designs import field

MODULES, SAMPLE, RUNS = 60_000, 40, 5
TRIALS, POSTS = 10_000, 200
FAMILIES = ("driven post", "ground screw", "bored pier")


def job(family: str, pack: str, modules: int = MODULES) -> Design:
    design = field(modules)
    array = design.arrays[0]
    footings = array.footings.model_copy(update={"family": family, "pier_diameter_m": 0.5})
    arrays = (array.model_copy(update={"footings": footings}),)
    site = design.site.model_copy(
        update={"rule_pack": pack} | ({"wind_speed_m_s": 40.0} if pack == "us" else {})
    )
    return design.model_copy(update={"arrays": arrays, "site": site})


def singly_s(found: Plan, design: Design) -> float:
    """A sample of supports, each sized alone in its soil, as seconds for all of them."""
    site, structure, givens = found.site, found.structure, design.arrays[0].footings
    supports, post = structure.supports, structure.posts.post
    called = called_in(site.display_units, givens)
    began = time.perf_counter()
    for index in np.linspace(0, supports.count - 1, SAMPLE).astype(int).tolist():
        soil = site.soils[int(supports.soil_of[index])]
        sized(
            beside(site, soil, givens, post, called),
            [structure.reactions.of(int(supports.kind[index]))],
            None,
        )
    return (time.perf_counter() - began) / SAMPLE * supports.count


def sizing() -> None:
    print(f"{'family':<14}{'school':<8}{'supports':>9}{'kinds':>7}{'ms':>8}{'x singly':>10}")
    for family in FAMILIES:
        for pack in ("us", "metric"):
            design = job(family, pack)
            found = untried(design)
            givens = design.arrays[0].footings
            whole = median_s(
                lambda found=found, givens=givens: size_posts(found.site, found.structure, givens), RUNS
            )
            each = singly_s(found, design)
            stand = found.structure.posts
            print(
                f"{family:<14}{pack:<8}{stand.supports.count:>9}{stand.kinds.count:>7}"
                f"{whole * 1e3:>8.1f}{each / whole:>10.0f}"
            )


def trials() -> None:
    """Stops and concrete of 200 bores, 10,000 times, and the bare draw of as many widths."""
    found = untried(job("bored pier", "metric", 1_200))
    piers = found.footings.piers
    assert piers is not None
    few = np.resize(piers.depths_m, POSTS)
    taken = type(piers)(**(vars(piers) | {"depths_m": few}))

    def ours() -> None:
        draw = np.random.default_rng(1)
        shared = draw.standard_normal(TRIALS)
        stopped_in(draw, shared, few, 0.1, 0.5)
        concrete_in(draw, shared, taken, 0.04, 0.5)

    whole = median_s(ours, RUNS)
    bare = median_s(lambda: np.random.default_rng(1).standard_normal((TRIALS, POSTS)), RUNS)
    print(
        f"{TRIALS} trials of {POSTS}: {whole * 1e3:.0f} ms, the bare draw {bare * 1e3:.0f} ms, "
        f"{whole / bare:.1f} times"
    )


if __name__ == "__main__":
    sizing()
    trials()
