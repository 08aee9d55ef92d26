"""What every structure hands on: where its supports stand, which are alike, what each asks for."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.rows.array import RowsPlan
from openfurrow.core.structures.roles import Role

Floats = NDArray[np.float64]
Integers = NDArray[np.int64]


@dataclass(frozen=True)
class SupportPlaces:
    """One entry a support, table by table in their order, along each line from its first support.

    ``line`` says which supports stand in one straight line: of a row, or of a table by itself.
    ``role`` is which of the ``roles`` of its bent it has, counted from the front.
    ``along_m`` and ``back_m`` are measured level from the middle of the front row's post line,
    ``run_m`` along its line's own purlins from their middle, ``from_middle_m`` along the purlin from
    the table's middle, ``east_m`` and ``north_m`` from the site's origin. ``of_table`` is its table
    and ``ordinal`` that of its bent there, counted from nought.
    """

    roles: tuple[Role, ...]
    line: Integers
    role: Integers
    of_table: Integers
    ordinal: Integers
    from_middle_m: Floats
    run_m: Floats
    along_m: Floats
    back_m: Floats
    east_m: Floats
    north_m: Floats

    @property
    def lines(self) -> tuple[Integers, Floats]:
        """The lines that there are, and of each support its tape from the first in its line."""
        found, of = np.unique(self.line, return_inverse=True)
        first = np.full(found.size, np.inf)
        np.minimum.at(first, of, self.run_m)
        return found, np.asarray(self.run_m - first[of])


def support_id(rows: RowsPlan, places: SupportPlaces, index: int) -> str:
    """By what a support is known for good: its table, then its letter and number: ``2.3/b4``."""
    letter = places.roles[int(places.role[index])].letter
    table = rows.stands.id_of(int(places.of_table[index]))
    return f"{table}/{letter}{int(places.ordinal[index]) + 1}"


def called_in_full(rows: RowsPlan, places: SupportPlaces, index: int) -> str:
    """What it is, its number in the stakes and by what it is known: ``front post 4, 1.1/f4``."""
    role = places.roles[int(places.role[index])].name
    return f"{role} {index + 1}, {support_id(rows, places, index)}"


def bent_id(rows: RowsPlan, places: SupportPlaces, index: int) -> str:
    """By what the bent of a support is known, ``2.3/4``: all its posts shift together."""
    return f"{rows.stands.id_of(int(places.of_table[index]))}/{int(places.ordinal[index]) + 1}"


@dataclass(frozen=True, kw_only=True)
class Supports:
    """One entry a support.

    ``ground_m`` is the ground's level, ``reveals_m`` how high the support's head (the bolt) stands over
    it, ``tributary_m`` how much of the row it carries, ``soil_of`` which of the site's soils it stands
    in and ``kind`` which of ``Kinds`` it is.
    """

    places: SupportPlaces
    ground_m: Floats
    reveals_m: Floats
    tributary_m: Floats
    soil_of: Integers
    kind: Integers

    @property
    def count(self) -> int:
        """Supports of the whole array."""
        return int(self.reveals_m.size)

    @property
    def tallest_m(self) -> float:
        """The tallest reveal."""
        return float(self.reveals_m.max())


@dataclass(frozen=True, kw_only=True)
class Kinds:
    """Supports that are alike are sized once: one entry a kind, each bound at least as bad as its own.

    A kind's supports are of one ``role``, carry at most ``tributary_m`` and at least
    ``least_tributary_m`` of the row, all in the soil ``soil_of`` and under tables of one length,
    ``size_of``, all ``sheltered`` by others or none, all with a tube's drive on them, ``drives``, or
    none. The posts of their bents stand between
    ``lows_m`` and ``highs_m`` out of the ground (kinds, roles).
    """

    role: Integers
    lows_m: Floats
    highs_m: Floats
    tributary_m: Floats
    least_tributary_m: Floats
    soil_of: Integers
    size_of: Integers
    sheltered: NDArray[np.bool_]
    drives: NDArray[np.bool_]

    @property
    def count(self) -> int:
        """How many kinds there are."""
        return int(self.role.size)

    @property
    def low_m(self) -> Floats:
        """The least that a support of each kind stands out of the ground."""
        return np.asarray(self.lows_m[np.arange(self.count), self.role])

    @property
    def high_m(self) -> Floats:
        """The most that a support of each kind stands out of the ground."""
        return np.asarray(self.highs_m[np.arange(self.count), self.role])


@dataclass(frozen=True, kw_only=True)
class Reactions:
    """What the supports ask of the ground: kinds x cases, at ground level, strength combinations.

    ``down_n`` is positive downward, ``across_n`` toward the back, ``moment_n_m`` tipping the head
    toward the back; ``along_n`` and ``along_moment_n_m`` are the same along the row, whichever way, and
    ``twist_n_m`` turns it about its own axis, whichever way.
    All cases stand one after the other for each of so many ``bounds``: at the greatest and at the least
    height of its kind, with feet that hold and that give. ``dead_n`` is the unfactored weight on the
    lightest support of each kind.
    """

    names: tuple[str, ...]
    bounds: int
    down_n: Floats
    across_n: Floats
    moment_n_m: Floats
    along_n: Floats
    along_moment_n_m: Floats
    twist_n_m: Floats
    dead_n: Floats

    def times(self, more: float) -> "Reactions":
        """The same where so much more of the row is carried; what lies lightest stays as it is."""
        forces = ("down_n", "across_n", "moment_n_m", "along_n", "along_moment_n_m", "twist_n_m")
        return replace(self, **{name: getattr(self, name) * more for name in forces})

    def where(self, which: NDArray[np.bool_], other: "Reactions") -> "Reactions":
        """The same with some kinds' own taken from others that have the same cases."""
        own = {
            one.name: np.where(which[:, None], getattr(other, one.name), getattr(self, one.name))
            for one in fields(self)
            if one.name not in ("names", "bounds", "dead_n")
        }
        return replace(self, **own)

    @property
    def push_n(self) -> Floats:
        """Sideways, whichever way; with its sign where all acts across the row alone."""
        both = np.hypot(self.across_n, self.along_n)
        return np.where((self.along_n != 0) | (self.along_moment_n_m != 0), both, self.across_n)

    @property
    def tipping_n_m(self) -> Floats:
        """The moment of the same."""
        both = np.hypot(self.moment_n_m, self.along_moment_n_m)
        return np.where(self.along_moment_n_m, both, self.moment_n_m)

    @staticmethod
    def over(cases: Sequence["Reactions"], words: Sequence[str]) -> "Reactions":
        """Those of several positions, ``words`` for each, as cases of one: bound after bound."""
        if len(cases) == 1:
            return cases[0]
        bounds = cases[0].bounds

        def joined(name: str) -> Floats:
            parts = [np.split(getattr(one, name), bounds, axis=1) for one in cases]
            return np.concatenate([part[at] for at in range(bounds) for part in parts], axis=1)

        return Reactions(
            names=tuple(
                f"{name}, {said}"
                for at in range(bounds)
                for one, said in zip(cases, words, strict=True)
                for name in one.of_bound(at)
            ),
            bounds=bounds,
            down_n=joined("down_n"),
            across_n=joined("across_n"),
            moment_n_m=joined("moment_n_m"),
            along_n=joined("along_n"),
            along_moment_n_m=joined("along_moment_n_m"),
            twist_n_m=joined("twist_n_m"),
            dead_n=cases[0].dead_n,
        )

    def with_cases(self, names: tuple[str, ...], more: Sequence[Mapping[str, Floats]]) -> "Reactions":
        """The same with cases added to those of each bound: ``more`` has the forces of each."""
        fields = more[0].keys()
        parts = {name: np.split(getattr(self, name), self.bounds, axis=1) for name in fields}
        joined = {
            name: np.concatenate(
                [one for at in range(self.bounds) for one in (parts[name][at], more[at][name])], axis=1
            )
            for name in fields
        }
        said = tuple(name for at in range(self.bounds) for name in (*self.of_bound(at), *names))
        return Reactions(names=said, bounds=self.bounds, dead_n=self.dead_n, **joined)

    def of_bound(self, bound: int) -> tuple[str, ...]:
        """The names of the cases of one bound."""
        cases = len(self.names) // self.bounds
        return self.names[bound * cases : (bound + 1) * cases]

    def of(self, kind: int) -> "Reactions":
        """Those of one kind alone, its cases as a flat row."""
        return Reactions(
            names=self.names,
            bounds=self.bounds,
            down_n=self.down_n[kind],
            across_n=self.across_n[kind],
            moment_n_m=self.moment_n_m[kind],
            along_n=self.along_n[kind],
            along_moment_n_m=self.along_moment_n_m[kind],
            twist_n_m=self.twist_n_m[kind],
            dead_n=self.dead_n[kind : kind + 1],
        )
