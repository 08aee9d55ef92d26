"""How much of the posts and the braces of bents is used, and what their wind along the row takes."""

import math
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from openfurrow.core.codes import constant
from openfurrow.core.codes.section import Section
from openfurrow.core.members.bending import bending_limits_n_m, bends, free_post_m
from openfurrow.core.members.columns import column_limit_n
from openfurrow.core.structures.bents.carry import Bents, under_loads
from openfurrow.core.structures.bents.shape import BACK, FRONT_HIGH, FRONT_LOW, BentShape

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Strained:
    """A member where it is used most: pushed or pulled, and bent, against what it bears of each.

    ``words`` say how it fails that is bent too far. ``shear_n`` cuts across it where that is looked at.
    """

    section: Section
    axial_n: float
    axial_limit_n: float
    moment_n_m: float
    moment_limit_n_m: float
    words: str
    shear_n: float = 0.0
    shear_limit_n: float = math.inf

    @property
    def used(self) -> float:
        """Pushed and bent by their shares together, and cut across by the root of their squares."""
        bent = abs(self.moment_n_m) / self.moment_limit_n_m
        cut = abs(self.shear_n) / self.shear_limit_n
        return abs(self.axial_n) / self.axial_limit_n + math.hypot(bent, cut)


def worst_of(
    section: Section,
    axial_n: Floats,
    moment_n_m: Floats,
    column_n: ArrayLike,
    limit_n_m: ArrayLike,
    words: str,
    shear: tuple[Floats, float] | None = None,
) -> Strained:
    """Where a member is used most; what is pulled is held to what a column bears too.

    ``shear`` is what cuts across it, and what it bears of that.
    """
    shear_n, shear_limit = shear if shear is not None else (np.zeros(1), math.inf)
    axial, moment, columns, limits, cut = np.broadcast_arrays(
        axial_n, moment_n_m, column_n, limit_n_m, shear_n
    )
    bent = np.hypot(moment / limits, cut / shear_limit)
    at = int((np.abs(axial) / columns + bent).argmax())
    return Strained(
        section=section,
        axial_n=float(axial.flat[at]),
        axial_limit_n=float(columns.flat[at]),
        moment_n_m=float(moment.flat[at]),
        moment_limit_n_m=float(limits.flat[at]),
        words=words,
        shear_n=float(cut.flat[at]),
        shear_limit_n=shear_limit,
    )


def size_posts(shape: BentShape, bents: Bents, acting: Floats, pack: str, *, sways: bool) -> Strained:
    """The posts over the ground, pressed and bent in the bent's plane.

    ``sways`` says that no cable holds their heads along the row. Each buckles as a column from a
    little below the ground, about either axis; where heads may sway it counts `sway_length` times.
    """
    bars = [FRONT_LOW, FRONT_HIGH, BACK]
    pull = under_loads(bents, acting, bents.forces.pull_n[:, :, bars])
    moments = under_loads(bents, acting, bents.forces.moments_n_m[:, :, bars])
    kinds, post = bents.kinds, shape.post
    longer = constant("common", "sway_length").value
    front, back = kinds.highs_m.T
    reveals = np.column_stack((front, front, back))
    # A post stands as if built in a little below the ground: it buckles from there.
    heights = reveals + constant("common", "fixity_m").value
    columns = column_limit_n(
        post,
        heights * (longer if shape.brace is None else 1.0),
        pack,
        heights * (longer if sways else 1.0),
    )
    held = bending_limits_n_m(post, pack, free_post_m(reveals))
    words = bends(post, pack, float(free_post_m(reveals.max()))).words
    each = (slice(None), None, None, slice(None), None)
    return worst_of(post, pull[..., None], moments, columns[each], held[each], words)


@dataclass(frozen=True, kw_only=True)
class Brace:
    """The cross braces; ``lengths_m`` one a bent, bolt to bolt.

    ``push_n`` is on the one that is used most, ``most_n`` the most on any.
    """

    section: Section
    lengths_m: Floats
    push_n: float
    most_n: float
    limit_n: float


def size_brace(
    shape: BentShape, bents: Bents, acting: Floats, pack: str, fronts_m: Floats
) -> Brace | None:
    """Pushed and pulled; ``fronts_m`` are the reveals of the front posts, bent by bent."""
    if shape.brace is None:
        return None
    front, back = (role.up_m for role in shape.roles)
    apart = shape.roles[1].back_m - shape.roles[0].back_m

    def long(reveals_m: Floats) -> Floats:
        rise = back - front + reveals_m - shape.brace_foot_m - shape.brace_under_m
        return np.hypot(apart, rise)

    push = np.abs(under_loads(bents, acting, bents.forces.pull_n[:, :, -1])).max(axis=(1, 2))
    limits = column_limit_n(shape.brace, long(bents.kinds.highs_m[:, 0]), pack)
    worst = int((push / limits).argmax())
    return Brace(
        section=shape.brace,
        lengths_m=long(fronts_m),
        push_n=float(push[worst]),
        most_n=float(push.max()),
        limit_n=float(limits[worst]),
    )


def head_n(bents: Bents, acting: Floats, *, braced: bool) -> float:
    """What the bolt at a head holds at worst: its post's pull and shear, and the brace that meets it.

    The beam turns on the bolt, so that the post's shear is its moment below over its length.
    """
    bars = [FRONT_HIGH, BACK]
    pull = under_loads(bents, acting, bents.forces.pull_n[:, :, bars])
    moments = under_loads(bents, acting, bents.forces.moments_n_m[:, :, bars])
    ends = bents.frames.joints_m[:, bents.frames.ends[bars]]
    long = bents.each(np.hypot(*np.moveaxis(ends[:, :, 1] - ends[:, :, 0], -1, 0)))
    shear = (moments[..., 1] - moments[..., 0]) / long[:, :, None]
    held = np.hypot(pull, shear)
    if braced:
        # Wherever it is bolted, the whole of its push is laid on the back one.
        held[..., 1] += np.abs(under_loads(bents, acting, bents.forces.pull_n[:, :, -1]))
    return float(held.max())
