"""Bolts of the frame: what each joint brings, what bolt and steel bear, how tight they are drawn."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.metal import grade
from openfurrow.core.frame.cutting import PurlinLine
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.members.bolts import Bolt, bearing_limit_n, bolt, shear_limit_n, torque_n_m
from openfurrow.core.structures.members import Fixing, Grip, Members, Ply
from openfurrow.core.working import COMMON_PRACTICE, GIVEN, Answer, Input, Source, Working

BOTH_ENDS, BOLTS_AN_END = 2, 2
# Lines that differ by less are as long as each other.
ALIKE_M = 1e-6
# What brackets are made of at the worst.
WEAKEST_STEEL = "S235"
# What a hole at the very edge bears, so that shares stay finite.
NEXT_TO_NOTHING_N = 1.0


@dataclass(frozen=True)
class Wall:
    """What a bolt bears on: how thick, so many of them, and how far it runs on past the hole."""

    name: str
    thick_m: float
    walls: int
    past_m: float
    ultimate_pa: float
    aluminium: bool = False

    def bears_n(self, one: Bolt, pack: RulePack) -> float:
        """All of them together."""
        alone = bearing_limit_n(
            one, pack, self.thick_m, self.ultimate_pa, self.past_m, aluminium=self.aluminium
        )
        return self.walls * alone


@dataclass(frozen=True)
class Bolted:
    """A joint's bolts: what one feels, and what it bears by its own shear and by the steel.

    ``weakest`` is the wall that bears least around its hole.
    """

    key: str
    title: str
    force_n: float
    shear_n: float
    bearing_n: float
    weakest: Wall

    @property
    def limit_n(self) -> float:
        """The lesser of both."""
        return min(self.shear_n, self.bearing_n)

    @property
    def used(self) -> float:
        """How much of it is used."""
        return self.force_n / max(self.limit_n, NEXT_TO_NOTHING_N)


def chosen_bolt(givens: FrameGivens, pack: RulePack) -> Bolt:
    """Size and grade by the rules of the job."""
    if pack == "us":
        return bolt(pack, givens.bolt_us, givens.grade_us)
    return bolt(pack, givens.bolt_metric, givens.grade_metric)


def splice_grip(
    members: Members, lines: Sequence[tuple[float, PurlinLine]], givens: FrameGivens
) -> Grip | None:
    """A bolt of the worst splice: two at each end of the lap, a couple that takes over the bending.

    They bear the shear there too. ``lines`` are those that are cut, each with its length: one that is
    not as long as the purlin that is used most is taken to be spliced where that bends most. A gust on
    one bay bends it elsewhere than the whole table's wind does. None where nothing is spliced, or where
    pieces do not lap.
    """
    purlin, lap_m = members.purlin, givens.lap_m
    spliced = [(long, line) for long, line in lines if len(line.lengths_m) > 1]
    if not spliced or not members.stock.laps:
        return None
    moments, gust = purlin.shape_moment_n_m, purlin.gust
    assert gust is not None
    # Lifted it is the other way round, and seldom as hard.
    lifted = purlin.lift_n_per_m / max(purlin.load_n_per_m, 1e-9)
    blown = float(gust.most_n_m.max()) / max(float(np.abs(moments).max()), 1e-9)
    worse = max(1.0, lifted, blown)
    asked = []
    for long, line in spliced:
        if abs(long - purlin.line.purlin_m) > ALIKE_M:
            asked.append((float(np.abs(moments).max()) * worse, 0.0))
            continue
        # A lap begins where the next piece does; shear there is how steeply the moment changes over it.
        starts = np.asarray(line.starts_m)[1:]
        first, middle, last = np.interp(
            starts + np.array([[0.0], [lap_m / 2], [lap_m]]), purlin.stations_m, moments
        )
        shear = np.abs(last - first) / lap_m * worse
        bent = np.abs(middle) * max(1.0, lifted)
        of_gust = np.interp(starts + lap_m / 2, gust.stations_m, gust.most_n_m)
        asked += list(zip(np.maximum(bent, of_gust).tolist(), shear.tolist(), strict=True))
    arm_m = max(lap_m - 2 * givens.beyond_bolt_m, givens.beyond_bolt_m)
    force_n = max(m / arm_m / BOLTS_AN_END + v / (BOTH_ENDS * BOLTS_AN_END) for m, v in asked)
    return Grip(force_n, (Ply(purlin.section),), lapped=True)


def bolted(
    members: Members, lines: Sequence[tuple[float, PurlinLine]], givens: FrameGivens, pack: RulePack
) -> tuple[Bolted, ...]:
    """Every joint that is bolted, in the order of the job; ``lines`` as `splice_grip` has them."""
    one = chosen_bolt(givens, pack)
    faces = 2 if givens.bolt_faces == "both sides" else 1
    splice = splice_grip(members, lines, givens)
    joints = [(fixing.key, fixing.title, fixing.grip) for fixing in members.fixings]
    joints.append((members.stock.splice_key, members.stock.splice, splice))

    bracket = _bracket(givens, faces)

    def wall(ply: Ply) -> Wall:
        # Held on one side alone, the wall of a pipe or a box that is nearer takes all of it.
        walls, of = faces if ply.section.closed else 1, ply.section
        past_m = givens.beyond_bolt_m if ply.past_m is None else ply.past_m
        return Wall(of.name, of.web_m, walls, past_m, of.ultimate_pa, of.aluminium)

    def joint(key: str, title: str, grip: Grip) -> Bolted:
        # Where webs lap there is no bracket between.
        walls = [wall(ply) for ply in grip.plies] + ([] if grip.lapped else bracket)
        weakest = min(walls, key=lambda each: each.bears_n(one, pack))
        return Bolted(
            key,
            title,
            grip.force_n,
            shear_limit_n(one, pack, 1 if grip.lapped else faces),
            weakest.bears_n(one, pack),
            weakest,
        )

    return tuple(joint(key, title, grip) for key, title, grip in joints if grip is not None)


def _bracket(givens: FrameGivens, faces: int) -> list[Wall]:
    """What a bolt bears on besides the profiles; none where nobody has measured it."""
    if givens.bracket_m is None:
        return []
    ultimate = grade(WEAKEST_STEEL).ultimate_pa
    return [Wall("bracket", givens.bracket_m, faces, givens.beyond_bolt_m, ultimate)]


def bolt_answers(joints: tuple[Bolted, ...], givens: FrameGivens, pack: RulePack) -> tuple[Answer, ...]:
    """What a bolt of each joint feels, and how tight they are drawn."""
    if not joints:
        return ()
    one = chosen_bolt(givens, pack)
    own = givens.bolt_torque_n_m
    share, nut = (constant("common", name).value for name in ("bolt_pull_share", "nut_factor"))
    tight = (
        Working("T", "", (), own, "torque", GIVEN, "As its maker says.")
        if own is not None
        else Working(
            "T",
            "K * d * s * f_ub * A_s",
            (
                Input("K", "of dry zinc-plated threads", nut, "factor"),
                Input("d", "bolt", one.diameter_m, "thickness"),
                Input("s", "share of its strength that it is stretched to", share, "factor"),
                Input("f_ub", "its strength", one.ultimate_pa, "stress"),
                Input("A_s", "through its thread", one.thread_area_m2, "wire_area"),
            ),
            torque_n_m(one),
            "torque",
            COMMON_PRACTICE,
            "Snug, then square, then tight. Greased threads take a third less. Mark each nut.",
        )
    )
    return (
        *(_answer(joint, one, bracket=givens.bracket_m is not None) for joint in joints),
        Answer("frame", "bolt_torque", f"Tighten bolts {one.label} to", tight),
    )


def _answer(joint: Bolted, one: Bolt, *, bracket: bool) -> Answer:
    return Answer(
        "frame",
        f"holds_{joint.key}",
        f"{joint.title}: each holds",
        Working(
            "F",
            "",
            (
                Input("R_v", "bears by its own shear", joint.shear_n, "force"),
                Input("R_b", "bears by the wall around it", joint.bearing_n, "force"),
                Input("t", f"that wall, {joint.weakest.name}", joint.weakest.thick_m, "thickness"),
                Input("e", "from its hole to the edge", joint.weakest.past_m, "thickness"),
            ),
            joint.force_n,
            "force",
            one.source,
            f"{one.label}: {joint.used:.0%} of the lesser. Wind along the row and prying are not in it"
            + ("." if bracket else ", nor brackets: nobody has measured them."),
        ),
    )


def bolt_checks(
    joints: tuple[Bolted, ...], fixings: tuple[Fixing, ...], givens: FrameGivens, source: Source
) -> tuple[Check, ...]:
    """Whether bolts hold, and whether anybody looked at what its maker rates."""
    found = []
    if joints:
        worst = max(joints, key=lambda one: one.used)
        found.append(
            at_most(
                "frame",
                "bolts",
                "Bolts of the frame hold what they get",
                worst.used,
                1.0,
                "ratio",
                remedy=f"{worst.title}: thicker ones, a higher grade, posts closer together, or steel "
                "on both sides of what it holds.",
                source=source,
                given="frame.bolt_faces",
            )
        )
    rated = [one.title.split(",")[0].split(" for ")[0].lower() for one in fixings if one.rated]
    if rated:
        names = ", ".join(dict.fromkeys(rated))
        found.append(
            holds(
                "frame",
                "fittings",
                "What is clamped is rated for what it gets",
                givens.fittings_rated,
                names if givens.fittings_rated else f"not looked at: {names}",
                "held against the maker's sheet",
                remedy="Hold the maker's ratings against what posts, rails and cables bring; say so "
                "here when it is done.",
                source=COMMON_PRACTICE,
                given="frame.fittings_rated",
                otherwise="look",
            )
        )
    return tuple(found)
