"""Random designs that a planner could give, for property tests."""

from datetime import date
from typing import Any, get_args

import numpy as np
from hypothesis import strategies as st

from openfurrow.core.design import ARRAY_STAGES, Design, one_array
from openfurrow.core.footings.families import FamilyName as FootingFamily
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import Comes, FrameGivens
from openfurrow.core.givens import identified
from openfurrow.core.members.rust import GroundBites
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens, TableGivens
from openfurrow.core.site.features import FeatureGivens, Kind
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.load_tests import Loaded, LoadTestGivens, TestedFooting
from openfurrow.core.site.said import Weather, weather_of
from openfurrow.core.site.soil import HoleGivens
from openfurrow.core.site.survey import SurveyGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.structures.mover_givens import Moved
from openfurrow.core.structures.told import FamilyName
from openfurrow.core.trench.givens import Laid, TrenchGivens
from openfurrow.demo.larkspur import larkspur


def said_site(**givens: Any) -> SiteGivens:
    """A site of which all has been said that only people can say; with what a test says of it."""
    said: dict[str, Any] = {
        "latitude_deg": 44.9,
        "longitude_deg": -116.1,
        "elevation_m": 1530.0,
        "time_zone": "America/Boise",
        "slope": 0.04,
        "falls_toward_deg": 180.0,
        "dig_date": date(2026, 4, 20),
        "soil_class": "sandy gravel",
        "frost_depth_m": 0.9,
        "wind_speed_m_s": 47.0,
        "ground_snow_pa": 2400.0,
        "lowest_temperature_c": -31.0,
        "hottest_temperature_c": 33.0,
        "route": ((6.0, 6.0), (24.0, 30.0)),
    }
    return SiteGivens(**(said | givens))


def said_weather(**givens: Any) -> Weather:
    """Its design weather."""
    return weather_of(said_site(**givens))


def said_rows(**givens: Any) -> RowsGivens:
    """Rows of which it has been said how long they are."""
    return RowsGivens(**({"modules_along": 18} | givens))


def said_job(name: str, **stages: Any) -> Design:
    """A job of one array of which nothing is missing."""
    return one_array(name, **({"site": said_site(), "rows": said_rows()} | stages))


def changed(design: Design, stage: str, **givens: object) -> Design:
    """The design with some givens of a stage changed; a stage of arrays is the first array's."""
    if stage not in ARRAY_STAGES:
        part = getattr(design, stage).model_copy(update=givens)
        return design.model_copy(update={stage: part})
    first, *others = design.arrays
    part = getattr(first, stage).model_copy(update=givens)
    return design.model_copy(update={"arrays": (first.model_copy(update={stage: part}), *others)})


def with_inverter(design: Design, **givens: object) -> Design:
    """The design with some givens of its first inverter changed."""
    first, *others = design.wiring.inverters
    return changed(design, "wiring", inverters=(first.model_copy(update=givens), *others))


def sites() -> st.SearchStrategy[SiteGivens]:
    return st.builds(
        SiteGivens,
        rule_pack=st.sampled_from(["us", "metric"]),
        display_units=st.sampled_from(["us", "metric"]),
        latitude_deg=st.floats(20, 55) | st.floats(-55, -20),
        longitude_deg=st.floats(-170, 170),
        elevation_m=st.floats(0, 3000),
        slope=st.floats(0, 0.12),
        falls_toward_deg=st.floats(0, 360),
        soil_class=st.sampled_from(["sandy gravel", "sand", "clay"]),
        fine_soil_top_m=st.none() | st.floats(0, 0.6),
        frost_depth_m=st.floats(0, 1.5),
        wind_speed_m_s=st.floats(20, 55),
        ground_snow_pa=st.floats(0, 4000),
        lowest_temperature_c=st.floats(-40, 5),
        hottest_temperature_c=st.floats(20, 45),
        time_zone=st.just("Etc/UTC"),
        dig_date=st.just(date(2026, 4, 20)),
        route=st.lists(st.tuples(st.floats(-80, 80), st.floats(-80, 80)), min_size=1, max_size=5).map(
            tuple
        ),
    )


def rows() -> st.SearchStrategy[RowsGivens]:
    return st.builds(
        RowsGivens,
        orientation=st.sampled_from(["portrait", "landscape"]),
        modules_high=st.integers(1, 4),
        modules_along=st.integers(1, 40),
        tables_along=st.integers(1, 4),
        rows=st.integers(1, 5),
        tilt_deg=st.floats(0, 60),
        lower_edge_m=st.floats(0.4, 1.6),
        pitch_m=st.none() | st.floats(4, 15),
        follow_ground=st.booleans(),
        turn_deg=st.floats(-40, 40),
        tables=st.just(()) | tables_apart(),
    )


def tables_apart() -> st.SearchStrategy[tuple[TableGivens, ...]]:
    """Tables that differ from a pattern, or that are of none: some of them cannot be."""
    place = st.tuples(st.integers(1, 5), st.integers(1, 4)).map(lambda at: f"{at[0]}.{at[1]}")
    one = st.builds(
        TableGivens,
        place=st.just("") | place,
        out=st.booleans(),
        modules_along=st.none() | st.integers(1, 40),
        along_m=st.just(0.0) | st.floats(-30, 30),
        back_m=st.just(0.0) | st.floats(-30, 30),
        turn_deg=st.just(0.0) | st.floats(-60, 60),
    )
    return st.lists(one, max_size=4).map(tuple).map(identified)


def load_tests() -> st.SearchStrategy[tuple[LoadTestGivens, ...]]:
    """A few posts that were tested, some to where they gave way, some left out."""
    one = st.builds(
        lambda loaded, footing, load, moved, deep, east, out: LoadTestGivens(
            loaded=loaded,
            footing=footing,
            torque_n_m=load / 20,
            readings=((load / 2, moved / 4), (load, moved)),
            depth_m=deep,
            east_m=east,
            left_out=out,
        ),
        st.sampled_from(get_args(Loaded)),
        st.sampled_from(get_args(TestedFooting)),
        st.floats(2e3, 6e4),
        st.floats(0.002, 0.03),
        st.floats(0.8, 3),
        st.floats(-40, 40),
        st.sampled_from(["", "", "", "bent"]),
    )
    return st.lists(one, max_size=4).map(tuple).map(identified)


# Sticks as they are sold, in feet and in metres, and one that is neither.
STOCKS = st.sampled_from([5.0, 6.0, 7.5, 12.0, 3.048, 6.096, 7.3152, 9.144, 12.192, 6.777])


def designs() -> st.SearchStrategy[Design]:
    return st.builds(
        one_array,
        name=st.just("a job"),
        site=st.builds(
            lambda site, tests: site.model_copy(update={"load_tests": tests}), sites(), load_tests()
        ),
        rows=rows(),
        structure=st.builds(
            StructureGivens,
            family=st.sampled_from(get_args(FamilyName)),
            span_limit_m=st.floats(1.5, 5),
            cantilever_ratio=st.floats(0, 0.5),
            lines_apart_m=st.floats(0.5, 3),
            braced_bays=st.integers(0, 3),
            bent_brace=st.sampled_from(["cross brace", "none"]),
            post_section=st.sampled_from(["I 150 x 100 x 14", "I 152.4 x 101.6 x 5 x 7 S275"]),
            purlin_section=st.sampled_from(
                [
                    "Z 150 x 64 x 2.0",
                    "Z 180 x 64 x 20 x 1.8 S320GD",
                    "Z 180 x 70 x 20 x 3 6082-T6",
                ]
            ),
            beam_section=st.sampled_from(
                ["C 175 x 64 x 2.5", "box 150 x 75 x 4 S355", "C 200 x 75 x 22 x 4 6061-T6"]
            ),
            strut_section=st.sampled_from(["pipe 2 in", "pipe 60.3 x 3 6061-T6"]),
            rail_section=st.sampled_from(
                ["C 82 x 41 x 2.5", "box 80 x 40 x 2.5 6005A-T6", "C 80 x 40 x 12 x 2 S280GD"]
            ),
            moved=st.sampled_from(get_args(Moved)),
            flattest_deg=st.floats(0, 40),
            steepest_deg=st.floats(20, 75),
        ),
        footings=st.builds(
            FootingsGivens,
            pull_tested=st.booleans(),
            family=st.sampled_from(get_args(FootingFamily)),
            screw_kind=st.sampled_from(["with a helix", "rock screw"]),
            screw_section=st.sampled_from(["pipe 2-1/2 in", "pipe 3 in", "pipe 4 in"]),
            helix_diameter_m=st.floats(0.15, 0.4),
            rock_bond_pa=st.none() | st.floats(1e5, 5e5),
            screw_out_m=st.floats(0, 0.2),
            pier_diameter_m=st.floats(0.25, 0.8),
            pier_side=st.sampled_from(["against the soil", "in a form tube"]),
            bell_diameter_m=st.none() | st.floats(0.3, 1.2),
            bored_diameter_m=st.none() | st.floats(0.25, 0.9),
            post_in_m=st.none() | st.floats(0.3, 2),
            foot_bar=st.booleans(),
            pier_bars=st.integers(0, 8),
            concrete_from=st.sampled_from(["truck", "bags"]),
            depth_m=st.none() | st.floats(0.8, 3),
            loose_top_m=st.just(0.0) | st.floats(0.0, 0.8),
            slab_holds=st.booleans(),
            life_years=st.integers(5, 60),
            ground_bites=st.sampled_from(get_args(GroundBites)),
            head_moves_m=st.none() | st.floats(0.005, 0.1),
        ),
        frame=st.builds(
            FrameGivens,
            stock_length_m=STOCKS,
            other_stock_m=st.none() | STOCKS,
            pieces_come=st.sampled_from(get_args(Comes)),
            piece_stock_m=STOCKS,
            other_piece_stock_m=st.none() | STOCKS,
            beyond_bolt_m=st.floats(0.02, 0.1),
            posts_come=st.sampled_from(get_args(Comes)),
            post_stock_m=STOCKS,
        ),
        modules=st.builds(ModulesGivens, clamps_bond=st.booleans()),
        trench=st.builds(
            TrenchGivens,
            laid=st.sampled_from(get_args(Laid)),
            method=st.sampled_from(
                ["PVC conduit", "rigid metal conduit", "direct-buried cable", "armoured cable"]
            ),
            room_for_growth=st.booleans(),
        ),
    )


def places() -> st.SearchStrategy[tuple[float, float]]:
    return st.tuples(st.floats(-40, 40), st.floats(-40, 40))


def surveys() -> st.SearchStrategy[SurveyGivens]:
    """A few dozen shots of bent ground, one of them perhaps misread."""
    return st.builds(
        lambda seed, bend, fault: SurveyGivens(
            readings=tuple(
                (
                    float(e),
                    float(n),
                    float(0.03 * e + bend * np.sin(n / 9) + (fault if k == 20 else 0)),
                    "",
                )
                for k, (e, n) in enumerate(np.random.default_rng(seed).uniform(-50, 50, (60, 2)))
            )
        ),
        st.integers(0, 50),
        st.floats(0, 1),
        st.sampled_from([0.0, 2.0]),
    )


def features() -> st.SearchStrategy[FeatureGivens]:
    return st.builds(
        FeatureGivens,
        kind=st.sampled_from(get_args(Kind)),
        points=st.lists(places(), min_size=1, max_size=5).map(tuple),
        how_sure=st.sampled_from(["measured", "marked", "from a plan", "guessed"]),
        depth_m=st.none() | st.floats(0.2, 2),
        height_m=st.none() | st.floats(1, 20),
        width_m=st.none() | st.floats(0, 6),
        setback_m=st.none() | st.floats(0, 8),
    )


def holes() -> st.SearchStrategy[HoleGivens]:
    layers = st.lists(st.sampled_from(["sandy gravel", "sand", "clay"]), min_size=1, max_size=3)
    return st.builds(
        HoleGivens,
        east_m=st.floats(-30, 30),
        north_m=st.floats(-30, 30),
        layers=layers.map(
            lambda kinds: tuple((0.8 * (k + 1), kind, None) for k, kind in enumerate(kinds))
        ),
        water_m=st.none() | st.floats(0.3, 5),
        refusal_m=st.none() | st.floats(0.5, 4),
    )


def busy_designs() -> st.SearchStrategy[Design]:
    """Designs on ground that was shot, among things that are there."""

    def busy(
        design: Design,
        surveyed: list[SurveyGivens],
        there: list[FeatureGivens],
        bored: list[HoleGivens],
        at: tuple[float, float],
    ) -> Design:
        site = design.site.model_copy(
            update={
                "ground": "survey" if surveyed else "plane",
                "surveys": tuple(surveyed),
                "features": tuple(there),
                "test_holes": tuple(bored),
            }
        )
        moved = changed(design, "rows", at_east_m=at[0], at_north_m=at[1])
        return moved.model_copy(update={"site": site})

    return st.builds(
        busy,
        designs(),
        st.lists(surveys(), max_size=2),
        st.lists(features(), max_size=6),
        st.lists(holes(), max_size=3),
        places(),
    )


def plain_larkspur() -> Design:
    """The demo on the plane that its slope says, with nothing there and every owner answered."""
    demo = larkspur()
    answered = tuple(
        ticket.model_copy(update={"responded": date(2026, 4, 14), "reply": "nothing here"})
        for ticket in demo.site.tickets
    )
    site = demo.site.model_copy(
        update={
            "ground": "plane",
            "surveys": (),
            "features": (),
            "notes": (),
            "test_holes": (),
            "tickets": answered,
        }
    )
    return demo.model_copy(update={"site": site})
