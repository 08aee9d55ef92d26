"""Armoured cable of several cores: how thick and heavy it is, and what holds it at its ends."""

import math
from dataclasses import dataclass, replace

from openfurrow.core.codes import RulePack, constant, table
from openfurrow.core.trench.conduit import Conduit, Pull, size_conduit
from openfurrow.core.trench.givens import TrenchGivens


@dataclass(frozen=True, kw_only=True)
class ArmouredCable:
    """One cable, its cores all as thick as a line; ``label`` counts them, that of the ground too.

    ``laid_up_m`` is round its cores, ``under_m`` below the armour, ``over_m`` over it, ``outside_m``
    over the sheath, ``bend_m`` the tightest radius. ``gland`` is None where none is listed for it.
    """

    cores: int
    label: str
    core_m: float
    laid_up_m: float
    under_m: float
    over_m: float
    outside_m: float
    kg_per_m: float
    bend_m: float
    gland: str | None


def round_cores(cores: int) -> float:
    """How many cores across the circle is that just holds so many; beyond seven nearly."""
    if cores < 3:
        return float(cores)
    return 1 + 1 / math.sin(math.pi / min(cores, 6)) if cores < 8 else 1.2 * math.sqrt(cores)


def armoured(pack: RulePack, pull: Pull) -> ArmouredCable:
    """The cable whose cores are those of ``pull``: its lines and one for the ground.

    It is built up layer by layer: cores, bedding, armour, sheath; a maker's own may differ by a few
    millimetres. Source: IEC 60502-1 and UL 1569.
    """
    sizes, layers = table(pack, "armoured_core"), table(pack, "armour")
    core = sizes.number("core_m", sizes.row("size", pull.size))
    laid_up = core * round_cores(pull.conductors)
    fits = layers.numbers["laid_up_to_m"] >= laid_up - 1e-9
    row = int(fits.argmax()) if fits.any() else fits.size - 1
    inner, armour, solid, metal = (
        layers.number(name, row) for name in ("inner_m", "armour_m", "solid", "kg_per_m3")
    )
    under = laid_up + 2 * inner
    over = under + 2 * armour
    least, share, base = (
        constant(pack, f"sheath_{name}").value for name in ("least_m", "share", "base_m")
    )
    outside = over + 2 * max(least, share * over + base)
    copper, cores = pull.line_m2 * pull.conductors, math.pi / 4 * core**2 * pull.conductors
    copper_kg, plastic, around = (
        constant("common", name).value
        for name in ("copper_kg_per_m3", "xlpe_kg_per_m3", "pvc_sheath_kg_per_m3")
    )
    ring = math.pi / 4 * (over**2 - under**2)
    soft = math.pi / 4 * (outside**2 - over**2 + under**2 - laid_up**2)
    return ArmouredCable(
        cores=pull.conductors,
        label=f"{pull.conductors} x {pull.label}",
        core_m=core,
        laid_up_m=laid_up,
        under_m=under,
        over_m=over,
        outside_m=outside,
        kg_per_m=copper * copper_kg
        + max(cores - copper, 0.0) * plastic
        + ring * solid * metal
        + soft * around,
        bend_m=constant(pack, "armoured_bend").value * outside,
        gland=_gland(pack, outside),
    )


def _gland(pack: RulePack, outside_m: float) -> str | None:
    glands = table(pack, "gland")
    fits = glands.numbers["up_to_m"] >= outside_m - 1e-9
    return glands.texts["label"][int(fits.argmax())] if fits.any() else None


def sleeve_of(
    pack: RulePack, givens: TrenchGivens, pull: Pull, cable: ArmouredCable | None
) -> Conduit | None:
    """The heavy wall through which cable comes up out of the ground; None where nothing asks for one.

    Bare wires always, armour in the us school (NEC 300.5(D)); wire armour stands it.
    """
    if not givens.is_cable or givens.is_over or (cable is not None and pack != "us"):
        return None
    if cable is None:
        return size_conduit(pack, "PVC conduit", pull, growth=False)
    # One cable may fill more of it than wires may.
    share = constant(pack, "conduit_fill").value / constant("common", "one_cable_fill").value
    area_m2 = math.pi / 4 * cable.outside_m**2 * share
    return size_conduit(pack, "PVC conduit", replace(pull, area_m2=area_m2), growth=False)
