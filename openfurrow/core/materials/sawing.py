"""At the saw: the cuts of all arrays, each with a mark, nested in sticks profile by profile."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from string import ascii_uppercase

import numpy as np

from openfurrow.core.checks import Check, at_least, within
from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.materials.cuts import LINES_KEY, POSTS_KEY, Cut
from openfurrow.core.materials.lines import Take
from openfurrow.core.materials.nesting import Nest, nested, offcut_share
from openfurrow.core.quantities import spoken
from openfurrow.core.working import GEOMETRY, Answer, Input, Source, Working

Nester = Callable[[tuple[tuple[float, int], ...], tuple[float, ...], float], Nest]
NESTED = Source(
    "all patterns of few pieces, those of many by pricing (Gilmore and Gomory 1961); the bound by "
    "Farley (1990)",
    "solved",
)

NOT_PIECES = {POSTS_KEY, LINES_KEY}
STOCK_OF = {POSTS_KEY: "post_stock"}
FEW_STICKS = 6


def nest_of(pieces: tuple[tuple[float, int], ...], stocks_m: tuple[float, ...], kerf_m: float) -> Nest:
    """``nested`` over what can be remembered by."""
    return nested(dict(pieces), stocks_m, kerf_m)


@dataclass(frozen=True, kw_only=True)
class ArrayCuts:
    """What one array has cut; ``table_names`` are its tables'."""

    array: str
    name: str
    cuts: tuple[Cut, ...]
    table_names: Callable[[int], str]


@dataclass(frozen=True, kw_only=True)
class Bar:
    """One profile at the saw: its letter, the pieces by their marks, and how sticks are cut.

    ``marks`` give each length its mark, the longest first, ``counts`` how many of it; ``saw_m`` is what
    a cut eats.
    """

    letter: str
    title: str
    profile: str
    kg_per_m: float
    key: str
    stocks_m: tuple[float, ...]
    marks: dict[float, str]
    counts: dict[float, int]
    nest: Nest
    saw_m: float

    @property
    def pieces(self) -> int:
        """All pieces of it."""
        return sum(self.counts.values())

    @property
    def offcut_share(self) -> float:
        """What is bought and not needed, of all that is bought."""
        return 1 - self.nest.cut_m / self.nest.bought_m


@dataclass(frozen=True, kw_only=True)
class Bundle:
    """The pieces of one table, tied together: how many of each mark."""

    array: str
    name: str
    table: str
    counts: tuple[tuple[str, int], ...]


@dataclass(frozen=True)
class Sawing:
    """The saw's work for the whole job."""

    arrays: tuple[ArrayCuts, ...]
    bars: tuple[Bar, ...]

    def mark_of(self, cut: Cut) -> str:
        """What a piece is marked with; nothing where it is not cut here."""
        if not cut.from_stick:
            return ""
        bar = next(one for one in self.bars if one.profile == cut.profile)
        return bar.marks[cut.length_m]

    def bundles(self) -> tuple[Bundle, ...]:
        """What belongs to each table, in the order of the marks; pieces of no known table are left."""
        found = []
        for own in self.arrays:
            told: dict[int, dict[str, int]] = {}
            for cut in own.cuts:
                mark = self.mark_of(cut)
                if not mark:
                    continue
                tables, counts = np.unique(cut.of_table, return_counts=True)
                for number, count in zip(tables.tolist(), counts.tolist(), strict=True):
                    of = told.setdefault(number, {})
                    of[mark] = of.get(mark, 0) + count
            found += [
                Bundle(
                    array=own.array,
                    name=own.name,
                    table=own.table_names(number),
                    counts=tuple(sorted(told[number].items(), key=lambda one: _order(one[0]))),
                )
                for number in sorted(told)
            ]
        return tuple(found)


def _order(mark: str) -> tuple[int, str, int]:
    letter = mark.rstrip("0123456789")
    return len(letter), letter, int(mark[len(letter) :])


def _letter(number: int) -> str:
    """A to Z, then AA and on."""
    more, own = divmod(number, len(ascii_uppercase))
    return (_letter(more - 1) if more else "") + ascii_uppercase[own]


def sawn(
    arrays: tuple[ArrayCuts, ...], saw_m: float, spare_posts: int = 0, nest: Nester = nest_of
) -> Sawing:
    """Nest the cuts of all arrays; a profile has all sticks that any of its arrays is sold.

    ``saw_m`` is what a cut eats of the stick; of posts that are cut here ``spare_posts`` more are cut,
    as long as the longest of their profile.
    """
    of_profile: dict[str, list[Cut]] = {}
    for own in arrays:
        for cut in own.cuts:
            if cut.from_stick:
                of_profile.setdefault(cut.profile, []).append(cut)
    bars = []
    for number, (profile, cuts) in enumerate(of_profile.items()):
        pieces: dict[float, int] = {}
        for cut in cuts:
            pieces[cut.length_m] = pieces.get(cut.length_m, 0) + cut.count
        posts = [cut.length_m for cut in cuts if cut.key == POSTS_KEY]
        if posts:
            pieces[max(posts)] += spare_posts
        stocks = tuple(sorted({round(stock, 6) for cut in cuts for stock in cut.stocks_m}))
        lengths = sorted(pieces, reverse=True)
        letter = _letter(number)
        bars.append(
            Bar(
                letter=letter,
                title=_titled(cuts),
                profile=profile,
                kg_per_m=cuts[0].kg_per_m,
                key="_".join(dict.fromkeys(cut.key for cut in cuts)),
                stocks_m=stocks,
                marks={length: f"{letter}{at}" for at, length in enumerate(lengths, start=1)},
                counts=pieces,
                nest=nest(tuple((length, pieces[length]) for length in lengths), stocks, saw_m),
                saw_m=saw_m,
            )
        )
    return Sawing(arrays, tuple(bars))


def _titled(cuts: list[Cut]) -> str:
    """What the sticks are for: cross brace and base rail stock."""
    titles = list(dict.fromkeys(cut.title for cut in cuts))
    if len(titles) == 1:
        return titles[0]
    words = [title.removesuffix(" stock") for title in titles]
    lowered = [word if at == 0 else word[0].lower() + word[1:] for at, word in enumerate(words)]
    return f"{', '.join(lowered[:-1])} and {lowered[-1]} stock"


def _metres(sawing: Sawing, bar: Bar) -> tuple[tuple[str, float], ...]:
    """What of a profile each array cuts, in metres: by these its sticks are shared out."""
    found: dict[str, float] = {}
    for own in sawing.arrays:
        cut = sum(
            one.length_m * one.count
            for one in own.cuts
            if one.from_stick and one.profile == bar.profile
        )
        if cut:
            found[own.name] = found.get(own.name, 0.0) + cut
    return tuple(found.items())


def stick_takes(sawing: Sawing) -> tuple[Take, ...]:
    """The sticks to buy, profile by profile and length by length."""
    return tuple(
        Take(
            "frame",
            f"sticks_{bar.key}",
            f"{bar.title}, {bar.profile}, {spoken(stock, 'tape')} long",
            float(count),
            "count",
            f"Cut by the list at the saw, marks {bar.letter}1 to {bar.letter}{len(bar.marks)}; offcuts "
            "are used where they fit.",
            piece_kg=stock * bar.kg_per_m,
            length_m=stock,
            shares=_metres(sawing, bar),
        )
        for bar in sawing.bars
        for stock, count in bar.nest.of_stock().items()
    )


def saw_answers(sawing: Sawing) -> tuple[Answer, ...]:
    """Of each profile how many sticks, and the least that any way of cutting takes."""
    return tuple(
        Answer(
            "materials",
            f"saw_{bar.letter.lower()}",
            f"{bar.letter}: sticks of {bar.profile}",
            Working(
                "n",
                "",
                (
                    Input("p", "pieces", float(bar.pieces), "count"),
                    Input("L", "pieces, end to end", bar.nest.cut_m, "run"),
                    Input("k", "a saw cut", bar.saw_m, "thickness"),
                    Input("B", "sticks bought, end to end", bar.nest.bought_m, "run"),
                    Input("B_0", "no way of cutting buys less than", bar.nest.bound_m, "run"),
                    Input("w", "of it in offcuts", bar.offcut_share, "ratio"),
                ),
                float(bar.nest.sticks),
                "count",
                NESTED,
                f"{bar.title}: {len(bar.nest.patterns)} ways to cut a stick.",
            ),
        )
        for bar in sawing.bars
    )


def saw_checks(sawing: Sawing, pack: RulePack) -> tuple[Check, ...]:
    """Whether every piece that is to be cut here fits a stick, and whether much is left over.

    Of a few sticks much is always left.
    """
    many = [bar for bar in sawing.bars if bar.nest.sticks >= FEW_STICKS]
    worst = max(many, key=lambda bar: bar.offcut_share, default=None)
    return (*_fitting(sawing), *((_left_over(sawing, worst, pack),) if worst else ()))


def _left_over(sawing: Sawing, bar: Bar, pack: RulePack) -> Check:
    """What is left of the sticks of a profile; and a length that is sold and leaves less."""
    most = constant("common", "offcut_most")
    those = [
        (own, cut)
        for own in sawing.arrays
        for cut in own.cuts
        if cut.profile == bar.profile and cut.from_stick
    ]
    # Where lines are among them, the array whose lines they are.
    own, cut = next((one for one in those if one[1].key == LINES_KEY), those[0])
    lines = cut.key == LINES_KEY
    remedy = f"{bar.profile}: have it come cut to length."
    if bar.offcut_share > most.value and (less := _less_left(bar, pack, lines=lines)) is not None:
        stock, left = less
        words = f"sticks of {spoken(stock, 'tape')}"
        words = f"{words} beside those" if lines else words
        remedy = f"{bar.profile}: with {words} about {100 * left:.0f} % would be left."
    return replace(
        within(
            "materials",
            "offcuts",
            "Little is left of the sticks",
            bar.offcut_share,
            most,
            "ratio",
            most=True,
            remedy=remedy,
            given="frame.other_stock_m" if lines else f"frame.{STOCK_OF.get(cut.key, 'piece_stock')}_m",
            otherwise="look",
        ),
        array=own.array,
    )


def _less_left(bar: Bar, pack: RulePack, *, lines: bool) -> tuple[float, float] | None:
    """The length that is sold and leaves least, and how much, where that is less than now.

    Another length for ``lines`` would move their splices: of these a shorter one is tried beside it.
    """
    sold, longest = table(pack, "stock").numbers["length_m"].tolist(), max(bar.counts)
    ways = (
        {one: (one, *bar.stocks_m) for one in sold if one < max(bar.stocks_m)}
        if lines
        else {one: (one,) for one in sold if one >= longest}
    )
    shares = [(offcut_share(bar.counts, those, bar.saw_m), one) for one, those in ways.items()]
    left, stock = min(shares, default=(1.0, 0.0))
    return (stock, left) if left < bar.offcut_share else None


def _fitting(sawing: Sawing) -> tuple[Check, ...]:
    return tuple(
        replace(
            at_least(
                "materials",
                f"stick_{name}",
                f"{word} fit their sticks",
                max(own[0].stocks_m),
                max(cut.length_m for cut in own),
                "tape",
                remedy="Longer sticks, or have them come cut to length.",
                source=GEOMETRY,
                given=f"frame.{name}_m",
            ),
            array=array.array,
        )
        for array in sawing.arrays
        for name, word, keys in (
            ("post_stock", "Posts", {POSTS_KEY}),
            ("piece_stock", "Beams, rails and braces", {cut.key for cut in array.cuts} - NOT_PIECES),
        )
        if (own := [cut for cut in array.cuts if cut.stocks_m and cut.key in keys])
    )
