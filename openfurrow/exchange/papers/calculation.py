"""The calculation of one support: what acts on it and what holds it, line by line with its inputs."""

from dataclasses import replace

import numpy as np

from openfurrow.core.compare.one_support import OF_ALL, bent_with, on_one_support
from openfurrow.core.design import Design
from openfurrow.core.footings.sizing import bears_sideways
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value, in_words
from openfurrow.core.structures.supports import Reactions, called_in_full
from openfurrow.core.working import Answer, Source
from openfurrow.exchange.papers.content import Page
from openfurrow.sheets.layers_table import layers_table
from openfurrow.sheets.models import AnswerText, Column, TableText
from openfurrow.sheets.one_footing import drawn_alone
from openfurrow.sheets.support import own_table
from openfurrow.sheets.write import answer_text, check_text

FORCES = (
    ("Down", "down_n", "force"),
    ("To the back", "across_n", "force"),
    ("Along", "along_n", "force"),
    ("Tips back", "moment_n_m", "moment"),
    ("Tips along", "along_moment_n_m", "moment"),
    ("Twist", "twist_n_m", "moment"),
)
CALLED_OUT = Source("called out for all that are alike", "geometry")
CAUTION = (
    "For review by an engineer licensed where it stands: soil, loads and method are theirs to accept. "
    "What is from memory of its source is to be read against it."
)


def calculation_pages(design: Design, plan: Plan, index: int, units: UnitSystem) -> tuple[Page, ...]:
    """Its sheets, for the support with this index in the open array. Raises Lacking."""
    if not plan.has("footings"):
        raise Lacking(plan.lacking("footings"))
    alone = on_one_support(design, plan, index)
    whose = f" of {plan.array.name}" if plan.several else ""
    called = called_in_full(plan.rows, plan.structure.supports.places, index) + whose
    own = np.flatnonzero(bent_with(plan, index) == index) if alone.footings.weights else [0]
    kind = int(alone.structure.supports.kind[own[0]])
    return (
        Page(
            title=f"1 Calculation of {called}",
            caution=CAUTION,
            drawings=(drawn_alone(plan, alone, index, units),),
            drawn_high=0.55,
            answers=tuple(answer_text(one, units) for one in alone.footings.answers if one.headline),
            tables=(own_table(plan, index, units),),
            lines=_lines(plan, alone, index, units),
        ),
        Page(
            title="2 What acts on the array, line by line",
            workings=_numbered(2, plan.structure.answers, units),
        ),
        Page(
            title="3 What it asks of the ground",
            tables=(_cases(alone.structure.reactions.of(kind), units),),
        ),
        Page(
            title="4 What holds it, line by line",
            tables=tuple(layers_table(one, one.depth_m, units) for one in alone.footings.posts.kinds),
            lines=_sideways(alone),
            workings=_numbered(4, tuple(map(_called_out, alone.footings.answers)), units),
        ),
        Page(
            title="5 Rules that it has to meet",
            checks=tuple(
                check_text(one, units) for one in alone.footings.checks if one.key not in OF_ALL
            ),
            lines=("Rules of the array as a whole stand on the sheets of the job.",),
        ),
    )


def _lines(plan: Plan, alone: Plan, index: int, units: UnitSystem) -> tuple[str, ...]:
    """How its depth or weight follows from those of its like."""
    if alone.footings.weights is not None:
        if alone.footings.posts.steel is None:
            return ("It is looked at with the other piles of its line: the table ties them together.",)
        return ("It is looked at with the other feet of its bent: its rail ties them together.",)
    posts = alone.footings.posts
    tape = format_value(posts.depth_m, "tape", units)
    asked = format_value(float(posts.asked_m[0]), "tape", units)
    return (
        f"Called out {tape} deep, as all that are called out together. By itself it asks for {asked}.",
        "Its loads are those of its kind, which stands as high and carries as much or more.",
    )


def _sideways(alone: Plan) -> tuple[str, ...]:
    """How many times it bears its worst load sideways, where no printed formula can be followed."""
    return tuple(
        f"Sideways, at the depth that is called out, it bears {share:.2f} times the worst of its loads."
        for one in alone.footings.posts.kinds
        if (share := bears_sideways(one.ground, one.loads, one.depth_m)) is not None
    )


def _called_out(answer: Answer) -> Answer:
    """The depth is held for this support at what is called out for all: it says so."""
    if answer.key != "depth":
        return answer
    working = replace(
        answer.working,
        source=CALLED_OUT,
        note="As it is called out with those that are alike; above is what it asks for by itself.",
    )
    return replace(answer, working=working)


def _numbered(number: int, answers: tuple[Answer, ...], units: UnitSystem) -> tuple[AnswerText, ...]:
    """What is worked out, each line with its number."""
    worked = (one for one in answers if one.working.formula or one.working.note)
    return tuple(
        text.model_copy(update={"label": f"{number}.{line} {text.label}"})
        for line, text in enumerate((answer_text(one, units) for one in worked), start=1)
    )


def _cases(found: Reactions, units: UnitSystem) -> TableText:
    """Every case of its kind; what is alike at another height of its kind stands once."""
    forces = [
        (title, getattr(found, name), kind)
        for title, name, kind in FORCES
        if np.any(getattr(found, name))
    ]
    rows = (
        (
            in_words(name, units),
            *(format_value(float(values[case]), kind, units) for _, values, kind in forces),
        )
        for case, name in enumerate(found.names)
    )
    return TableText(
        key="cases",
        title="Case by case, at ground level, as strength is looked at",
        columns=(
            Column(title="Case", number=False),
            *(Column(title=title, number=True) for title, _, _ in forces),
        ),
        rows=tuple(dict.fromkeys(rows)),
        left_out=0,
        note="What acts at one moment stands in one line. Below nought: lifted, or toward the front. A "
        "case that stands twice is of the highest and of the lowest of its kind.",
    )
