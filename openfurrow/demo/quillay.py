"""Quillay trout station: a gravel terrace south of the equator where nothing may be dug. Invented."""

from datetime import date

from openfurrow.core.design import Design, one_array
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.notes import NoteGivens
from openfurrow.core.site.soil import HoleGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.core.wiring.panel_givens import PanelGivens
from openfurrow.demo import walls
from openfurrow.demo.weather import sun_of
from openfurrow.demo.worked_through import worked_through


@worked_through()
def quillay() -> Design:
    """24 modules facing north, on a plane that level and tape gave."""
    return one_array(
        name="Quillay trout station",
        site=SiteGivens(
            rule_pack="metric",
            display_units="metric",
            latitude_deg=-40.60,
            longitude_deg=-72.50,
            elevation_m=190.0,
            time_zone="America/Santiago",
            slope=0.01,
            falls_toward_deg=20.0,
            features=(
                FeatureGivens(
                    name="terrace",
                    kind="boundary",
                    points=((-26.0, -22.0), (26.0, -22.0), (26.0, 20.0), (-26.0, 20.0)),
                ),
                FeatureGivens(
                    name="hatchery",
                    kind="building",
                    height_m=3.2,
                    points=((-8.0, -20.0), (6.0, -20.0), (6.0, -14.0), (-8.0, -14.0)),
                ),
                FeatureGivens(
                    name="raceway",
                    kind="water",
                    points=((-26.0, 15.0), (26.0, 12.0), (26.0, 20.0), (-26.0, 20.0)),
                ),
                FeatureGivens(
                    name="inlet pipe",
                    kind="buried water",
                    how_sure="from a plan",
                    depth_m=0.8,
                    points=((18.0, 13.0), (16.0, -2.0), (6.0, -15.0)),
                ),
            ),
            notes=(
                NoteGivens(
                    topic="other",
                    who="fisheries inspector",
                    said_on=date(2026, 1, 14),
                    words="Nothing may be dug on the terrace: fish graves and a spawning bed.",
                ),
            ),
            test_holes=(
                HoleGivens(
                    name="bank face",
                    east_m=0.0,
                    north_m=9.0,
                    layers=((2.5, "sandy gravel", None),),
                    water_m=1.6,
                ),
            ),
            dig_date=date(2026, 10, 5),
            frost_depth_m=0.3,
            wind_speed_m_s=26.0,
            terrain="II",
            ground_snow_pa=400.0,
            lowest_temperature_c=-6.0,
            hottest_temperature_c=31.0,
            wind_from="regional standard, river valley",
            snow_from="regional standard, 190 m",
            frost_from="no frost below 0.3 m, station log",
            route=((0.0, -6.0), (0.0, -14.0)),
        ),
        sun=sun_of(
            (0.78, 0.77, 0.71, 0.6, 0.49, 0.45, 0.47, 0.53, 0.6, 0.64, 0.69, 0.75),
            ((0.0, 7.0), (70.0, 12.0), (110.0, 15.0), (180.0, 9.0), (290.0, 6.0)),
            snow_days=1,
            walk_date=date(2026, 9, 22),
            load_wh=11_800_000.0,
        ),
        rows=RowsGivens(modules_high=1, modules_along=12, rows=2, tilt_deg=15.0, lower_edge_m=0.85),
        structure=StructureGivens(
            family="ballast frame",
            post_section="pipe 3 in",
            flow_below="kept clear",
            beam_section="C 200 x 75 x 3.0",
            lines_apart_m=0.9,
            brace_foot_m=0.5,
            braced_bays=2,
        ),
        footings=FootingsGivens(family="ballast", box_side_m=0.85),
        frame=FrameGivens(stock_length_m=7.0, lap_m=0.3, piece_stock_m=7.0),
        modules=ModulesGivens(
            zone_from_m=0.25,
            zone_to_m=0.45,
            steel_bonds="its joints are listed to bond",
            back_rating_pa=3600.0,
            clamp_hold_n=4000.0,
        ),
        trench=TrenchGivens(
            laid="over the ground",
            over_m=0.15,
            over_seen="looked at, covered where it must be",
            method="rigid metal conduit",
            wall_kind="no wall is passed",
        ),
        wiring=WiringGivens(
            on_wall=walls.SCHOOL,
            inverters=(
                InverterGivens(
                    id="1",
                    maximum_dc_v=1000.0,
                    inverter_ac_w=8000.0,
                    ac_v=230.0,
                    input_a=14.0,
                    input_short_a=18.5,
                ),
            ),
            connects="a breaker in the panel",
            inverter_to_panel_m=4.2,
            panel_bus_a=100.0,
            panel_main_a=50.0,
            panel_fed_by="another panel",
            panels=(
                PanelGivens(
                    id="1",
                    name="Farmhouse",
                    bus_a=125.0,
                    main_a=63.0,
                    feeds_a=50.0,
                    feeder_m=23.0,
                    feeder_metric="16",
                ),
            ),
            shut_off="beside the meter",
            panel_clear_m=0.95,
            strings_inside="no",
        ),
        materials=MaterialsGivens(
            truck_kg=1100.0,
            truck_bed_m=6.2,
            truck_over_m=1.0,
            modules_a_pallet=31,
            lifter_kg=1200.0,
            loads_ride_on="a trailer",
            axles_apart_m=4.7,
            bed_begins_m=1.3,
            empty_front_kg=70.0,
            empty_rear_kg=590.0,
            front_axle_kg=150.0,
            rear_axle_kg=1800.0,
        ),
    )
