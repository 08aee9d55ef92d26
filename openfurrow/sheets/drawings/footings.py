"""Footings: one post in the ground, and how deep each way of failing asks it to go."""

from openfurrow.core.footings.piles import Piles
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.sheets.drawings.table import edge_z, ground_line, ground_z, table_side
from openfurrow.sheets.marks import Drawing, Mark, area, box, dimension, drawing, label, line


def _in_weights(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """A bent whose feet stand in boxes: what each weighs, how wide it is, how high it is filled."""
    section, stood, weights = plan.rows.section, plan.structure.posts, plan.footings.weights
    assert weights is not None
    left, right, deep = -1.3, section.level_depth_m + 1.3, 1.5
    ground = ground_line(plan, left, right)
    low, high = min(z for _, z in ground), weights.deepest_fill_m
    marks: list[Mark] = [area("soil", *ground, (right, low - deep), (left, low - deep))]
    marks += [line("ground", *ground), *table_side(plan, 0)]
    masses, side = plan.footings.posts.masses_kg, weights.side_m / 2
    for number, role in enumerate(stood.roles):
        x = section.post_x_m + role.back_m
        top = ground_z(plan, x)
        heaviest = float(masses[stood.of_role(number)].max()) if masses is not None else 0.0
        marks += [
            dimension(
                format_value(weights.side_m, "tape", units), (x - side, top), (x + side, top), -14
            ),
            label(format_value(heaviest, "haul", units), (x, top - 0.95), "strong"),
        ]
        if number == 0:
            fill = format_value(high, "tape", units)
            marks.append(dimension(fill, (x - side, top), (x - side, top + high), 14))
    return (
        drawing(
            "footings",
            "One line of piles, front to back, nothing in the ground"
            if isinstance(weights, Piles)
            else "One bent in its weights, nothing in the ground",
            marks,
            low=(left, low - deep),
            high=(right, low + section.upper_edge_m + 0.5),
            legend=(f"all together {format_value(weights.total_kg, 'haul', units)}",),
        ),
    )


def footings_drawing(plan: Plan, units: UnitSystem) -> tuple[Drawing, ...]:
    """The post's section with soil and frost, the five depths as a ruler beside it."""
    if plan.footings.weights is not None:
        return _in_weights(plan, units)
    section, posts = plan.rows.section, plan.footings.posts
    # Which post is drawn stands at the array's middle; the depth is that of the soil asking for most.
    stood = plan.structure.posts
    role = stood.roles[int(plan.places.role[int(posts.depths_m.argmax())])]
    x, needs_m = section.post_x_m + role.back_m, posts.needs_m
    top = ground_z(plan, x)
    deepest = max(posts.depth_m, *needs_m) + 0.45
    left, right = -1.3, section.level_depth_m + 3.0
    floor = top - deepest
    grip = posts.worst.soil.frost_grip_m
    ground = ground_line(plan, left, right)
    marks: list[Mark] = [area("soil", *ground, (right, floor), (left, floor))]
    if grip > 0:
        marks.append(area("fine-soil", *ground, *((x, z - grip) for x, z in reversed(ground))))
    frost = plan.site.frost_depth_m
    if frost > 0:
        marks += [
            line("frost", *((x, z - frost) for x, z in ground)),
            label("frost", (left + 0.1, ground[0][1] - frost - 0.14), "frost-note", "start"),
        ]
    marks += [line("ground", *ground), *table_side(plan, 0)]
    # Beside all posts of the bent.
    ruler = section.post_x_m + stood.roles[-1].back_m + 1.15
    bolt = edge_z(plan, 0) + section.bolt_z_m + role.up_m
    for number, need in enumerate(needs_m):
        across = ruler + 0.42 * number
        governs = number == posts.governing
        marks.append(
            box("need-governs" if governs else "need", across, top - max(need, 0.02), across + 0.2, top)
        )
        marks.append(
            label(
                f"{number + 1}",
                (across + 0.1, top - max(need, 0.02) - 0.2),
                "strong" if governs else "note",
            )
        )

    def tape(value: float) -> str:
        return format_value(value, "tape", units)

    named = [
        f"{number + 1} {mode}: {tape(need)}"
        for number, (mode, need) in enumerate(zip(posts.modes, needs_m, strict=True))
    ]
    legend = (named[posts.governing], *(n for k, n in enumerate(named) if k != posts.governing))

    piers = plan.footings.piers
    if piers is not None:
        foot, wide = top - posts.depth_m, max(piers.diameter_m, piers.bell_m or 0.0) / 2
        marks.append(dimension(tape(2 * wide), (x - wide, foot), (x + wide, foot), -14))
        legend = (
            f"bore to {tape(piers.bore_m)}, on stone of {tape(piers.stone_m)}",
            f"concrete in all {format_value(piers.order_m3, 'volume', units)}",
            *legend,
        )
    if (screws := plan.footings.screws) is not None:
        torque = format_value(screws.most_torque_n_m, "torque", units)
        legend = (
            f"screw {tape(screws.longest_m)} long",
            "pulled to prove it" if screws.rock else f"turned until it takes {torque}",
            *legend,
        )
    marks += [
        line("depth-line", (x - 0.5, top - posts.depth_m), (right, top - posts.depth_m)),
        dimension(tape(posts.depth_m), (x, top - posts.depth_m), (x, top), 14),
        dimension(tape(bolt - top), (x, top), (x, bolt), -14),
    ]
    return (
        drawing(
            "footings",
            f"One {'pier' if piers else 'screw' if screws else 'post'}, and what each load asks of it",
            marks,
            low=(left, floor),
            high=(right, top + section.upper_edge_m + 0.35),
            legend=legend,
        ),
    )
