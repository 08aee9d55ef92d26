"""Marram Flats waterworks: a large metric field by the sea, made from a few numbers."""

from datetime import date

from openfurrow.core.design import ArrayGivens, Design
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.schedule.givens import ScheduleGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.load_tests import LoadTestGivens
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.demo import walls
from openfurrow.demo.weather import sun_of
from openfurrow.demo.worked_through import worked_through

# Blocks either side of the dyke road, from the south; each of so many rows of two tables.
ACROSS, DEEP = 2, 4
ROWS, TABLES = 5, 2
# 4 x 27 modules on 12 posts: 8,640 on 960 in all.
HIGH, ALONG = 4, 27
INVERTERS = 6
BLOCK_M, ROAD_M, LANE_M = 58.0, 10.0, 0.9
STATION_M = (14.0, -34.0)
MODULE_W, INVERTER_W = 405.0, 66_000.0
PITCH_M = 10.0

# Posts driven and pulled beside the dyke road before the job: how far along it, and the load at which
# each had moved so far.
PULLED = (
    (-6.0, ((12e3, 0.001), (24e3, 0.004), (33e3, 0.011), (37e3, 0.019))),
    (41.0, ((12e3, 0.001), (24e3, 0.003), (36e3, 0.009), (41e3, 0.017))),
    (74.0, ((12e3, 0.002), (24e3, 0.006), (32e3, 0.014))),
    (118.0, ((12e3, 0.001), (24e3, 0.004), (36e3, 0.010), (42e3, 0.016))),
    (157.0, ((12e3, 0.002), (24e3, 0.005), (36e3, 0.012), (39e3, 0.018))),
    (189.0, ((12e3, 0.001), (24e3, 0.004), (36e3, 0.012), (40e3, 0.020))),
)
TESTED_M = 3.2
POST = "I 200 x 130 x 26"

# Sand behind a dyke, level to the eye.
FLATS = SiteGivens(
    rule_pack="metric",
    display_units="metric",
    latitude_deg=53.1,
    longitude_deg=6.2,
    elevation_m=1.0,
    time_zone="Europe/Amsterdam",
    slope=0.002,
    falls_toward_deg=300.0,
    soil_class="sand",
    frost_depth_m=0.6,
    wind_speed_m_s=24.5,
    terrain="II",
    ground_snow_pa=700.0,
    lowest_temperature_c=-13.0,
    hottest_temperature_c=31.0,
    dig_date=date(2026, 4, 20),
)


@worked_through()
def marram() -> Design:
    """8,640 modules in landscape on driven posts, six inverters out at each of eight blocks."""
    module = ModulesGivens(
        zone_from_m=0.2,
        zone_to_m=0.4,
        steel_bonds="its joints are listed to bond",
        power_w=MODULE_W,
        length_m=1.71,
        width_m=1.09,
        mass_kg=20.5,
        lead_m=1.35,
        open_circuit_v=37.2,
        maximum_power_v=31.1,
        short_circuit_a=13.8,
        maximum_power_a=13.0,
        series_fuse_a=25.0,
        front_rating_pa=3600.0,
        back_rating_pa=2400.0,
        short_front_rating_pa=3000.0,
        short_back_rating_pa=2000.0,
        clamp_hold_n=3500.0,
    )
    row_m = TABLES * (ALONG * (module.length_m + module.gap_along_m)) + 0.5
    blocks = [(side, deep) for deep in range(DEEP) for side in range(ACROSS)]
    arrays = tuple(
        ArrayGivens(
            id=f"b{number}",
            name=f"Block {number}",
            rows=RowsGivens(
                orientation="landscape",
                modules_high=HIGH,
                modules_along=ALONG,
                tables_along=TABLES,
                rows=ROWS,
                tilt_deg=20.0,
                lower_edge_m=0.8,
                pitch_m=PITCH_M,
                at_east_m=round((2 * side - 1) * (row_m + ROAD_M) / 2, 2),
                at_north_m=deep * BLOCK_M,
            ),
            structure=StructureGivens(
                post_section=POST,
                purlin_section="Z 250 x 75 x 2.5",
                beam_section="C 250 x 75 x 4.0",
                strut_section="pipe 2-1/2 in",
                span_limit_m=4.1,
            ),
            footings=FootingsGivens(),
            frame=FrameGivens(
                stock_length_m=12.0,
                pieces_come="cut to length",
                bolt_metric="M20",
                bolt_faces="both sides",
            ),
            modules=module,
        )
        for number, (side, deep) in enumerate(blocks, start=1)
    )
    tests = tuple(
        LoadTestGivens(
            id=f"t{number}",
            name=f"T{number}",
            readings=readings,
            depth_m=TESTED_M,
            post=POST,
            east_m=3.0 if number % 2 else -3.0,
            north_m=north_m,
        )
        for number, (north_m, readings) in enumerate(PULLED, start=1)
    )
    # Each block comes down the dyke road in a trench of its own, so that none warms another: the
    # farthest in the middle, the nearest outside.
    lanes = [
        ((2 * side - 1) * (0.6 + LANE_M * (DEEP - 1 - deep)), deep * BLOCK_M + 6.0)
        for side, deep in blocks
    ]
    ways = [((east, north), (east, -22.0), STATION_M) for east, north in lanes]
    spurs = tuple(
        SpurGivens(id=f"s{number}", array=f"b{number}", points=points)
        for number, points in enumerate(ways[:-1], start=1)
    )
    inverters = tuple(
        InverterGivens(
            id=f"i{number}",
            name=f"block {number}",
            takes=(f"b{number}",),
            stands="at the array",
            units=INVERTERS,
            ac_v=800.0,
            phases="three phases",
            maximum_dc_v=1100.0,
            start_v=250.0,
            inverter_ac_w=INVERTERS * INVERTER_W,
            inverter_inputs=INVERTERS * 8,
            input_a=18.0,
            input_short_a=25.0,
        )
        for number in range(1, ACROSS * DEEP + 1)
    )
    return Design(
        name="Marram Flats waterworks",
        site=FLATS.model_copy(
            update={
                "route": ways[-1],
                "spurs": spurs,
                "load_tests": tests,
            }
        ),
        arrays=arrays,
        sun=sun_of(
            (0.5, 0.55, 0.59, 0.65, 0.66, 0.63, 0.62, 0.63, 0.59, 0.54, 0.48, 0.45),
            ((0.0, 0.0), (180.0, 0.0)),
            snow_days=3,
        ),
        trench=TrenchGivens(strings_per_conduit=3, width_m=0.45, wall_kind="no wall is passed"),
        schedule=ScheduleGivens(people=24, post_machine="tracked rig"),
        wiring=WiringGivens(
            on_wall=walls.STATION,
            inverters=inverters,
            drop_limit=0.02,
            rods=4,
            rods_ohm=31.0,
            connects="a transformer of its own",
            inverter_to_panel_m=6.0,
            transformer_va=3_500_000.0,
            shut_off="beside the meter",
            panel_clear_m=1.6,
        ),
    )
