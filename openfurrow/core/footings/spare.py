"""How much weaker than planned the ground may be before a footing holds less than is asked."""

from dataclasses import replace

import numpy as np

from openfurrow.core.footings.posts import SizedKind
from openfurrow.core.footings.sizing import bears_sideways, curve_of

# A footing that nothing asks anything of stands in any ground.
NOTHING_ASKED = 0.0


def strength_asked(kind: SizedKind) -> float:
    """The share of the ground's strength, as it is planned with, that the worst of its loads asks for.

    Above one it does not hold as planned. Friction, tip and what presses on it sideways are taken to
    rise and fall together; weights, and the soil over a bell, do not.
    """
    at, needs, depth = kind.ground, kind.needs, kind.depth_m
    profile = curve_of(at)

    def here(values: np.ndarray) -> float:
        return float(np.interp(depth, profile.depth_m, values))

    body, friction = at.body, here(profile.friction_n)
    own = float(np.asarray(body.weight_n(np.array([depth]), at.soil.water_m))[0])
    lifts = needs.uplift_n - at.lightest * own
    if profile.helix_pa is not None:
        helix = here(profile.helix_pa) * body.foot_m2 * at.lift.share
        up = needs.uplift_n / max(helix / at.lift.safety, 1e-9)
        heaves = needs.heave_n / max(helix, 1e-9)
    else:
        over_bell = body.over_bell_m2 * float(
            np.interp(depth - body.bell_m, profile.depth_m, profile.pressure_pa)
        )
        outweighs = over_bell > 0 and at.lightest * over_bell >= lifts
        grip = friction * at.lift.share
        up = NOTHING_ASKED if outweighs else lifts / max(grip / at.lift.safety, 1e-9)
        heaves = (needs.heave_n - own) / max(grip, 1e-9)
    presses = max(at.heaviest * own - body.concrete_m2 * here(profile.pressure_pa), 0.0)
    borne = friction * at.press.share + here(profile.tip_pa) * needs.tip_area_m2
    down = (needs.bearing_n + presses) * at.press.safety / max(borne, 1e-9)
    sideways = bears_sideways(replace(at, profile=profile), kind.loads, depth)
    aside = 0.0 if sideways is None else 1 / max(sideways, 1e-9)
    return max(NOTHING_ASKED, up, heaves, down, aside)
