"""Conduit over the ground: how often it is held, how far it grows, what takes that up."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.quantities import spoken
from openfurrow.core.site.said import Air
from openfurrow.core.trench.conduit import COLUMNS_OF_SUPPORT
from openfurrow.core.trench.crossings import Dug
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.route import Profile, Route
from openfurrow.core.trench.runs import Run
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Source, Working

Floats = NDArray[np.float64]

LENGTHENS = Source("length times warming times what the material grows by", "physics")
# Air on the day of laying for which the sleeves' openings are told.
TOLD_C = (0.0, 10.0, 20.0, 30.0)


@dataclass(frozen=True, kw_only=True)
class Over:
    """What holds the runs of all arrays over the ground, and what lets them grow.

    ``spacing_m`` is of the conduit that asks for most supports, ``supports`` of all. ``straights_m``
    are the straights of every run, ``fittings`` how many expansion fittings each takes of one conduit,
    ``all_fittings`` of all conduits. ``coldest_c`` and ``hottest_c`` are the conduit's own.
    """

    spacing_m: float
    supports: int
    straights_m: Floats
    fittings: NDArray[np.int64]
    all_fittings: int
    grows_per_k: float
    coldest_c: float
    hottest_c: float
    travel_m: float
    glued: bool

    @property
    def range_k(self) -> float:
        """From its coldest to its hottest, the sun on it."""
        return self.hottest_c - self.coldest_c

    @property
    def growth_m(self) -> Floats:
        """How much each straight grows from its coldest to its hottest."""
        return self.straights_m * self.grows_per_k * self.range_k

    def open_m(self, air_c: float) -> float:
        """How far a sleeve is drawn out when it is laid in the shade of such a day.

        Shut at the hottest, so that all that is left to grow goes in.
        """
        share = (self.hottest_c - min(max(air_c, self.coldest_c), self.hottest_c)) / self.range_k
        return self.travel_m * share


def straights_m(line: Profile | Route) -> Floats:
    """From bend to bend of a line, along the ground."""
    along = np.concatenate(
        ([0.0], np.cumsum(np.hypot(np.diff(line.chainage_m), np.diff(line.ground_m))))
    )
    bends = np.concatenate(([0.0], np.cumsum(np.hypot(np.diff(line.east_m), np.diff(line.north_m)))))
    return np.asarray(np.diff(np.interp(bends, line.chainage_m, along)))


def supports_of(length_m: float, spacing_m: float, from_end_m: float) -> int:
    """Supports of a straight: near each end, and no further apart than they may be."""
    between = max(0.0, length_m - 2 * from_end_m)
    return 2 + max(0, math.ceil(between / spacing_m - 1e-9) - 1) if length_m > from_end_m else 1


def over_of(
    pack: RulePack, givens: TrenchGivens, runs: tuple[Run, ...], dug: tuple[Dug, ...], air: Air
) -> Over | None:
    """What lies over the ground; None in a trench. What several share is held by the same supports."""
    if not givens.is_over:
        return None
    glued = givens.method == "PVC conduit"
    grows = constant("common", "pvc_grows_per_k" if glued else "steel_grows_per_k").value
    coldest = air.lowest_temperature_c
    hottest = air.hottest_temperature_c + constant("common", "sun_warms_conduit_k").value
    spacings = [spacing_m(pack, givens, run) for run in runs]
    near = constant(pack, "support_from_end_m").value
    straights = [straights_m(run.route) for run in runs]
    supports = sum(
        supports_of(long, min(spacings[number] for number in piece.stretch.carries), near)
        for piece in dug
        for long in straights_m(piece.stretch.line).tolist()
    )
    every = np.concatenate(straights)
    growth = every * grows * (hottest - coldest)
    # Cable snakes between its clips, and asks for no sleeve.
    pulls = (growth >= constant("common", "least_growth_m").value) & (not givens.is_cable)
    asked = np.where(pulls, growth, 0.0)
    fittings = np.ceil(asked / givens.expansion_m - 1e-9).astype(np.int64)
    conduits = np.repeat([run.conduits for run in runs], [len(each) for each in straights])
    return Over(
        spacing_m=min(spacings),
        supports=supports,
        straights_m=every,
        fittings=fittings,
        all_fittings=int((fittings * conduits).sum()),
        grows_per_k=grows,
        coldest_c=coldest,
        hottest_c=hottest,
        travel_m=givens.expansion_m,
        glued=glued,
    )


def spacing_m(pack: RulePack, givens: TrenchGivens, run: Run) -> float:
    """Most between two supports of a run's conduit or cable; of bare wires as of the smallest."""
    if run.cable is not None:
        return constant(pack, "armoured_support_m").value
    data = table(pack, "support")
    column = COLUMNS_OF_SUPPORT[givens.method if run.conduit is not None else "PVC conduit"]
    row = data.row("label", run.conduit.label) if run.conduit is not None else 0
    return data.number(column, row)


def over_answers(over: Over | None, givens: TrenchGivens) -> tuple[Answer, ...]:
    """How many supports and how far apart, what it grows, fittings and how they are set."""
    if over is None:
        return ()
    if not over.straights_m.size or givens.is_cable:
        # The box hangs where the wall is: there is nothing to lay. Or it is cable, that snakes.
        return (_supports_answer(over, givens),)
    longest = int(over.straights_m.argmax())
    return (
        _supports_answer(over, givens),
        Answer(
            "trench",
            "grows",
            "The longest straight grows by",
            Working(
                "dL",
                "L * a * (T_1 - T_0)",
                (
                    Input("L", "from bend to bend", float(over.straights_m[longest]), "run"),
                    Input("a", "grows, a kelvin", over.grows_per_k, "factor"),
                    Input("T_1", "hottest, the sun on it", over.hottest_c, "temperature"),
                    Input("T_0", "coldest night", over.coldest_c, "temperature"),
                ),
                float(over.growth_m[longest]),
                "thickness",
                LENGTHENS,
                "Without a sleeve it pulls out of its boxes in the cold and snakes off its supports in "
                "the heat.",
            ),
        ),
        *_fitting_answers(over),
    )


def _supports_answer(over: Over, givens: TrenchGivens) -> Answer:
    return Answer(
        "trench",
        "supports",
        "Supports on the ground",
        Working(
            "n",
            "",
            (
                Input("s", "most between two", over.spacing_m, "run"),
                Input("h", "over the ground", givens.over_m, "tape"),
                Input("L", "in all", float(over.straights_m.sum()), "run"),
            ),
            float(over.supports),
            "count",
            COMMON_PRACTICE,
            "Blocks or sleepers that frost and mowers do not move, one near each end of a straight; "
            + (
                "clips in which it may snake, and a sheath that stands the sun."
                if givens.is_cable
                else "straps that let it slide, but for one between two fittings that holds it."
            ),
        ),
        True,
    )


def _fitting_answers(over: Over) -> tuple[Answer, ...]:
    if not over.all_fittings:
        return ()
    return (
        Answer(
            "trench",
            "expansions",
            "Expansion fittings",
            Working(
                "n_x",
                "",
                (
                    Input("t", "one takes", over.travel_m, "thickness"),
                    Input("n_1", "in the straight that grows", float(over.fittings.max()), "count"),
                ),
                float(over.all_fittings),
                "count",
                LENGTHENS,
                "Where a straight has several, evenly along it, one support between two that holds.",
            ),
            True,
        ),
        Answer(
            "trench",
            "expansion_set",
            "On a mild day a fitting is drawn out by",
            Working(
                "g",
                "t * (T_1 - T) / (T_1 - T_0)",
                (
                    Input("t", "it takes", over.travel_m, "thickness"),
                    Input("T_1", "hottest", over.hottest_c, "temperature"),
                    Input("T_0", "coldest", over.coldest_c, "temperature"),
                    Input("T", "the conduit's own", min(20.0, over.hottest_c), "temperature"),
                ),
                over.open_m(20.0),
                "thickness",
                GEOMETRY,
                "At other warmth of the conduit: "
                + ", ".join(
                    f"{spoken(air, 'temperature')} {spoken(over.open_m(air), 'thickness')}"
                    for air in TOLD_C
                )
                + ". A hand on it in the sun is no thermometer.",
            ),
        ),
    )


def over_checks(
    over: Over | None, givens: TrenchGivens, roads: tuple[str, ...] = ()
) -> tuple[Check, ...]:
    """That nothing rolls over it, and no bare cable lies there; ``roads`` are drawn ones it meets."""
    if over is None:
        return ()
    bare = givens.is_cable and not givens.is_armoured
    crossed = ", ".join(roads[:3]) or ("a driveway" if givens.under_driveway else "")
    return (
        holds(
            "trench",
            "over_wheels",
            "No wheels cross what lies over the ground",
            not crossed,
            f"{crossed} is crossed" if crossed else "none is crossed",
            "nothing drives over it",
            remedy="Go round it, over it on a frame, or dig there alone.",
            source=COMMON_PRACTICE,
            given="site.route" if roads else "trench.under_driveway",
        ),
        holds(
            "trench",
            "over_bare",
            "No bare cable lies over the ground",
            not bare,
            givens.method,
            "in conduit, or armoured",
            remedy="Conduit or armour: wires made for the ground are gnawed, mown and trodden on.",
            source=COMMON_PRACTICE,
            given="trench.method",
        ),
        holds(
            "trench",
            "over_trodden",
            "Somebody has looked at what lies over the ground where people walk and machines mow",
            givens.over_seen != "nobody has looked",
            givens.over_seen,
            "steel, or a cover, wherever a foot or a machine may meet it",
            remedy="Walk it with who lives there: a board over each path, stakes in high grass.",
            source=COMMON_PRACTICE,
            given="trench.over_seen",
            otherwise="look",
        ),
    )
