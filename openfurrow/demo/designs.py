"""The demo designs, by the name ``./furrow example NAME`` takes."""

from collections.abc import Callable, Mapping

from openfurrow.core.design import Design, one_array
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.frame.givens import FrameGivens
from openfurrow.core.modules.givens import ModulesGivens
from openfurrow.core.rows.givens import RowsGivens
from openfurrow.core.structures.givens import StructureGivens
from openfurrow.core.trench.givens import TrenchGivens
from openfurrow.core.wiring.givens import WiringGivens
from openfurrow.core.wiring.inverter_givens import InverterGivens
from openfurrow.demo.grifo import grifo
from openfurrow.demo.larkspur import larkspur, larkspur_with_pump_house
from openfurrow.demo.marram import FLATS, marram
from openfurrow.demo.quillay import quillay
from openfurrow.demo.varnbeck import varnbeck

TABLE = 2 * 12


def field(modules: int) -> Design:
    """A metric field of about ``modules`` modules: portrait tables in rows, for size.

    The count is rounded to whole tables of 2 x 12; rows are about half as many as tables in a row.
    """
    tables = max(1, round(modules / TABLE))
    rows = max(1, round((tables / 2) ** 0.5))
    along = max(1, round(tables / rows))
    count = rows * along * TABLE
    return one_array(
        name=f"Field of {count} modules",
        site=FLATS.model_copy(update={"route": ((0.0, -10.0), (60.0, -40.0))}),
        rows=RowsGivens(
            modules_along=12,
            tables_along=along,
            rows=rows,
            tilt_deg=20.0,
            lower_edge_m=0.8,
            pitch_m=8.0,
        ),
        structure=StructureGivens(
            post_section="I 200 x 130 x 26", span_limit_m=3.2, beam_section="C 200 x 75 x 3.0"
        ),
        footings=FootingsGivens(pull_tested=True),
        frame=FrameGivens(stock_length_m=7.5, piece_stock_m=6.0, bolt_faces="both sides"),
        modules=ModulesGivens(
            zone_from_m=0.25, zone_to_m=0.45, back_rating_pa=2400.0, clamp_hold_n=3500.0
        ),
        trench=TrenchGivens(strings_per_conduit=20, width_m=0.9),
        wiring=WiringGivens(
            inverters=(
                InverterGivens(
                    id="1",
                    maximum_dc_v=1000.0,
                    inverter_ac_w=min(5e7, 350.0 * count),
                    inverter_inputs=max(2, count // 14),
                    # No more, and no larger ones, are said of one kind.
                    units=min(200, max(1, count // 280)),
                    ac_v=400.0,
                    phases="three phases",
                ),
            )
        ),
    )


__all__ = ["DESIGNS", "field", "grifo", "larkspur", "quillay"]

DESIGNS: Mapping[str, Callable[[], Design]] = {
    "larkspur": larkspur,
    "larkspur-two": larkspur_with_pump_house,
    "grifo": grifo,
    "quillay": quillay,
    "varnbeck": varnbeck,
    "marram": marram,
    "field-100": lambda: field(100),
    "field-1000": lambda: field(1000),
    "field-10000": lambda: field(10000),
}
