"""Serra do Grifo observatory: a windy granite hill, two rows, a height limit. Invented."""

import math
from datetime import date

from openfurrow.core.design import Design, one_array
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.schedule.givens import ScheduleGivens
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.notes import NoteGivens
from openfurrow.core.site.soil import HoleGivens
from openfurrow.core.site.survey import Reading, SurveyGivens
from openfurrow.core.site.tickets import TicketGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.demo import walls
from openfurrow.demo.weather import sun_of
from openfurrow.demo.worked_through import worked_through


def _ground_m(east_m: float, north_m: float) -> float:
    """A rounded hilltop, falling away on every side, a little steeper to the south."""
    away = math.hypot(east_m - 6.0, north_m - 10.0)
    return 1180.0 - 0.0016 * away**2 - 0.02 * (10.0 - north_m)


def _shots() -> tuple[Reading, ...]:
    readings: list[Reading] = []
    for number in range(81):
        east = round(-24.0 + 6.0 * (number // 9) + 1.4 * ((number * 0.618) % 1 - 0.5), 2)
        north = round(-18.0 + 6.0 * (number % 9) + 1.4 * ((number * 0.414) % 1 - 0.5), 2)
        readings.append((east, north, round(_ground_m(east, north), 3), "grass"))
    return tuple(readings)


@worked_through("trench.", "materials.")
def grifo() -> Design:
    """40 modules in two rows, 24 m to the dome."""
    asked, answered = date(2026, 5, 4), date(2026, 5, 7)
    owners = (
        ("power", "marked"),
        ("gas or fuel", "nothing here"),
        ("water", "marked"),
        ("telecom", "marked"),
        ("sewer", "nothing here"),
    )
    return one_array(
        name="Serra do Grifo observatory",
        site=SiteGivens(
            rule_pack="metric",
            display_units="metric",
            latitude_deg=40.33,
            longitude_deg=-7.60,
            elevation_m=1180.0,
            time_zone="Europe/Lisbon",
            ground="survey",
            surveys=(SurveyGivens(name="hilltop, by receiver", readings=_shots()),),
            features=(
                FeatureGivens(
                    name="observatory land",
                    kind="boundary",
                    points=((-24.0, -18.0), (23.5, -18.0), (23.5, 29.5), (-24.0, 29.5)),
                ),
                FeatureGivens(
                    name="dome",
                    kind="building",
                    height_m=5.5,
                    points=((13.0, 19.0), (19.0, 19.0), (19.0, 25.0), (13.0, 25.0)),
                ),
                FeatureGivens(
                    name="granite slab",
                    kind="rock outcrop",
                    points=((-20.0, 12.0), (-14.0, 10.5), (-12.0, 15.0), (-18.0, 17.5)),
                ),
                FeatureGivens(
                    name="dome supply",
                    kind="buried power",
                    how_sure="marked",
                    depth_m=1.1,
                    points=((23.0, 12.0), (16.5, 19.5)),
                ),
                FeatureGivens(
                    name="wall", kind="fence", height_m=1.1, points=((-24.0, -17.0), (23.5, -17.0))
                ),
            ),
            tickets=tuple(
                TicketGivens(
                    utility=utility,
                    who="network register",
                    requested=asked,
                    responded=answered,
                    reply=reply,
                )
                for utility, reply in owners
            ),
            dig_date=date(2026, 5, 18),
            notes=(
                NoteGivens(
                    topic="height limit",
                    limit_m=2.2,
                    who="heritage office",
                    said_on=date(2026, 2, 11),
                    words="2.2 m over the ground, no more.",
                ),
                NoteGivens(
                    topic="visibility",
                    who="observatory board",
                    said_on=date(2026, 2, 20),
                    words="No lamp, no glare toward the dome after dusk.",
                    settled=True,
                ),
            ),
            test_holes=(
                HoleGivens(
                    name="probe 1",
                    east_m=-7.0,
                    north_m=1.0,
                    layers=((0.4, "sand", None), (1.2, "crystalline rock", None)),
                    refusal_m=0.6,
                ),
                HoleGivens(
                    name="probe 2",
                    east_m=7.0,
                    north_m=4.0,
                    layers=((0.9, "sand", None), (1.5, "crystalline rock", None)),
                    refusal_m=1.0,
                ),
            ),
            soil_class="crystalline rock",
            frost_depth_m=0.5,
            wind_speed_m_s=27.0,
            terrain="I",
            topographic_factor=1.3,
            ground_snow_pa=1500.0,
            lowest_temperature_c=-10.0,
            hottest_temperature_c=34.0,
            wind_from="national annex to EN 1991-1-4, zone A, and the hill by A.3",
            snow_from="national annex to EN 1991-1-3, zone Z1 at 1180 m",
            frost_from="municipal engineer, 0.5 m",
            route=((6.0, 10.0), (13.0, 21.0)),
        ),
        sun=sun_of(
            (0.56, 0.6, 0.66, 0.7, 0.76, 0.84, 0.91, 0.9, 0.8, 0.67, 0.58, 0.53),
            ((60.0, 2.0), (120.0, 0.0), (200.0, 0.0), (250.0, 3.0), (300.0, 1.0)),
            snow_days=6,
            walk_date=date(2026, 5, 16),
            load_wh=14_500_000.0,
            battery_wh=22_000.0,
        ),
        rows=RowsGivens(
            modules_high=2,
            modules_along=10,
            rows=2,
            tilt_deg=30.0,
            lower_edge_m=0.5,
            orientation="landscape",
            at_east_m=-4.0,
            at_north_m=-3.0,
        ),
        structure=StructureGivens(
            family="two post lines",
            span_limit_m=2.4,
            lines_apart_m=1.2,
            cable="wire rope 8 mm",
        ),
        # Granite under a skin of sand: each hole is drilled, one screw was pulled.
        footings=FootingsGivens(
            family="ground screw",
            screw_kind="rock screw",
            screw_section="pipe 4 in",
            rock_bond_pa=280e3,
            predrilled=True,
        ),
        frame=FrameGivens(
            stock_length_m=8.0, lap_m=0.3, piece_stock_m=8.0, beyond_bolt_m=0.04, bolt_metric="M20"
        ),
        modules=ModulesGivens(
            zone_from_m=0.2,
            zone_to_m=0.4,
            steel_bonds="a strap over every splice",
            power_w=445.0,
            front_rating_pa=5400.0,
            back_rating_pa=5400.0,
            clamp_hold_n=6000.0,
            lead_m=1.4,
        ),
        trench=TrenchGivens(
            method="armoured cable",
            armour_bonded="at both ends",
            wall_kind="masonry",
            wall_thick_m=0.38,
            hole_right_m=-0.55,
            hole_up_m=-0.2,
        ),
        # The holes are drilled: what the crew has done on such rock before.
        schedule=ScheduleGivens(people=4, screws_per_h=2.0, dig_m_per_h=4.0),
        wiring=WiringGivens(
            on_wall=walls.MILL,
            inverters=(
                InverterGivens(
                    id="1",
                    maximum_dc_v=1000.0,
                    inverter_ac_w=15000.0,
                    inverter_inputs=4,
                    input_a=15.0,
                    input_short_a=20.0,
                    ac_v=400.0,
                    phases="three phases",
                ),
            ),
            soil_ohm_m=140.0,
            rods_ohm=27.5,
            connects="a breaker in the panel",
            inverter_to_panel_m=7.5,
            panel_bus_a=80.0,
            panel_main_a=50.0,
            panel_fed_by="the meter",
            shut_off="beside the meter",
            panel_clear_m=1.15,
            strings_inside="no",
        ),
    )
