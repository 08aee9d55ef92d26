"""Kinds of supports in words: which are alike, and what each asks of the ground at most."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.core.rows.stands import named
from openfurrow.sheets.models import Column, TableText

Floats = NDArray[np.float64]

ALPHABET = "abcdefghijklmnopqrstuvwxyz"


@dataclass(frozen=True, kw_only=True)
class Asked:
    """The most that each kind asks of the ground, over all cases; one entry a kind."""

    press_n: Floats
    pull_n: Floats
    push_n: Floats
    tip_n_m: Floats


def asked_of(plan: Plan) -> Asked:
    """What the kinds of the open array ask for."""
    found = plan.structure.reactions
    return Asked(
        press_n=np.maximum(found.down_n.max(axis=1), 0.0),
        pull_n=np.maximum(-found.down_n.min(axis=1), 0.0),
        push_n=np.abs(found.push_n).max(axis=1),
        tip_n_m=np.abs(found.tipping_n_m).max(axis=1),
    )


def letters(plan: Plan) -> tuple[str, ...]:
    """What each kind is called: a, b, …, z, aa, ab."""
    count = plan.structure.posts.kinds.count
    return tuple(
        (ALPHABET[number // 26 - 1] if number >= 26 else "") + ALPHABET[number % 26]
        for number in range(count)
    )


def kinds_table(plan: Plan, units: UnitSystem) -> TableText:
    """One line a kind: which supports, how high, how much of the row, what they ask for.

    Posts that hold a tube's drive are told, for all that turns it ends in them.
    """
    posts, asked = plan.structure.posts, asked_of(plan)
    kinds, of = posts.kinds, posts.supports.kind
    several = len(posts.roles) > 1

    def said(value: float, kind: str) -> str:
        return format_value(value, kind, units)

    titles = ("Posts", "Tallest", "Row", "Weight", "Pull", "Push", "Moment")
    rows = tuple(
        (
            f"{letter}, drive" if kinds.drives[index] else letter,
            *([posts.roles[int(kinds.role[index])].name.split()[0]] if several else []),
            named(tuple(np.flatnonzero(of == index).tolist()), "post").split(" ", 1)[1],
            said(float(kinds.high_m[index]), "tape"),
            said(float(kinds.tributary_m[index]), "tape"),
            said(float(asked.press_n[index]), "force"),
            said(float(asked.pull_n[index]), "force"),
            said(float(asked.push_n[index]), "force"),
            said(float(asked.tip_n_m[index]), "moment"),
        )
        for index, letter in enumerate(letters(plan))
    )
    return TableText(
        key="kinds",
        title="Supports that are alike",
        columns=(
            Column(title="Kind", number=False),
            *([Column(title="Line", number=False)] if several else []),
            *(Column(title=title, number=title != "Posts") for title in titles),
        ),
        rows=rows,
        left_out=0,
        note="Each at its worst, whichever case that is: weight, pull, push and moment do not act "
        "together.",
    )
