"""Varnbeck rescue post: a hut in the mountains, and two modules on a pole by its gate. Invented."""

from datetime import date

from openfurrow.core.design import ArrayGivens, Design, one_array
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.schedule.givens import ScheduleGivens
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.soil import HoleGivens
from openfurrow.core.site.tickets import TicketGivens
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.backup_givens import KeptOnGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.demo import walls
from openfurrow.demo.weather import sun_of
from openfurrow.demo.worked_through import worked_through


@worked_through()
def varnbeck() -> Design:
    """14 modules on one post line, steep for the snow, and two on a pole for the gate's battery."""
    hut = one_array(
        name="Varnbeck rescue post",
        site=SiteGivens(
            rule_pack="metric",
            display_units="metric",
            latitude_deg=61.20,
            longitude_deg=8.90,
            elevation_m=720.0,
            time_zone="Europe/Oslo",
            slope=0.03,
            falls_toward_deg=200.0,
            features=(
                FeatureGivens(
                    name="plot",
                    kind="boundary",
                    points=((-24.0, -16.0), (34.0, -16.0), (34.0, 26.0), (-24.0, 26.0)),
                ),
                FeatureGivens(
                    name="hut",
                    kind="building",
                    height_m=5.1,
                    points=((-6.0, 13.0), (6.0, 13.0), (6.0, 22.0), (-6.0, 22.0)),
                ),
            ),
            test_holes=(
                HoleGivens(
                    name="below the hut", east_m=1.0, north_m=1.5, layers=((3.2, "sandy gravel", None),)
                ),
            ),
            tickets=tuple(
                TicketGivens(
                    utility=utility,
                    who="digging register",
                    requested=date(2026, 5, 20),
                    responded=date(2026, 5, 26),
                    reply="nothing here",
                )
                for utility in ("power", "gas or fuel", "water", "telecom", "sewer")
            ),
            dig_date=date(2026, 6, 8),
            frost_depth_m=1.5,
            wind_speed_m_s=22.0,
            terrain="III",
            ground_snow_pa=3500.0,
            lowest_temperature_c=-34.0,
            hottest_temperature_c=26.0,
            wind_from="national annex, mountain valley",
            snow_from="national annex, 720 m",
            frost_from="road office, 1.5 m under cleared ground",
            route=((3.0, 6.0), (3.0, 13.0)),
            spurs=(SpurGivens(id="1", array="2", points=((20.0, 6.0),)),),
        ),
        sun=sun_of(
            (0.42, 0.5, 0.58, 0.6, 0.62, 0.6, 0.58, 0.56, 0.5, 0.44, 0.4, 0.36),
            ((90.0, 9.0), (140.0, 4.0), (180.0, 3.0), (225.0, 6.0), (270.0, 11.0)),
            snow_days=40,
            walk_date=date(2026, 5, 19),
            load_wh=5_200_000.0,
        ).model_copy(update={"window_start_h": 11.25, "window_end_h": 12.75}),
        rows=RowsGivens(modules_high=2, modules_along=7, tilt_deg=50.0, lower_edge_m=1.1),
        structure=StructureGivens(
            post_section="I 200 x 130 x 26", beam_section="C 200 x 75 x 3.0", strut_reach_m=1.3
        ),
        footings=FootingsGivens(
            family="bored pier",
            why="no rig gets up the track to the hut",
            pier_diameter_m=0.4,
            bored_diameter_m=0.43,
            concrete_from="bags",
        ),
        frame=FrameGivens(
            stock_length_m=7.5,
            lap_m=0.3,
            piece_stock_m=6.0,
            other_piece_stock_m=8.0,
            bolt_faces="both sides",
        ),
        modules=ModulesGivens(
            zone_from_m=0.2,
            zone_to_m=0.4,
            steel_bonds="its joints are listed to bond",
            back_rating_pa=3600.0,
            clamp_hold_n=4000.0,
        ),
        schedule=ScheduleGivens(bore_machine="two-person auger"),
        trench=TrenchGivens(
            wall_kind="logs",
            wall_thick_m=0.24,
            hole_right_m=0.35,
            hole_up_m=0.4,
            box_up_m=1.95,
            rise_up_m=1.95,
        ),
        wiring=WiringGivens(
            on_wall=walls.HUT,
            backs_up=True,
            kept_on=(
                KeptOnGivens(id="k1", name="radio", watts=65.0, hours=24.0),
                KeptOnGivens(id="k2", name="lights", watts=170.0, hours=6.0),
                KeptOnGivens(id="k3", name="medicine fridge", watts=95.0, start_w=420.0, hours=11.0),
                KeptOnGivens(id="k4", name="heating pump", watts=80.0, start_w=230.0, hours=14.0),
            ),
            battery_wh=9_600.0,
            battery_w=4_600.0,
            battery_peak_w=7_000.0,
            hours_wanted=36.0,
            transfer="a switch that turns by itself",
            transfer_a=40.0,
            backup_bus_a=63.0,
            backup_m=1.8,
            generator_w=3_400.0,
            generator_starts="by itself, over a start pair",
            generator_m=11.5,
            soil_ohm_m=65.0,
            rods_ohm=14.0,
            inverters=(
                InverterGivens(
                    id="1",
                    takes=("1",),
                    inverter_ac_w=5_500.0,
                    inverter_inputs=2,
                    ac_v=230.0,
                    input_a=14.5,
                    input_short_a=19.0,
                ),
                InverterGivens(
                    id="2",
                    name="gate battery's charger",
                    takes=("2",),
                    maximum_dc_v=150.0,
                    start_v=40.0,
                    inverter_ac_w=800.0,
                    inverter_inputs=1,
                    input_a=20.0,
                    input_short_a=26.0,
                    phases="to a battery",
                ),
            ),
            connects="a breaker in the panel",
            inverter_to_panel_m=3.0,
            panel_bus_a=63.0,
            panel_main_a=32.0,
            panel_fed_by="the meter",
            shut_off="elsewhere, with a plan of it at the meter",
            panel_clear_m=0.8,
            strings_inside="yes",
        ),
    )
    gate = ArrayGivens(
        id="2",
        name="Gate",
        rows=RowsGivens(
            modules_high=1,
            modules_along=2,
            tilt_deg=50.0,
            lower_edge_m=1.6,
            at_east_m=20.0,
            at_north_m=2.0,
        ),
        structure=StructureGivens(
            family="single pole",
            pipe_section="pipe 3 in",
            moved="follows the sun",
            flattest_deg=10.0,
            steepest_deg=60.0,
            turn_each_way_deg=110.0,
            stow_deg=10.0,
            arm_m=0.48,
            foot_down_m=1.25,
            foot_out_m=0.11,
            cable_loop_m=0.18,
            drawn_in_m=0.78,
            stroke_m=0.50,
            actuator_rated_n=16_000.0,
            drive_turns_n_m=2_400.0,
            drive_tips_n_m=7_500.0,
        ),
        footings=hut.arrays[0].footings,
        frame=hut.arrays[0].frame,
        modules=hut.arrays[0].modules,
    )
    first = hut.arrays[0].model_copy(update={"name": "Hut"})
    return hut.model_copy(update={"arrays": (first, gate)})
