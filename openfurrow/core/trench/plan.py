"""Trench: what is dug: how deep, how wide, what it meets, spoil and sand."""

import math
from dataclasses import dataclass, replace

from openfurrow.core.checks import Check, at_least, at_most, holds, within
from openfurrow.core.codes import constant
from openfurrow.core.quantities import round_up, spoken, tape_step_m
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.said import Air
from openfurrow.core.trench.crossings import Dug, crossings_of, way_checks
from openfurrow.core.trench.data_pipe import DataPipe, data_answers, data_of, room_for_data_m
from openfurrow.core.trench.ends import end_checks
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.trench.over_ground import Over, over_answers, over_checks, over_of
from openfurrow.core.trench.putting_back import Back, back_answers, back_checks, back_of
from openfurrow.core.trench.runs import Run
from openfurrow.core.trench.sections import Section, roads_met, section_checks, sections_of
from openfurrow.core.trench.wall import Holes, holes_of, wall_answers, wall_checks
from openfurrow.core.trench.ways import Stretch, Tree
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working


@dataclass(frozen=True, kw_only=True)
class TrenchPlan:
    """What is dug for all arrays, to one depth, and what lies in it: ``runs``, one for each array.

    ``back`` is what is put back of opened ground; None while nobody has said how. ``holes`` are those
    through the wall at its end; None where none was measured. ``over`` is how it
    lies over the ground where nothing is dug: then depth, spoil and sand are nought. ``sections`` are
    its parts all along which the same is so, ``plates`` are laid over cable, under which
    ``sand_over_m`` lies on it, ``data`` the pipe for data beside the power.
    """

    tree: Tree
    runs: tuple[Run, ...]
    dug: tuple[Dug, ...]
    width_m: float
    depth_m: float
    ground_length_m: float
    spoil_m3: float
    loose_m3: float
    bedding_m3: float
    holes: Holes | None
    answers: tuple[Answer, ...]
    checks: tuple[Check, ...]
    over: Over | None = None
    sections: tuple[Section, ...] = ()
    back: Back | None = None
    plates: int = 0
    sand_over_m: float = 0.0
    data: DataPipe | None = None


def width_m(least_m: float, runs: tuple[Run, ...], more_m: float = 0.0) -> float:
    """How wide a trench takes what lies in it, and ``more_m`` besides.

    Side by side, as wide apart as the thickest is thick; the trench is widened when they do not fit.
    """
    return max(least_m, beside_m(runs) + more_m + 0.1)


def beside_m(runs: tuple[Run, ...]) -> float:
    """From the first one's outer edge to the last one's."""
    outsides = [run.outside_m for run in runs for _ in range(run.conduits)]
    return sum(outsides) + (len(outsides) - 1) * max(outsides, default=0.0)


def plates_across(runs: tuple[Run, ...]) -> int:
    """How many plates beside each other reach past both outermost cables."""
    wide, beyond = (constant("common", f"cover_plate_{name}").value for name in ("wide_m", "beyond_m"))
    return math.ceil((beside_m(runs) + 2 * beyond) / wide - 1e-9)


def _dug(
    site: SitePlan, stretch: Stretch, runs: tuple[Run, ...], least_m: float, more_m: float = 0.0
) -> Dug:
    passing = tuple(runs[number] for number in stretch.carries)
    return Dug(
        stretch=stretch,
        width_m=width_m(least_m, passing, more_m),
        crossings=crossings_of(site.keepouts, stretch.line),
    )


def plan_trench(
    site: SitePlan,
    givens: TrenchGivens,
    tree: Tree,
    runs: tuple[Run, ...],
    air: Air,
    snow_m: float = 0.0,
    slack_m: float = 0.0,
) -> TrenchPlan:
    """Dig for the runs of all arrays; a stretch that several share is dug once, wide enough for all.

    Or lay them over the ground: then nothing is dug. ``snow_m`` is how deep the design's snow lies,
    ``slack_m`` what is left over at each end of a cable.
    """
    found = (
        _laid_over(site, givens, tree, runs, air)
        if givens.is_over
        else _dug_in(site, givens, tree, runs, slack_m)
    )
    return replace(found, checks=(*found.checks, *end_checks(givens, snow_m)))


def _dug_in(
    site: SitePlan, givens: TrenchGivens, tree: Tree, runs: tuple[Run, ...], slack_m: float
) -> TrenchPlan:
    """The trench, and what is put back over it."""
    more_m = room_for_data_m(site.rule_pack, givens)
    dug = tuple(_dug(site, stretch, runs, givens.width_m, more_m) for stretch in tree.stretches)
    data = data_of(site.rule_pack, givens, dug, runs, slack_m)
    outside = max(run.outside_m for run in runs)
    depth = round_up(
        runs[0].route.cover_m + outside + givens.bedding_m, tape_step_m(site.display_units)
    )
    area = sum(piece.area_m2 for piece in dug)
    spoil, holes, back = area * depth, holes_of(givens, runs, data), back_of(givens, dug)
    sections = sections_of(site.keepouts, dug, givens, runs[0].route, site.rule_pack)
    checks = (
        *_checks(site, givens, runs[0], depth, outside, _widest_m(dug, runs, givens, more_m)),
        *section_checks(sections),
        *way_checks(site, dug, depth),
        *_way_check(tree),
        *back_checks(back, givens),
        *wall_checks(holes, givens),
    )
    return TrenchPlan(
        tree=tree,
        runs=runs,
        dug=dug,
        back=back,
        sections=sections,
        plates=_plates(givens, dug, runs),
        width_m=_widest_m(dug, runs, givens, more_m),
        data=data,
        depth_m=depth,
        ground_length_m=_length_m(dug),
        spoil_m3=spoil,
        loose_m3=spoil * (1 + givens.swell),
        bedding_m3=area * _sand_m(givens, outside),
        sand_over_m=givens.bedding_m if givens.is_cable else 0.0,
        holes=holes,
        answers=(
            *_answers(site, givens, dug, runs, depth, outside),
            *data_answers(data),
            *back_answers(back, givens),
            *wall_answers(holes, givens),
        ),
        checks=checks,
    )


def _laid_over(
    site: SitePlan, givens: TrenchGivens, tree: Tree, runs: tuple[Run, ...], air: Air
) -> TrenchPlan:
    """The same way with nothing opened: supports, sleeves, and what it must keep off."""
    pieces = (_dug(site, stretch, runs, 0.0) for stretch in tree.stretches)
    # Nothing is dug near a buried line, by hand or otherwise.
    dug = tuple(replace(piece, crossings=()) for piece in pieces)
    over, holes = over_of(site.rule_pack, givens, runs, dug, air), holes_of(givens, runs)
    return TrenchPlan(
        tree=tree,
        runs=runs,
        dug=dug,
        width_m=max((piece.width_m for piece in dug), default=width_m(0.0, runs[:1])),
        depth_m=0.0,
        ground_length_m=_length_m(dug),
        spoil_m3=0.0,
        loose_m3=0.0,
        bedding_m3=0.0,
        holes=holes,
        over=over,
        answers=(*over_answers(over, givens), *wall_answers(holes, givens)),
        checks=(
            *over_checks(over, givens, roads_met(site.keepouts, (one.stretch.line for one in dug))),
            *way_checks(site, dug, 0.0),
            *_way_check(tree),
            *wall_checks(holes, givens),
        ),
    )


def _sand_m(givens: TrenchGivens, outside_m: float) -> float:
    """How deep sand lies in all: below, and of cable over it and round it as well."""
    return 2 * givens.bedding_m + outside_m if givens.is_cable else givens.bedding_m


def _plates(givens: TrenchGivens, dug: tuple[Dug, ...], runs: tuple[Run, ...]) -> int:
    """Plates over cable, stretch by stretch: so many beside each other that they reach past it."""
    if not givens.plates_over or not givens.is_cable:
        return 0
    long = constant("common", "cover_plate_long_m").value
    return sum(
        math.ceil(one.stretch.line.ground_length_m / long - 1e-9)
        * plates_across(tuple(runs[number] for number in one.stretch.carries))
        for one in dug
    )


def _length_m(dug: tuple[Dug, ...]) -> float:
    """Along the ground, every stretch once."""
    return sum(piece.stretch.line.ground_length_m for piece in dug)


def _widest_m(
    dug: tuple[Dug, ...], runs: tuple[Run, ...], givens: TrenchGivens, more_m: float = 0.0
) -> float:
    """The widest stretch; before a way is drawn, what the first array's run would ask for."""
    return max((piece.width_m for piece in dug), default=width_m(givens.width_m, runs[:1], more_m))


def _answers(
    site: SitePlan,
    givens: TrenchGivens,
    dug: tuple[Dug, ...],
    runs: tuple[Run, ...],
    depth: float,
    outside: float,
) -> tuple[Answer, ...]:
    route = runs[0].route
    area = sum(piece.area_m2 for piece in dug)
    deep = Input("d", "depth", depth, "tape")
    cover = Input("c", "least cover", route.least_cover_m, "tape")
    extra = Input("x", "deeper than the rule", givens.extra_depth_m, "tape")
    opened = "A"
    sizes: tuple[Input, ...] = (
        Input("A", "area opened: length times width of every stretch", area, "area"),
    )
    if len(dug) < 2:
        length = _length_m(dug)
        opened, sizes = (
            "L * w",
            (
                Input("L", "length along the ground", length, "run"),
                Input("w", "width", _widest_m(dug, runs, givens), "tape"),
            ),
        )
    return (
        Answer(
            "trench",
            "depth",
            "Dig to",
            Working(
                "d",
                "ceil((c + x + D + b) / step) * step",
                (
                    cover,
                    extra,
                    Input("D", "outside of the conduit or cable", outside, "tape"),
                    Input("b", "sand below", givens.bedding_m, "tape"),
                    Input(
                        "step", "finest mark on the tape", tape_step_m(site.display_units), "thickness"
                    ),
                ),
                depth,
                "tape",
                GEOMETRY,
            ),
            True,
        ),
        *_together(dug, runs),
        Answer(
            "trench",
            "cover",
            "Cover over the wiring",
            Working(
                "c_t",
                "c + x",
                (cover, extra),
                route.cover_m,
                "tape",
                route.cover_table.source,
                "To the top of the conduit or cable. Local rules and frost may ask for more.",
            ),
        ),
        Answer(
            "trench",
            "spoil",
            "Spoil in a heap",
            Working(
                "V",
                f"{opened} * d * (1 + q)",
                (*sizes, deep, Input("q", "swell", givens.swell, "ratio")),
                area * depth * (1 + givens.swell),
                "volume",
                GEOMETRY,
                "Heaped at least 0.6 m (2 ft) from the edge.",
            ),
            True,
        ),
        Answer(
            "trench",
            "bedding",
            "Sand",
            Working(
                "V_s",
                f"{opened} * (2 * b + D)" if givens.is_cable else f"{opened} * b",
                (
                    *sizes,
                    Input("b", "thickness of a layer", givens.bedding_m, "tape"),
                    *((Input("D", "round the cable", outside, "tape"),) if givens.is_cable else ()),
                ),
                area * _sand_m(givens, outside),
                "volume",
                GEOMETRY,
            ),
        ),
    )


def _together(dug: tuple[Dug, ...], runs: tuple[Run, ...]) -> tuple[Answer, ...]:
    """What is dug for several arrays together, what they share counted once."""
    if len(runs) < 2:
        return ()
    words = "; ".join(
        f"{piece.stretch.name}: {spoken(piece.stretch.line.ground_length_m, 'run')}, "
        f"{spoken(piece.width_m, 'tape')} wide"
        for piece in dug[:12]
    )
    more = f"; and {len(dug) - 12} more" if len(dug) > 12 else ""
    by_hand = [crossing for piece in dug for crossing in piece.crossings]
    return (
        Answer(
            "trench",
            "dug",
            "Trench dug in all",
            Working(
                "L_all",
                "",
                (Input("n", "stretches", float(len(dug)), "count"),),
                _length_m(dug),
                "run",
                GEOMETRY,
                f"What several arrays share is dug once. {words}{more}.",
            ),
            True,
        ),
        *(
            (
                Answer(
                    "trench",
                    "by_hand_all",
                    "Of that by hand",
                    Working(
                        "L_hand_all",
                        "",
                        (Input("n", "lines met", float(len(by_hand)), "count"),),
                        sum(crossing.length_m for crossing in by_hand),
                        "run",
                        by_hand[0].zone.feature.facts.source,
                    ),
                ),
            )
            if by_hand
            else ()
        ),
    )


def _checks(
    site: SitePlan, givens: TrenchGivens, run: Run, depth: float, outside: float, width: float
) -> tuple[Check, ...]:
    return (
        at_least(
            "trench",
            "cover",
            "Deep enough over the wiring",
            depth - givens.bedding_m - (outside if run.conduit else 0.0),
            run.route.least_cover_m,
            "tape",
            remedy="Dig deeper.",
            source=run.route.cover_table.source,
            given="trench.extra_depth_m",
        ),
        within(
            "trench",
            "wall",
            "Trench walls stand",
            depth,
            constant("common", "wall_danger_m"),
            "tape",
            most=True,
            remedy="Shore it, slope it, or stay out of it, as local law says.",
            given="trench.extra_depth_m",
        ),
        at_most(
            "trench",
            "width",
            "The machine's trench is wide enough",
            width,
            givens.width_m,
            "tape",
            remedy="A wider bucket, or fewer conduits side by side.",
            source=GEOMETRY,
            given="trench.width_m",
            otherwise="look",
        ),
    )


def _way_check(tree: Tree) -> tuple[Check, ...]:
    """Whether every array's way was drawn by someone, and every spur that was drawn is one's."""
    found = []
    if len(tree.start_posts) > 1:
        straight = [way.name for way in tree.ways if not way.drawn]
        found.append(
            holds(
                "trench",
                "drawn",
                "Every array's way is drawn",
                not straight,
                f"{', '.join(straight[:3])}: taken straight" if straight else "drawn",
                "drawn by someone",
                remedy="Walk it, and draw it on the site: nobody has looked at what lies in a straight "
                "line's way.",
                source=COMMON_PRACTICE,
                given="site.spurs",
                otherwise="look",
            )
        )
    if tree.idle:
        found.append(
            holds(
                "trench",
                "idle",
                "Every way that is drawn carries wires",
                False,
                "; ".join(tree.idle[:3]),
                "one array each",
                remedy="Say which array it is of, or take it out.",
                source=COMMON_PRACTICE,
                given="site.spurs",
            )
        )
    return tuple(found)
