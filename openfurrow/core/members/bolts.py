"""What a bolt bears square to itself: its own shear, and the steel around its hole."""

import math
from dataclasses import dataclass

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.working import Source


@dataclass(frozen=True)
class Bolt:
    """A bolt by size and grade, its threads in the shear plane."""

    label: str
    diameter_m: float
    hole_m: float
    thread_area_m2: float
    ultimate_pa: float
    shear_pa: float
    source: Source


def bolt(pack: RulePack, size: str, grade: str) -> Bolt:
    """Raises KeyError with the sizes, or the grades, that are known."""
    sizes, grades = table(pack, "bolt"), table(pack, "bolt_grade")
    at, of = sizes.row("size", size), grades.row("grade", grade)
    return Bolt(
        label=f"{sizes.texts['label'][at]}, {grade}",
        diameter_m=sizes.number("diameter_m", at),
        hole_m=sizes.number("hole_m", at),
        thread_area_m2=sizes.number("thread_area_m2", at),
        ultimate_pa=grades.number("ultimate_pa", of),
        shear_pa=grades.number("shear_pa", of),
        source=grades.source,
    )


def shear_limit_n(one: Bolt, pack: RulePack, faces: int) -> float:
    """Cut through in so many faces.

    us: F_nv A_b / 2 with the whole body, its stress less for the threads (AISC 360-16, J3.6); metric:
    alpha_v f_ub A_s / 1.25 (EN 1993-1-8, Table 3.4).
    """
    body_m2 = math.pi / 4 * one.diameter_m**2
    area_m2 = body_m2 if pack == "us" else one.thread_area_m2
    return faces * one.shear_pa * area_m2 / constant(pack, "bolt_factor").value


def bearing_limit_n(
    one: Bolt,
    pack: RulePack,
    thickness_m: float,
    ultimate_pa: float,
    end_m: float,
    *,
    aluminium: bool = False,
) -> float:
    """A wall around the hole, whose middle is ``end_m`` from the edge it is pushed toward.

    us: the lesser of 2.4 d t F_u and 1.2 l_c t F_u, over 2 (AISC 360-16, J3.10), of aluminium of 2 d t
    F_u and e t F_u, over 1.95 (Aluminum Design Manual 2015, J.3.6); metric: 2.5 alpha_b f_u d t / 1.25
    with alpha_b the least of e / 3 d_0, f_ub / f_u and 1 (EN 1993-1-8, Table 3.4; EN 1999-1-1, 8.5).
    """
    factor = constant(pack, "bolt_factor").value
    if pack == "us" and aluminium:
        torn_m = min(end_m, constant("us", "aluminium_crush").value * one.diameter_m)
        return torn_m * thickness_m * ultimate_pa / constant("us", "aluminium_bolt_factor").value
    if pack == "us":
        crush, tear = (constant("us", name).value for name in ("bearing_crush", "bearing_tear"))
        clear_m = max(end_m - one.hole_m / 2, 0.0)
        return min(crush * one.diameter_m, tear * clear_m) * thickness_m * ultimate_pa / factor
    sides, ends = (constant("metric", name).value for name in ("bearing_sides", "bearing_ends"))
    alpha = min(end_m / (ends * one.hole_m), one.ultimate_pa / ultimate_pa, 1.0)
    return sides * alpha * ultimate_pa * one.diameter_m * thickness_m / factor


def torque_n_m(one: Bolt) -> float:
    """What stretches it by its share: K d F, for dry zinc-plated threads."""
    pull_n = constant("common", "bolt_pull_share").value * one.ultimate_pa * one.thread_area_m2
    return constant("common", "nut_factor").value * one.diameter_m * pull_n


def pull_n(one: Bolt, torque: float) -> float:
    """What a torque (N m) stretches it with: T / (K d), dry zinc-plated threads."""
    return torque / (constant("common", "nut_factor").value * one.diameter_m)


def slip_limit_n(pack: RulePack, pull: float, faces: int) -> float:
    """What a bolt in a slot holds along the slot, by friction alone, in so many faces.

    us: mu T / 2.14 (AISC 360-16, J3.8, with the pull that it has and no more); metric: k_s mu F / 1.25
    (EN 1993-1-8, 3.9).
    """
    mu, slot, factor = (
        constant(pack, name).value for name in ("slip_friction", "slot_share", "slip_factor")
    )
    return slot * mu * pull * faces / factor
