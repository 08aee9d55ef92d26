"""Random designs that a planner could give, for property tests."""

from datetime import date

from hypothesis import strategies as st

from openfurrow.core.design import Design
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.sun.givens import SunGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.demo.larkspur import larkspur


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
        route=st.lists(
            st.tuples(st.floats(-80, 80), st.floats(-80, 80)), min_size=0, max_size=5
        ).map(tuple),
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
    )


def designs() -> st.SearchStrategy[Design]:
    return st.builds(
        Design,
        name=st.just("a job"),
        site=sites(),
        sun=st.builds(SunGivens, turn_deg=st.floats(-40, 40)),
        rows=rows(),
        footings=st.builds(
            FootingsGivens,
            span_limit_m=st.floats(1.5, 5),
            cantilever_ratio=st.floats(0, 0.5),
            pull_tested=st.booleans(),
            depth_m=st.none() | st.floats(0.8, 3),
        ),
        modules=st.builds(ModulesGivens, clamps_bond=st.booleans()),
        trench=st.builds(
            TrenchGivens,
            method=st.sampled_from(
                ["PVC conduit", "rigid metal conduit", "direct-buried cable"]
            ),
            room_for_growth=st.booleans(),
        ),
    )


def plain_larkspur() -> Design:
    """The demo on the plane that its slope says, with nothing there and every owner answered."""
    demo = larkspur()
    answered = tuple(
        ticket.model_copy(update={"responded": date(2026, 4, 14), "reply": "nothing here"})
        for ticket in demo.site.tickets
    )
    site = demo.site.model_copy(update={
        "ground": "plane", "surveys": (), "features": (), "notes": (), "test_holes": (),
        "tickets": answered,
    })
    return demo.model_copy(update={"site": site})
