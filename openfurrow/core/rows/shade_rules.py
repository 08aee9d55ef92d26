"""What the shade of standing things costs: hours of the year's three days, and the winter window."""

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.checks import Check, holds
from openfurrow.core.rows.lie import Lie
from openfurrow.core.rows.shade import (
    Standing,
    alone,
    evenly,
    glass_places_m,
    reached,
    shaded_by,
    toward_sun,
)
from openfurrow.core.sun.plan import SunDay, SunPlan
from openfurrow.core.working import Answer, Input, Source, Working

Floats = NDArray[np.float64]

RAYS = Source(
    "straight rays from the glass to the sun, past crowns as ellipsoids and upright walls", "geometry"
)
BARE = "A bare crown lets some of it through; a hedge grows."
AWAY = (
    "Move the array, turn it to its sunny hours, narrow the window, or ask the owner to lop or fell. "
    + BARE
)


def shade_answers(standing: Standing, lie: Lie, sun: SunPlan) -> tuple[Answer, ...]:
    """Hours of full sun that standing things take, averaged over the glass."""
    if not standing.names:
        return ()
    count = len(lie.tables.row)
    chosen = evenly(count)
    glass_m = glass_places_m(lie, chosen)
    over = "the glass" if len(chosen) == count else f"{len(chosen)} of {count} tables, evenly taken"
    words = [_lost(standing, glass_m, day) for day in sun.days]
    quiet = (
        f" Not counted, no height said: {', '.join(standing.no_height)}."
        if (standing.no_height)
        else ""
    )
    return (
        Answer(
            "rows",
            "standing_shade",
            "Sun taken by what stands, winter",
            Working(
                "",
                "",
                tuple(
                    Input("", f"{day.name} day", text, "text")
                    for day, text in zip(sun.days, words, strict=True)
                ),
                words[0],
                "text",
                RAYS,
                f"Averaged over {over}. {BARE}{quiet}",
            ),
        ),
    )


def _lost(standing: Standing, glass_m: Floats, day: SunDay) -> str:
    toward = toward_sun(day.altitude_deg, day.azimuth_deg)
    share = shaded_by(standing, glass_m, toward).any(axis=0).mean(axis=1)
    return f"{share.sum() * day.step_h:.1f} of {len(day.solar_h) * day.step_h:.1f} h"


def shade_check(standing: Standing, lie: Lie, sun: SunPlan) -> tuple[Check, ...]:
    """Whether anything that stands takes the sun in the winter window; by whom and when.

    Every table that a thing's shade can reach is looked at.

    What stands and has no height cannot be judged, so it is not clear.
    """
    if not (standing.names or standing.no_height):
        return ()
    up = sun.window_altitude_deg > 0
    toward = toward_sun(sun.window_altitude_deg[up], sun.window_azimuth_deg[up])
    lowest = float(sun.window_altitude_deg[up].min()) if up.any() else 90.0
    # How many places of all tables each thing shades under each sun: (things, suns).
    shaded = np.array(
        [
            shaded_by(alone(standing, index), glass_places_m(lie, tables), toward)[0].sum(axis=1)
            if len(tables) and len(toward)
            else np.zeros(len(toward))
            for index, tables in enumerate(reached(standing, lie, lowest))
        ]
    ).reshape(len(standing.names), len(toward))
    by_thing = shaded.sum(axis=1)
    worst = [index for index in np.argsort(-by_thing, kind="stable").tolist() if by_thing[index] > 0]
    words = []
    for index in worst[:3]:
        when = sun.window_h[up][shaded[index] > 0]
        words.append(f"{standing.names[index]} {clock(when[0])} to {clock(when[-1])}")
    more = f" and {len(worst) - 3} more" if len(worst) > 3 else ""
    measured = ["; ".join(words) + more + " solar time"] if worst else []
    measured += [f"no height said of {', '.join(standing.no_height[:3])}"] if standing.no_height else []
    return (
        holds(
            "rows",
            "standing_shade",
            "Nothing that stands takes the sun of the winter window",
            not measured,
            "; ".join(measured) or "clear",
            "clear",
            remedy=AWAY if worst else "Measure how high it stands: stick and shadow, or a clinometer.",
            source=RAYS,
            given="rows.at_east_m" if worst else "site.features",
            otherwise="look",
        ),
    )


def clock(hours: float) -> str:
    """A solar time as it is read."""
    minutes = round(hours * 60)
    return f"{minutes // 60}:{minutes % 60:02d}"
