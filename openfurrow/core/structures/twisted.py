"""Members that are bent and twisted at once: pipes that carry a table by themselves."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import RulePack
from openfurrow.core.codes.section import Section
from openfurrow.core.members.bending import bending_limit_n_m
from openfurrow.core.members.resistance import shear_limit_n, twist_limit_n_m
from openfurrow.core.working import Answer, Input, Source, Working

Floats = NDArray[np.float64]

INTERACTION = Source("AISC 360-16 H3-6; EN 1993-1-1 6.2.1 asks for less", "from memory")


@dataclass(frozen=True, kw_only=True)
class Twisted:
    """A pipe where it is used most, against what it bears of each; all whichever way they act."""

    section: Section
    axial_n: float
    axial_limit_n: float
    moment_n_m: float
    moment_limit_n_m: float
    shear_n: float
    shear_limit_n: float
    twist_n_m: float
    twist_limit_n_m: float

    @property
    def used(self) -> float:
        """Pressed and bent by their shares, sheared and twisted by the square of theirs."""
        crosswise = self.shear_n / self.shear_limit_n + self.twist_n_m / self.twist_limit_n_m
        return (
            self.axial_n / self.axial_limit_n + self.moment_n_m / self.moment_limit_n_m + crosswise**2
        )


def worst_twisted(
    pipe: Section,
    pack: RulePack,
    bent: tuple[Floats, Floats],
    twist_n_m: Floats,
    pressed: tuple[ArrayLike, ArrayLike] = (0.0, 1.0),
) -> Twisted:
    """Of cases of any shape the one that uses most of a pipe.

    ``bent`` are its shear and its moment, ``pressed`` what pushes along it and what it bears of that.
    """
    shear, moment, twist, push, columns = (
        np.abs(part) for part in np.broadcast_arrays(*bent, twist_n_m, *pressed)
    )
    limits = bending_limit_n_m(pipe, pack), shear_limit_n(pipe, pack), twist_limit_n_m(pipe, pack)
    crosswise = shear / limits[1] + twist / limits[2]
    at = int((push / columns + moment / limits[0] + crosswise**2).argmax())
    return Twisted(
        section=pipe,
        axial_n=float(push.flat[at]),
        axial_limit_n=float(columns.flat[at]),
        moment_n_m=float(moment.flat[at]),
        moment_limit_n_m=limits[0],
        shear_n=float(shear.flat[at]),
        shear_limit_n=limits[1],
        twist_n_m=float(twist.flat[at]),
        twist_limit_n_m=limits[2],
    )


def twisted_answer(key: str, label: str, member: Twisted, words: str) -> Answer:
    """How much of it is used, and by what."""
    pushed = member.axial_n > 0
    return Answer(
        "structure",
        key,
        label,
        Working(
            "U",
            f"{'N / R_N + ' if pushed else ''}M / R_M + (V / R_V + T / R_T)**2",
            (
                *(
                    (
                        Input("N", "push or pull along it", member.axial_n, "force"),
                        Input("R_N", "what it bears of that", member.axial_limit_n, "force"),
                    )
                    if pushed
                    else ()
                ),
                Input("M", "bending there in that case", member.moment_n_m, "moment"),
                Input("R_M", "what it bears of that", member.moment_limit_n_m, "moment"),
                Input("V", "push across it", member.shear_n, "force"),
                Input("R_V", "what it bears of that", member.shear_limit_n, "force"),
                Input("T", "twist", member.twist_n_m, "moment"),
                Input("R_T", "what it bears of that", member.twist_limit_n_m, "moment"),
            ),
            member.used,
            "ratio",
            INTERACTION,
            words,
        ),
    )
