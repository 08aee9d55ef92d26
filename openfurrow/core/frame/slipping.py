"""Heads that are slotted for levelling: a bolt in a slot holds along it by how hard it is drawn."""

from dataclasses import dataclass

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import RulePack, constant
from openfurrow.core.frame.bolts import Bolted, chosen_bolt
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.members.bolts import pull_n, slip_limit_n, torque_n_m
from openfurrow.core.working import GIVEN, Answer, Input, Working

HEAD = "post_bolt"


@dataclass(frozen=True)
class Slips:
    """A bolt of a slotted head: what it gets, what stretches it, and what it holds along its slot."""

    force_n: float
    pull_n: float
    limit_n: float

    @property
    def used(self) -> float:
        """How much of it is used."""
        return self.force_n / self.limit_n


def slips_of(joints: tuple[Bolted, ...], givens: FrameGivens, pack: RulePack) -> Slips | None:
    """None where heads have no slots. All that a bolt gets is taken to act along its slot."""
    head = next((one for one in joints if one.key == HEAD), None)
    if head is None or givens.slot_m <= 0:
        return None
    one = chosen_bolt(givens, pack)
    torque = givens.bolt_torque_n_m if givens.bolt_torque_n_m is not None else torque_n_m(one)
    faces = 2 if givens.bolt_faces == "both sides" else 1
    pull = pull_n(one, torque)
    return Slips(head.force_n, pull, slip_limit_n(pack, pull, faces))


def slip_answers(slips: Slips | None, givens: FrameGivens, pack: RulePack) -> tuple[Answer, ...]:
    """What friction holds, where it is what holds."""
    if slips is None or givens.slot_held != "friction alone":
        return ()
    source = constant(pack, "slip_friction").source
    return (
        Answer(
            "frame",
            "slips",
            "A bolt in its slot holds by friction",
            Working(
                "F_s",
                "k * mu * N * n / g",
                (
                    Input("k", "for the slot", constant(pack, "slot_share").value, "factor"),
                    Input("mu", "friction", constant(pack, "slip_friction").value, "factor"),
                    Input("N", "what stretches it", slips.pull_n, "force"),
                    Input("n", "faces", 2.0 if givens.bolt_faces == "both sides" else 1.0, "count"),
                    Input("g", "safety", constant(pack, "slip_factor").value, "factor"),
                ),
                slips.limit_n,
                "force",
                source,
                f"It gets up to {slips.used:.0%} of that. Paint, grease and a nut that was not "
                "tightened again hold nothing.",
            ),
        ),
    )


def slip_checks(slips: Slips | None, givens: FrameGivens, pack: RulePack) -> tuple[Check, ...]:
    """Whether heads stay where they were levelled."""
    if slips is None:
        return ()
    if givens.slot_held != "friction alone":
        return (
            holds(
                "frame",
                "slip",
                "Slotted heads stay where they were levelled",
                True,
                givens.slot_held,
                "something that bears",
                remedy="Look at every head: teeth in teeth, the bolt in its hole.",
                source=GIVEN,
                given="frame.slot_held",
            ),
        )
    return (
        at_most(
            "frame",
            "slip",
            "Slotted heads stay where they were levelled",
            slips.used,
            1.0,
            "ratio",
            remedy="Washers with teeth on a toothed head, or a second bolt in a round hole drilled "
            "once it is level; else more torque on a higher grade, or steel on both sides.",
            source=constant(pack, "slip_factor").source,
            given="frame.slot_held",
        ),
    )
