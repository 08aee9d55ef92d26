"""Of the members of bents at several tilts each as it is used most."""

from collections.abc import Sequence
from dataclasses import replace
from typing import Any, Protocol, TypeVar

from openfurrow.core.structures.bents.along import Along
from openfurrow.core.structures.bents.sized import Brace, Strained
from openfurrow.core.structures.purlins import Purlin, worst_purlin


class _Beam(Protocol):
    @property
    def used(self) -> float:
        """How much of it is used."""


class BentMembers(Protocol):
    """What members of every family of bents have."""

    @property
    def beam(self) -> _Beam:
        """The beam or the rail."""

    @property
    def purlin(self) -> Purlin:
        """What lies along the row."""

    @property
    def posts(self) -> Strained:
        """Posts over the ground."""

    @property
    def brace(self) -> Brace | None:
        """The cross brace."""

    @property
    def head_n(self) -> float:
        """What holds the beam, or the pipe, on a head."""

    @property
    def along(self) -> Along:
        """Wind along the row."""


M = TypeVar("M", bound=BentMembers)


def _worst_brace(braces: list[Brace]) -> Brace:
    """The one that is used most, with the most that any is pushed or pulled with."""
    worst = max(braces, key=lambda one: one.push_n / one.limit_n)
    return replace(worst, most_n=max(one.most_n for one in braces))


def worst_members(at: Sequence[M]) -> M:
    """Those of a table that is set to several tilts; of one tilt they are what they are."""
    if len(at) == 1:
        return at[0]
    braces = [one.brace for one in at if one.brace is not None]
    most: Any = max(at, key=lambda one: one.beam.used)
    worst: M = replace(
        most,
        purlin=worst_purlin([one.purlin for one in at]),
        posts=max((one.posts for one in at), key=lambda one: one.used),
        brace=_worst_brace(braces) if braces else None,
        head_n=max(one.head_n for one in at),
        along=max((one.along for one in at), key=lambda one: float(one.table_n.max())),
    )
    return worst
