"""Pieces of the side view that several drawings share: ground, post, table, trench."""

import math

from openfurrow.core.plan import Plan
from openfurrow.sheets.marks import Mark, Point, area, line, turned


def ground_z(plan: Plan, x: float) -> float:
    """Ground level in the side view; x runs level from the first lower edge to the back."""
    return plan.rows.section.rise_back * x


def table_side(plan: Plan, x_edge: float) -> tuple[Mark, ...]:
    """One table seen from its end: post, strut, beam, purlins and glass; lower edge at ``x_edge``."""
    section = plan.rows.section
    base = (x_edge, ground_z(plan, x_edge) + section.lower_edge_m)
    tilt = section.tilt_deg
    purlin, beam = plan.frame.purlin.section, plan.frame.beam
    thick = section.stack_m - purlin.depth_m - beam.section.depth_m / 2
    post_x = x_edge + section.post_x_m
    ground, bolt = ground_z(plan, post_x), base[1] + section.bolt_z_m
    half = plan.footings.posts.post.depth_m / 2
    top_of_post = bolt + plan.footings.posts.post_top_m
    depth = plan.footings.posts.depth_m

    def strip(y0: float, y1: float, z0: float, z1: float) -> tuple[Point, ...]:
        return turned(((y0, z0), (y1, z0), (y1, z1), (y0, z1)), base, tilt)

    start = beam.start_m
    top = -thick - purlin.depth_m
    foot = (post_x, ground + _strut_foot(plan))
    head = turned(((start + beam.strut_m, -section.stack_m),), base, tilt)[0]
    glass = []
    for number in range(plan.rows.modules_high):
        gap = (section.chord_m - plan.rows.modules_high * plan.rows.module_up_m) / max(
            plan.rows.modules_high - 1, 1
        )
        y0 = number * (plan.rows.module_up_m + gap)
        glass.append(area("glass", *strip(y0, y0 + plan.rows.module_up_m, -thick, 0)))
    return (
        area("post-buried", (post_x - half, ground - depth), (post_x + half, ground - depth),
             (post_x + half, ground), (post_x - half, ground)),
        area("post", (post_x - half, ground), (post_x + half, ground), (post_x + half, top_of_post),
             (post_x - half, top_of_post)),
        line("strut", foot, head),
        area("beam", *strip(start, start + beam.length_m, top - beam.section.depth_m, top)),
        *(area("purlin", *strip(y - 0.03, y + 0.03, -thick - purlin.depth_m, -thick))
          for y in beam.places_m.tolist()),
        *glass,
    )


def _strut_foot(plan: Plan) -> float:
    """Height of the strut's foot, from its length and where it meets the beam."""
    section, strut, beam = plan.rows.section, plan.frame.strut, plan.frame.beam
    reach = beam.bolt_m - beam.strut_m
    tilt = math.radians(section.tilt_deg)
    across, down = reach * math.cos(tilt), reach * math.sin(tilt)
    drop = math.sqrt(max(strut.length_m**2 - across**2, 0.0))
    return section.reveal_m - down - drop


def soil_under(plan: Plan, x0: float, x1: float, floor: float) -> tuple[Mark, ...]:
    """Ground with its line, and the frost line below it."""
    frost = plan.site.frost_depth_m
    z0, z1 = ground_z(plan, x0), ground_z(plan, x1)
    marks = [
        area("soil", (x0, z0), (x1, z1), (x1, floor), (x0, floor)),
        line("ground", (x0, z0), (x1, z1)),
    ]
    if frost > 0:
        marks.append(line("frost", (x0, z0 - frost), (x1, z1 - frost)))
    return tuple(marks)
