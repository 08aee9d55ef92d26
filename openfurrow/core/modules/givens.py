"""Module givens: the data sheet, gaps and clamps."""

from typing import Literal

from openfurrow.core.codes import constant
from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import INCH_M, either
from openfurrow.core.rows.array import ModuleSize

THREE_QUARTERS = either("3/4 in", "20 mm")

SteelBonds = Literal["nobody has looked", "its joints are listed to bond", "a strap over every splice"]


class ModulesGivens(Givens):
    """One type of module throughout."""

    length_m: float = given(
        1.762,
        "Length",
        "tape",
        "Long side of the frame.",
        "Data sheet.",
        low=0.3,
        high=3,
        usual=(1.6, 2.4),
        group="Module",
    )
    width_m: float = given(
        1.134,
        "Width",
        "tape",
        "Short side of the frame.",
        "Data sheet.",
        low=0.2,
        high=2,
        usual=(0.99, 1.31),
        group="Module",
    )
    thickness_m: float = given(
        0.03,
        "Frame depth",
        "thickness",
        "Depth of the module frame.",
        "Data sheet.",
        low=0.004,
        high=0.08,
        usual=(0.03, 0.04),
        group="Module",
    )
    mass_kg: float = given(
        22.0,
        "Mass",
        "mass",
        "Mass of one module.",
        "Data sheet.",
        low=2,
        high=60,
        usual=(18, 34),
        group="Module",
        caution=f"{either('45 lb', '20 kg')} and more is a two-person lift; wind catches a module "
        "like a sail.",
    )
    power_w: float = given(
        430.0,
        "Power",
        "module_power",
        "Rated power at standard test conditions.",
        "Data sheet.",
        low=5,
        high=1000,
        usual=(300, 650),
        group="Module",
    )
    open_circuit_v: float = given(
        38.6,
        "Open-circuit voltage",
        "voltage",
        "V_oc at 25 °C.",
        "Data sheet.",
        low=1,
        high=150,
        usual=(30, 55),
        group="Electrical",
    )
    maximum_power_v: float = given(
        32.5,
        "Voltage at full power",
        "voltage",
        "V_mp at 25 °C.",
        "Data sheet.",
        low=1,
        high=150,
        usual=(25, 46),
        group="Electrical",
    )
    short_circuit_a: float = given(
        14.0,
        "Short-circuit current",
        "current",
        "I_sc at 25 °C.",
        "Data sheet.",
        low=0.1,
        high=30,
        usual=(9, 19),
        group="Electrical",
    )
    maximum_power_a: float = given(
        13.24,
        "Current at full power",
        "current",
        "I_mp at 25 °C.",
        "Data sheet.",
        low=0.1,
        high=30,
        usual=(8, 18),
        group="Electrical",
    )
    series_fuse_a: float = given(
        25.0,
        "Largest series fuse",
        "current",
        "What the module's label allows in a string.",
        "Label on the back, or data sheet.",
        low=5,
        high=60,
        usual=(15, 35),
        group="Electrical",
    )
    voltage_coefficient_per_c: float = given(
        -0.0025,
        "Voltage with heat",
        "temperature_coefficient",
        "Change of V_oc for each degree; negative.",
        "Data sheet.",
        low=-0.006,
        high=0,
        usual=(-0.0035, -0.0022),
        group="Electrical",
    )
    power_coefficient_per_c: float = given(
        -0.0032,
        "Power voltage with heat",
        "temperature_coefficient",
        "Change of V_mp for each degree; negative. The power coefficient is close enough.",
        "Data sheet.",
        low=-0.008,
        high=0,
        usual=(-0.0045, -0.0026),
        group="Electrical",
    )
    cells_halved: bool = given(
        True,
        "Cells cut in half",
        "yes_no",
        "The two ends of the module work side by side: shade on one end leaves the other.",
        "Data sheet: an even count such as 108, 120 or 144; whole cells are 60 or 72.",
        group="Electrical",
    )
    bypass_groups: int = given(
        3,
        "Groups with a diode",
        "count",
        "Groups of cells that a diode lets past, side by side along the long side.",
        "Data sheet, bypass diodes; three is usual.",
        low=1,
        high=6,
        usual=(2, 4),
        group="Electrical",
    )
    back_share: float = given(
        0.0,
        "Back works too",
        "ratio",
        "Power of the back over that of the front under the same light; nought for a closed back.",
        "Data sheet, bifaciality: 65 to 90 % where the back is glass.",
        low=0,
        high=1,
        usual=(0, 0.85),
        group="Electrical",
    )
    lead_m: float = given(
        1.2,
        "Each lead is long",
        "tape",
        "From the module's box to the plug; the shorter of the two.",
        "Data sheet, cable length; there are long and short ones of one module.",
        low=0.1,
        high=5,
        usual=(0.3, 1.6),
        group="Leads",
        us=48 * INCH_M,
        caution="Plugs of different makers are never mated: a leading cause of fires. A jumper has "
        "the module's own plugs at both ends.",
    )
    junction_in_m: float | None = given(
        None,
        "Box in from the short side",
        "tape",
        "How far the leads leave the module from its nearest short side. Left empty: half way where "
        "cells are cut in half, else a hand's breadth.",
        "The back of a module; the drawing in its data sheet.",
        low=0,
        high=1.5,
        usual=(0.05, 1.2),
        group="Leads",
    )
    junction_apart_m: float | None = given(
        None,
        "Leads leave apart by",
        "tape",
        "Plus from minus, across the module. Left empty: six tenths of its width where cells are cut "
        "in half, else side by side.",
        "The back of a module; the drawing in its data sheet.",
        low=0,
        high=1.5,
        usual=(0.02, 0.9),
        group="Leads",
    )
    every_second_turned: bool = given(
        False,
        "Every second row is turned",
        "yes_no",
        "Modules of the second row up are mounted half turned round, so that leads meet between rows.",
        "Only where the module and its clamps allow it: labels and drain holes are upside down then.",
        group="Leads",
    )
    front_rating_pa: float = given(
        3600.0,
        "May be pressed",
        "pressure",
        "Design load on the glass from above.",
        "Data sheet: the tested load over 1.5, for clamps in the zone used.",
        low=500,
        high=12000,
        usual=(1600, 5400),
        group="Module",
    )
    back_rating_pa: float = given(
        1600.0,
        "May be lifted",
        "pressure",
        "Design load on the back of the module.",
        "Data sheet: the tested load over 1.5.",
        low=500,
        high=8000,
        usual=(1600, 2400),
        group="Module",
    )
    short_front_rating_pa: float | None = given(
        None,
        "Pressed, clamped on short sides",
        "pressure",
        "Design load from above where the clamps grip the short sides: modules that lie across.",
        "Data sheet: a table of its own, often less; the tested load over 1.5.",
        low=300,
        high=12000,
        usual=(1000, 3600),
        group="Module",
    )
    short_back_rating_pa: float | None = given(
        None,
        "Lifted, clamped on short sides",
        "pressure",
        "Design load on the back where the clamps grip the short sides.",
        "Data sheet: the tested load over 1.5.",
        low=300,
        high=8000,
        usual=(1000, 1600),
        group="Module",
    )
    zone_from_m: float | None = given(
        None,
        "Clamps rated from",
        "tape",
        "How far in from the corner the zone begins where clamps may grip, along the side they grip.",
        "Data sheet or installation manual: the clamping zone that goes with the design loads.",
        low=0,
        high=1.5,
        usual=(0.15, 0.4),
        group="Clamps",
    )
    zone_to_m: float | None = given(
        None,
        "Clamps rated to",
        "tape",
        "How far in from the corner that zone ends.",
        "Data sheet or installation manual.",
        low=0,
        high=1.5,
        usual=(0.3, 0.6),
        group="Clamps",
    )
    clamps_in_m: float | None = given(
        None,
        "Clamps in from the corner",
        "tape",
        "Where purlins or rails lie under a module, and clamps grip it. Left empty: 0.22 of the side.",
        "The middle of the clamping zone; purlins further apart bend beams less, modules more.",
        low=0.02,
        high=1.2,
        usual=(0.2, 0.5),
        group="Clamps",
    )
    gap_along_m: float = given(
        0.020,
        "Gap along the row",
        "thickness",
        "Between neighbours; the mid clamp stands in it.",
        f"The clamp; {THREE_QUARTERS} is usual.",
        low=0.002,
        high=0.1,
        usual=(0.01, 0.025),
        group="Setting",
        us=0.75 * INCH_M,
    )
    gap_up_m: float = given(
        0.020,
        "Gap between module rows",
        "thickness",
        "Between lower and upper module; set by a spacer.",
        f"{THREE_QUARTERS} is usual.",
        low=0.002,
        high=0.3,
        usual=(0.01, 0.03),
        group="Setting",
        us=0.75 * INCH_M,
    )
    purlin_end_m: float = given(
        0.075,
        "Purlin beyond the last module",
        "tape",
        "Room for the end clamp at each end of a table.",
        f"{either('2 to 4 in', '50 to 100 mm')}.",
        low=0.02,
        high=0.5,
        usual=(0.05, 0.1),
        group="Setting",
        us=3 * INCH_M,
    )
    clamp_torque_n_m: float = given(
        15.0,
        "Clamp torque",
        "torque",
        "Tightening torque of the module clamps.",
        "The clamp's instructions, and nobody's memory.",
        low=3,
        high=60,
        usual=(8, 25),
        group="Setting",
    )
    clamp_hold_n: float = given(
        2500.0,
        "Clamp may hold",
        "force",
        "Allowable pull on one mid clamp.",
        "The clamp's test report.",
        low=200,
        high=20000,
        usual=(1500, 5000),
        group="Setting",
    )
    clamps_bond: bool = given(
        True,
        "Clamps bond the frames",
        "yes_no",
        "Listed clamps bite through the anodising and bond module to purlin.",
        "The clamp's listing. No: a bonding strap on every module.",
        group="Setting",
    )
    steel_bonds: SteelBonds = given(
        "nobody has looked",
        "Splices of the steel bond",
        "choice",
        "Whether what lies along the row conducts from piece to piece: by joints that are listed to, "
        "or by a strap over each.",
        "The frame's listing; a meter over a few joints, less than an ohm, proves what it says.",
        group="Setting",
    )

    @property
    def size(self) -> ModuleSize:
        """What rows are laid out by."""
        return ModuleSize(
            self.length_m, self.width_m, self.gap_along_m, self.gap_up_m, self.clamps_in_m
        )

    @property
    def junction_m(self) -> tuple[float, float]:
        """How far in from the short side the leads leave, and how far apart."""
        if self.cells_halved:
            usual = self.length_m / 2, constant("common", "halved_apart").value * self.width_m
        else:
            usual = (
                constant("common", "whole_junction_m").value,
                constant("common", "whole_apart_m").value,
            )
        deep = usual[0] if self.junction_in_m is None else self.junction_in_m
        apart = usual[1] if self.junction_apart_m is None else self.junction_apart_m
        # No lead leaves a module beyond its edge.
        return min(deep, self.length_m), min(apart, self.width_m)
