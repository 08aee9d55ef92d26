"""Larkspur Ferry landing: a river bench with a fuel line, a septic field and a drain to straddle.

Every number is invented. The shots are what a crew would have read off this made-up ground, rounded
to the quarter inch.
"""

import math
from datetime import date

from openfurrow.core.design import ArrayGivens, Design, one_array
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.quantities import FOOT_M, INCH_M
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.schedule.givens import DeliveryGivens, ScheduleGivens
from openfurrow.core.site.features import FeatureGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.notes import NoteGivens
from openfurrow.core.site.soil import HoleGivens
from openfurrow.core.site.survey import Reading, SurveyGivens
from openfurrow.core.site.tickets import TicketGivens
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.demo import walls
from openfurrow.demo.prices import prices
from openfurrow.demo.weather import sun_of
from openfurrow.demo.worked_through import worked_through

BENCHMARK_M, BACKSIGHT_M = 100 * FOOT_M, 4.5 * FOOT_M
FALL, TOWARD_DEG = 0.04, 205.0
DRAIN_EAST_M = -3.6
BANK_TOP_M, BANK_FOOT_M, BANK_DROP_M = -25.0, -27.2, 0.9
QUARTER_INCH_M = INCH_M / 4
# Sticks that the merchant has.
YARD = FrameGivens(
    piece_stock_m=30 * FOOT_M,
    other_piece_stock_m=24 * FOOT_M,
    beyond_bolt_m=1.5 * INCH_M,
    hole_step_m=INCH_M,
)


def ground_m(east_m: float, north_m: float) -> float:
    """The made-up ground: a bench that falls to the river over a bank, a slumped drain, swells."""
    turn = math.radians(TOWARD_DEG)
    fall = FALL * (east_m * math.sin(turn) + north_m * math.cos(turn))
    slump = 0.12 * math.exp(-(((east_m - DRAIN_EAST_M) / 1.6) ** 2))
    swell = 0.10 * math.sin(east_m / 8.0) * math.cos(north_m / 11.0)
    bank = BANK_DROP_M * min(max((BANK_TOP_M - north_m) / (BANK_TOP_M - BANK_FOOT_M), 0.0), 1.0)
    return BENCHMARK_M - fall - slump + swell - bank


def _rounded(value_m: float) -> float:
    return round(round(value_m / QUARTER_INCH_M) * QUARTER_INCH_M, 5)


def _grid() -> tuple[Reading, ...]:
    """Paced in lines of about eight metres, never quite on the mark."""
    readings: list[Reading] = []
    for line in range(10):
        for station in range(10):
            number = line * 10 + station
            east = round(-31.0 + 8.2 * line + 1.6 * ((number * 0.618) % 1 - 0.5), 2)
            north = round(-29.0 + 8.2 * station + 1.6 * ((number * 0.414) % 1 - 0.5), 2)
            rod = _rounded(BENCHMARK_M + BACKSIGHT_M - ground_m(east, north))
            readings.append((east, north, rod, ""))
    # One rod read a foot wrong, found at the desk and left out by its number.
    east, north, rod, code = readings[46]
    readings[46] = (east, north, rod + FOOT_M, code)
    return tuple(readings)


def _along_the_row() -> tuple[Reading, ...]:
    """Tape and level along the row: chainage, offset, rise over the start."""
    start = ground_m(-12.0, 0.0)
    return tuple(
        (float(chainage), 0.0, _rounded(ground_m(-12.0 + chainage, 0.0) - start), "row")
        for chainage in range(0, 25, 2)
    )


def _bank() -> tuple[Reading, ...]:
    """The river bank by rod, along its top and along its foot, each with a code of its own."""
    readings = []
    for code, north in (("break bank top", BANK_TOP_M), ("break bank foot", BANK_FOOT_M)):
        for station in range(10):
            east = round(-31.0 + 8.1 * station, 2)
            rod = _rounded(BENCHMARK_M + BACKSIGHT_M - ground_m(east, north))
            readings.append((east, north, rod, code))
    return tuple(readings)


def surveys() -> tuple[SurveyGivens, ...]:
    """Three sittings: the bench by rod, the row by tape and level, the bank by rod."""
    return (
        SurveyGivens(
            name="bench, by rod",
            way="rod readings",
            benchmark_m=BENCHMARK_M,
            backsight_m=BACKSIGHT_M,
            readings=_grid(),
            left_out=(47,),
        ),
        SurveyGivens(
            name="row, by tape and level",
            way="tape and level",
            start_east_m=-12.0,
            start_level_m=_rounded(ground_m(-12.0, 0.0)),
            bearing_deg=90.0,
            readings=_along_the_row(),
        ),
        SurveyGivens(
            name="river bank, by rod",
            way="rod readings",
            benchmark_m=BENCHMARK_M,
            backsight_m=BACKSIGHT_M,
            readings=_bank(),
        ),
    )


def features() -> tuple[FeatureGivens, ...]:
    """What stands, what is buried, whose land it is."""
    trees = tuple(
        FeatureGivens(
            name=f"cottonwood {number + 1}", kind="tree", points=(at,), height_m=18.0, width_m=7.0
        )
        for number, at in enumerate(((-27.0, -9.0), (-22.0, -13.0), (-17.0, -17.0), (-12.0, -21.0)))
    )
    return (
        FeatureGivens(
            name="landing",
            kind="boundary",
            points=((-31.0, -29.0), (42.0, -29.0), (42.0, 44.0), (-31.0, 44.0)),
            note="Pins found at three corners.",
        ),
        FeatureGivens(
            name="pump house",
            kind="building",
            height_m=3.6,
            points=((31.27, 25.35), (28.73, 29.65), (33.03, 32.19), (35.58, 27.89)),
        ),
        FeatureGivens(
            name="charging shed",
            kind="building",
            height_m=4.2,
            points=((24.0, -24.0), (31.0, -24.0), (31.0, -18.0), (24.0, -18.0)),
        ),
        FeatureGivens(
            name="fuel line",
            kind="buried gas or fuel",
            how_sure="marked",
            depth_m=42 * INCH_M,
            points=((-6.0, 32.0), (20.0, 6.0), (27.0, -18.0)),
            note="Tank to charging shed; sprayed by the owner's locator.",
        ),
        FeatureGivens(
            name="pump main",
            kind="buried water",
            how_sure="marked",
            depth_m=48 * INCH_M,
            points=((34.0, 28.2), (37.0, 10.0), (36.0, -28.0)),
        ),
        FeatureGivens(
            name="tile drain",
            kind="drain",
            how_sure="measured",
            width_m=0.15,
            depth_m=30 * INCH_M,
            points=((DRAIN_EAST_M - 0.1, 22.0), (DRAIN_EAST_M, 0.0), (DRAIN_EAST_M + 0.2, -27.0)),
            note="Opened at the outfall; straddle it.",
        ),
        FeatureGivens(
            name="septic field",
            kind="septic field",
            how_sure="from a plan",
            band_m=0.6,
            depth_m=18 * INCH_M,
            points=((-29.0, 10.0), (-16.5, 10.0), (-16.5, 21.0), (-29.0, 21.0)),
        ),
        FeatureGivens(
            name="septic tank",
            kind="septic tank",
            how_sure="measured",
            depth_m=12 * INCH_M,
            points=((-13.5, 14.0), (-11.0, 14.0), (-11.0, 15.6), (-13.5, 15.6)),
        ),
        FeatureGivens(
            name="ferry road",
            kind="road",
            width_m=5.0,
            points=((-31.0, 40.5), (42.0, 40.5)),
        ),
        FeatureGivens(
            name="service drop",
            kind="overhead line",
            height_m=6.1,
            points=((-31.0, 36.0), (33.0, 36.0), (32.5, 30.0)),
        ),
        FeatureGivens(name="field gate", kind="gate", points=((39.0, 38.0),), width_m=3.6),
        FeatureGivens(
            name="truck path",
            kind="truck path",
            points=((39.0, 38.0), (39.5, 14.0), (22.0, -4.6), (-14.0, -4.6)),
        ),
        FeatureGivens(name="benchmark nail", kind="known point", points=((14.0, -8.0),)),
        *trees,
    )


def tickets() -> tuple[TicketGivens, ...]:
    """Five owners asked; the telecom has not answered in time."""
    asked, answered = date(2026, 4, 10), date(2026, 4, 14)
    return (
        TicketGivens(
            utility="power", who="ticket 4410-1", requested=asked, responded=answered, reply="marked"
        ),
        TicketGivens(
            utility="gas or fuel",
            who="ticket 4410-2",
            requested=asked,
            responded=answered,
            reply="marked",
            note="Dig by hand, two feet each side.",
        ),
        TicketGivens(
            utility="water", who="ticket 4410-3", requested=asked, responded=answered, reply="marked"
        ),
        TicketGivens(utility="telecom", who="ticket 4410-4", requested=asked),
        TicketGivens(
            utility="sewer",
            who="septic permit, county",
            requested=asked,
            responded=date(2026, 4, 13),
            reply="nothing here",
            note="Septic field by the permit's plan.",
        ),
    )


def notes() -> tuple[NoteGivens, ...]:
    """What the county said."""
    return (
        NoteGivens(
            topic="boundary setback",
            limit_m=10 * FOOT_M,
            who="county planning desk",
            said_on=date(2026, 3, 19),
            words="Ten feet from every line.",
        ),
        NoteGivens(
            topic="height limit",
            limit_m=12 * FOOT_M,
            who="county planning desk",
            said_on=date(2026, 3, 19),
            words="Twelve feet over grade.",
        ),
        NoteGivens(
            topic="inspection",
            who="county electrical inspector",
            said_on=date(2026, 4, 2),
            words="Open trench seen before backfill; two days' notice.",
            settled=True,
        ),
        NoteGivens(
            topic="stamp",
            who="county building desk",
            said_on=date(2026, 4, 2),
            words="No engineer's stamp for posts under ten feet.",
            settled=True,
        ),
    )


def holes() -> tuple[HoleGivens, ...]:
    """Silt over gravel at both ends; the east hole met the gravel bar's cobbles."""
    return (
        HoleGivens(
            name="west hole",
            east_m=-9.0,
            north_m=-2.5,
            layers=((0.15, "clay", None), (3.0, "sandy gravel", None)),
        ),
        HoleGivens(
            name="east hole",
            east_m=9.5,
            north_m=2.0,
            layers=((0.15, "clay", None), (2.0, "sandy gravel", None)),
            refusal_m=2.0,
        ),
    )


LARKSPUR = "Larkspur Ferry landing"
# A week and a half in April: a windy Wednesday, a frosty Monday, and things that come when they come.
WEEK = ScheduleGivens(
    forecast=(
        (date(2026, 4, 20), 6.0, 4.0),
        (date(2026, 4, 21), 7.0, 5.0),
        (date(2026, 4, 22), 5.0, 12.5),
        (date(2026, 4, 23), 4.5, 6.0),
        (date(2026, 4, 24), 6.0, 3.0),
        (date(2026, 4, 27), -1.0, 2.0),
        (date(2026, 4, 28), 5.0, 4.0),
    ),
    deliveries=(
        DeliveryGivens(id="1", what="posts and frame", arrives=date(2026, 4, 20)),
        DeliveryGivens(id="2", what="post driver", arrives=date(2026, 4, 20), leaves=date(2026, 4, 24)),
        DeliveryGivens(id="3", what="modules", arrives=date(2026, 4, 21)),
        DeliveryGivens(id="4", what="conduit and wire", arrives=date(2026, 4, 23)),
        DeliveryGivens(
            id="5", what="small excavator", arrives=date(2026, 4, 24), leaves=date(2026, 5, 1)
        ),
        DeliveryGivens(id="6", what="inverter", arrives=date(2026, 4, 28)),
    ),
    drive_per_h=1.6,
)


@worked_through()
def larkspur() -> Design:
    """36 modules on driven posts, us rules, 38 m to the pump house."""
    return one_array(
        name=LARKSPUR,
        sun=sun_of(
            (0.61, 0.66, 0.7, 0.71, 0.74, 0.79, 0.87, 0.86, 0.81, 0.72, 0.6, 0.56),
            ((80.0, 8.0), (130.0, 5.0), (170.0, 4.0), (215.0, 9.0), (265.0, 12.0), (320.0, 6.0)),
            snow_days=24,
            load_wh=31_000_000.0,
            by_day=True,
            battery_wh=30_000.0,
        ),
        site=SiteGivens(
            ground="survey",
            latitude_deg=44.9,
            longitude_deg=-116.1,
            elevation_m=1530.0,
            time_zone="America/Boise",
            slope=FALL,
            soil_class="sandy gravel",
            frost_depth_m=0.9,
            wind_speed_m_s=47.0,
            ground_snow_pa=2400.0,
            lowest_temperature_c=-31.0,
            hottest_temperature_c=33.0,
            dig_date=date(2026, 4, 20),
            falls_toward_deg=TOWARD_DEG,
            surveys=surveys(),
            features=features(),
            tickets=tickets(),
            notes=notes(),
            test_holes=holes(),
            fine_soil_top_m=0.15,
            wind_from="ASCE 7-16 Figure 26.5-1B, county amendment: 105 mph",
            snow_from="county table, 50 psf",
            frost_from="county building desk, 36 in",
            route=((4.0, 7.0), (19.0, 21.0), (30.0, 27.5)),
        ),
        rows=RowsGivens(modules_along=18),
        structure=StructureGivens(span_limit_m=2.4384, purlin_section="Z 150 x 64 x 1.6"),
        footings=FootingsGivens(predrilled=True, test_moved_m=INCH_M / 2),
        frame=YARD,
        modules=ModulesGivens(
            zone_from_m=0.25, zone_to_m=0.45, steel_bonds="its joints are listed to bond"
        ),
        trench=TrenchGivens(
            wall_kind="boards on studs",
            wall_thick_m=6.5 * INCH_M,
            hole_right_m=26 * INCH_M,
            hole_up_m=14 * INCH_M,
            reference_higher_m=0.75 * INCH_M,
            bay_from_m=-33.5 * INCH_M,
            bay_to_m=-19 * INCH_M,
        ),
        wiring=WiringGivens(
            on_wall=walls.SHED,
            inverters=(
                InverterGivens(
                    id="1", input_a=16.0, input_short_a=21.0, arc_fault="it is listed for it"
                ),
            ),
            connects="a breaker in the panel",
            inverter_to_panel_m=14 * FOOT_M,
            panel_bus_a=225.0,
            panel_main_a=200.0,
            panel_fed_by="the meter",
            shut_off="beside the meter",
            panel_clear_m=42 * INCH_M,
            strings_inside="no",
        ),
        materials=MaterialsGivens(currency="USD", hour_cost=52.0, prices=prices()),
        schedule=WEEK,
    )


@worked_through()
def larkspur_with_pump_house() -> Design:
    """The same with a second, small array of other modules beside the pump house, on the same trunk."""
    first = larkspur()
    bench = first.arrays[0].model_copy(update={"name": "River bench"})
    pump_house = ArrayGivens(
        id="2",
        name="Pump house",
        rows=RowsGivens(
            modules_high=3,
            modules_along=4,
            orientation="landscape",
            tilt_deg=30.0,
            at_east_m=17.0,
            at_north_m=31.0,
        ),
        structure=StructureGivens(
            family="pipe grid",
            span_limit_m=2.4384,
            post_section="pipe 4 in",
            pipe_section="pipe 2-1/2 in",
            rail_section="C 82 x 41 x 2.5",
            lines_apart_m=1.7526,
        ),
        footings=first.arrays[0].footings.model_copy(
            update={
                "family": "bored pier",
                "pier_diameter_m": 0.4064,
                "bored_diameter_m": 0.4445,
                "pier_top_m": 0.0508,
                "stone_m": 0.1016,
                "stone_chance_per_m": 0.08,
                "bore_spread_m": 0.0381,
            }
        ),
        # Pipe is cut at the yard as well.
        frame=YARD.model_copy(
            update={"posts_come": "cut here from sticks", "post_stock_m": 24 * FOOT_M}
        ),
        modules=ModulesGivens(
            zone_from_m=0.25,
            zone_to_m=0.45,
            steel_bonds="its joints are listed to bond",
            power_w=400.0,
            length_m=1.78,
            width_m=1.10,
            mass_kg=21.5,
            open_circuit_v=41.2,
            maximum_power_v=34.4,
            short_circuit_a=12.3,
            maximum_power_a=11.6,
        ),
    )
    spur = SpurGivens(id="1", array=pump_house.id, points=((20.5, 28.0), (22.5, 25.5)))
    return first.model_copy(
        update={
            "arrays": (bench, pump_house),
            "site": first.site.model_copy(update={"spurs": (spur,)}),
            "wiring": first.wiring.model_copy(
                update={
                    "inverters": (
                        InverterGivens(
                            id="1",
                            name="shed inverter",
                            inverter_ac_w=12_500.0,
                            inverter_inputs=3,
                            input_a=16.0,
                            input_short_a=21.0,
                            arc_fault="it is listed for it",
                        ),
                        InverterGivens(
                            id="2",
                            name="pump inverter",
                            takes=(pump_house.id,),
                            inverter_ac_w=4_000.0,
                            inverter_inputs=2,
                            input_a=13.5,
                            input_short_a=18.0,
                            arc_fault="it is listed for it",
                        ),
                    ),
                    # Both together are more than the bus may take beside its main breaker.
                    "connects": "ahead of the main breaker",
                    "outputs_meet": "in a panel of their own",
                }
            ),
            # From where both arrays can be read: the bench at the pump house lies higher.
            "stakeout": first.stakeout.model_copy(update={"instrument_height_m": 2.1}),
        }
    )
