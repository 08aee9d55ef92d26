"""Materials: one list of what to buy, cut and bring, counted from the plan and nothing else."""

from dataclasses import dataclass
from datetime import date

from openfurrow.core.checks import Check, within
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.materials.cost_rules import cost_answers, cost_checks
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.materials.left_over import left_over_answers
from openfurrow.core.materials.lines import MaterialLine, Take
from openfurrow.core.materials.own_profiles import profile_checks, with_sellers_names
from openfurrow.core.materials.prices import Cost, cost_of
from openfurrow.core.materials.sawing import Sawing, saw_answers, saw_checks
from openfurrow.core.working import GEOMETRY, Answer, Input, Working


@dataclass(frozen=True)
class MaterialsPlan:
    """The list in the order of the job."""

    lines: tuple[MaterialLine, ...]
    sawing: Sawing
    cost: Cost
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]

    def quantity(self, key: str) -> float:
        """What to order of one line; nought where the drawing takes none."""
        return next((line.quantity for line in self.lines if line.key == key), 0.0)


def bought(givens: MaterialsGivens, takes: tuple[Take, ...]) -> tuple[MaterialLine, ...]:
    """Add waste and spares to what stages take, and round up to what is sold."""
    shares = {"cut": givens.waste, "small": givens.spare_fasteners, "none": 0.0, "post": 0.0}
    return tuple(
        MaterialLine.of(take, shares[take.loses], givens.spare_posts if take.loses == "post" else 0)
        for take in takes
        if take.net > 0
    )


def plan_materials(
    givens: MaterialsGivens,
    takes: tuple[Take, ...],
    sawing: Sawing,
    pack: RulePack,
    watts: float,
    begins: date | None,
) -> MaterialsPlan:
    """The list of what the stages take, and what it comes to.

    ``takes`` has the sticks of ``sawing``; ``watts`` are those of all modules; ``begins`` is the day by
    which prices have to be fresh.
    """
    lines = bought(givens, with_sellers_names(takes, givens.profiles))
    cost = cost_of(lines, givens.prices)
    heaviest = max(lines, key=lambda line: line.piece_kg)
    answers = (
        *_list_answers(lines, heaviest),
        *saw_answers(sawing),
        *cost_answers(givens, cost, watts),
        *left_over_answers(lines, sawing),
        *(line.answer() for line in lines),
    )
    checks = (
        within(
            "materials",
            "lift",
            "Two people lift every piece",
            heaviest.piece_kg,
            constant("common", "hand_load_kg"),
            "haul",
            most=True,
            remedy="A machine for the heavy pieces, shorter stock or lighter posts.",
            given="frame.stock_length_m",
            otherwise="look",
        ),
        *saw_checks(sawing, pack),
        *cost_checks(givens, cost, begins),
        *profile_checks(givens.profiles),
    )
    return MaterialsPlan(lines, sawing, cost, answers, checks)


def _list_answers(lines: tuple[MaterialLine, ...], heaviest: MaterialLine) -> tuple[Answer, ...]:
    """How long the list is, what it weighs, and the piece that is worst to lift."""
    return (
        Answer(
            "materials",
            "lines",
            "Lines in the list",
            Working(
                "n",
                "",
                (),
                float(len(lines)),
                "count",
                GEOMETRY,
                "Checked onto the truck, line by line: one forgotten part stops the job.",
            ),
            True,
        ),
        Answer(
            "materials",
            "mass",
            "All that is hauled weighs",
            Working(
                "m",
                "",
                (Input("n", "lines weighed", float(sum(line.mass_kg > 0 for line in lines)), "count"),),
                sum(line.mass_kg for line in lines),
                "haul",
                GEOMETRY,
                "Lines whose weight the plan knows; conduit, boxes and small parts come on top.",
            ),
            True,
        ),
        Answer(
            "materials",
            "heaviest",
            "Heaviest single piece",
            Working(
                "m_1",
                "",
                (),
                heaviest.piece_kg,
                "haul",
                GEOMETRY,
                f"{heaviest.item}.",
            ),
            True,
        ),
    )
