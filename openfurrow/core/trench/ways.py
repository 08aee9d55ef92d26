"""The ways as a tree: a trunk to the wall and spurs that run into it; what is shared is dug once."""

from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from openfurrow.core.lacking import Lacking
from openfurrow.core.site.plan import SitePlan
from openfurrow.core.site.ways import SpurGivens
from openfurrow.core.structures.supports import SupportPlaces
from openfurrow.core.trench.route import Profile, profile_of

Floats = NDArray[np.float64]

# Two places nearer than this are one.
SAME_M = 1e-6


@dataclass(frozen=True, kw_only=True)
class Way:
    """A line of bends ``points_m`` (n, 2) that ends at the wall, or ``joins_m`` along ``into``.

    ``array`` is the number of the array whose post it begins at; None where it begins in the open.
    ``drawn`` is false for one that was taken straight because nobody drew it. ``given`` is its path.
    """

    name: str
    points_m: Floats
    array: int | None
    drawn: bool = True
    into: int | None = None
    joins_m: float = 0.0
    given: str = "site.route"

    @property
    def at_m(self) -> Floats:
        """Chainage of each bend."""
        steps = np.hypot(*np.diff(self.points_m, axis=0).T) if len(self.points_m) > 1 else []
        return np.concatenate(([0.0], np.cumsum(steps)))


@dataclass(frozen=True, kw_only=True)
class Stretch:
    """A piece of one way between two places where ways meet: dug once, for all that it ``carries``.

    ``carries`` are the numbers of the arrays whose wires pass. ``at_wall``: it ends at the building.
    """

    name: str
    line: Profile
    carries: tuple[int, ...]
    at_wall: bool
    given: str


@dataclass(frozen=True, kw_only=True)
class Tree:
    """Every way, each array's own line of bends to the wall from its ``start_posts``, and the pieces.

    ``idle`` are spurs that carry nothing, each with the reason.
    """

    ways: tuple[Way, ...]
    start_posts: tuple[int, ...]
    points_m: tuple[Floats, ...]
    stretches: tuple[Stretch, ...]
    idle: tuple[str, ...]

    def given_of(self, array: int) -> str:
        """The path of the way that begins at an array; that of the trunk before any is drawn."""
        return next((way.given for way in self.ways if way.array == array), "site.route")


def _apart(points: Floats) -> Floats:
    """A bend given twice, or on the post itself, is no bend."""
    steps = np.hypot(*np.diff(points, axis=0).T)
    return points[np.concatenate(([True], steps > SAME_M))]


def _nearest_post(places: SupportPlaces, to: Floats) -> int:
    """Which post stands nearest to a place."""
    away = np.hypot(places.east_m - to[0], places.north_m - to[1])
    # Of posts that stand as near as each other the first: not the one that rounding prefers.
    return int(np.argmax(away <= away.min() + SAME_M))


def _foot(way: Way, places: Floats) -> tuple[Floats, Floats]:
    """The chainage along a way nearest to each of ``places`` (n, 2), and how far each is from it."""
    if len(way.points_m) < 2:
        return np.zeros(len(places)), np.hypot(*(places - way.points_m[0]).T)
    start, run = way.points_m[:-1], np.diff(way.points_m, axis=0)
    long = np.hypot(*run.T)
    share = np.clip(np.einsum("nkx,kx->nk", places[:, None] - start, run) / long**2, 0.0, 1.0)
    off = np.hypot(*np.moveaxis(start + share[..., None] * run - places[:, None], -1, 0))
    best = off.argmin(axis=1)
    every = np.arange(len(places))
    return way.at_m[:-1][best] + share[every, best] * long[best], off[every, best]


def _place(way: Way, at_m: float) -> Floats:
    return np.array([np.interp(at_m, way.at_m, axis) for axis in way.points_m.T])


def _joined(ways: list[Way], place: Floats) -> tuple[int, float]:
    """The way that passes nearest to a place, and where along it."""
    feet = [_foot(way, place[None]) for way in ways]
    into = int(np.argmin([off[0] for _, off in feet]))
    return into, float(feet[into][0][0])


def _spur(
    ways: list[Way], name: str, array: int, places: SupportPlaces, spur: SpurGivens
) -> tuple[Way, int]:
    """A drawn spur from the array's nearest post; from its last bend straight into the nearest way."""
    bends = np.array(spur.points, dtype=float)
    post = _nearest_post(places, bends[0])
    into, joins = _joined(ways, bends[-1])
    line = np.vstack((_at(places, post), bends, _place(ways[into], joins)))
    return Way(
        name=name,
        points_m=_apart(line),
        array=array,
        into=into,
        joins_m=joins,
        given=f"site.spurs.{spur.id}.points",
    ), post


def _straight(ways: list[Way], name: str, array: int, places: SupportPlaces) -> tuple[Way, int]:
    """The shortest way there is from any post of the array: nobody drew one."""
    posts = np.column_stack((places.east_m, places.north_m))
    feet = [_foot(way, posts) for way in ways]
    into = int(np.argmin([off.min() for _, off in feet]))
    post = int(feet[into][1].argmin())
    joins = float(feet[into][0][post])
    line = np.vstack((posts[post], _place(ways[into], joins)))
    return Way(
        name=name,
        points_m=_apart(line),
        array=array,
        drawn=False,
        into=into,
        joins_m=joins,
        given="site.spurs",
    ), post


def _at(places: SupportPlaces, post: int) -> Floats:
    return np.array([places.east_m[post], places.north_m[post]])


def tree_of(
    site: SitePlan, ids: tuple[str, ...], names: tuple[str, ...], places: tuple[SupportPlaces, ...]
) -> Tree:
    """The ways of all arrays. The trunk is that of the first one that has no spur of its own.

    Raises Lacking before a way to the building is drawn.

    It is not that of the nearest: an array that is put in must not take it from another.
    """
    usable, idle = _usable(site.spurs, ids)
    drawn = np.array(site.route_m, dtype=float).reshape(-1, 2)
    if not drawn.size:
        raise Lacking(("site.route",))
    posts: dict[int, int] = {}
    free = [number for number in range(len(ids)) if number not in usable]
    if free:
        begins = free.pop(0)
        posts[begins] = _nearest_post(places[begins], drawn[0])
        trunk = _apart(np.vstack((_at(places[begins], posts[begins]), drawn)))
        ways = [Way(name="trunk", points_m=trunk, array=begins)]
    else:
        ways = [Way(name="trunk", points_m=_apart(drawn), array=None)]
    for number, spur in usable.items():
        way, posts[number] = _spur(ways, names[number], number, places[number], spur)
        ways.append(way)
    among = list(ways)
    for number in free:
        way, posts[number] = _straight(among, names[number], number, places[number])
        ways.append(way)
    paths = {way.array: _path(ways, index) for index, way in enumerate(ways) if way.array is not None}
    return Tree(
        ways=tuple(ways),
        start_posts=tuple(posts[number] for number in range(len(ids))),
        points_m=tuple(_to_wall(ways, paths[number]) for number in range(len(ids))),
        stretches=_stretches(site, ways, paths),
        idle=idle,
    )


def _usable(
    spurs: tuple[SpurGivens, ...], ids: tuple[str, ...]
) -> tuple[dict[int, SpurGivens], tuple[str, ...]]:
    """The spur of each array by its number, and why the others carry nothing."""
    found: dict[int, SpurGivens] = {}
    idle = []
    for count, spur in enumerate(spurs):
        title = f"way {count + 1}"
        if not spur.array:
            idle.append(f"{title} is of no array")
        elif spur.array not in ids:
            idle.append(f"{title} is of an array that is gone")
        elif not spur.points:
            idle.append(f"{title} has no bend yet")
        elif ids.index(spur.array) in found:
            idle.append(f"{title} is a second one of its array")
        else:
            found[ids.index(spur.array)] = spur
    return found, tuple(idle)


# Ways that wires follow one after the other: the way's number and the chainage at which they enter it.
Path = list[tuple[int, float]]


def _path(ways: list[Way], index: int) -> Path:
    path: Path = [(index, 0.0)]
    while (way := ways[path[-1][0]]).into is not None:
        path.append((way.into, way.joins_m))
    return path


def _to_wall(ways: list[Way], path: Path) -> Floats:
    """Every bend from the array to the wall."""
    parts = []
    for index, enters in path:
        way = ways[index]
        parts += [_place(way, enters)[None], way.points_m[way.at_m > enters + SAME_M]]
    return _apart(np.vstack(parts))


def _stretches(site: SitePlan, ways: list[Way], paths: dict[int, Path]) -> tuple[Stretch, ...]:
    """Each way cut where another runs into it; pieces that nothing passes are not dug."""
    found = []
    for index, way in enumerate(ways):
        length = float(way.at_m[-1])
        enters = {array: at for array, path in paths.items() for number, at in path if number == index}
        cuts = sorted({0.0, length, *(min(at, length) for at in enters.values())})
        pieces = [(low, high) for low, high in pairwise(cuts) if high - low > SAME_M]
        for number, (low, high) in enumerate(pieces):
            carries = tuple(sorted(array for array, at in enters.items() if at <= low + SAME_M))
            if not carries:
                continue
            inner = (way.at_m > low + SAME_M) & (way.at_m < high - SAME_M)
            points = np.vstack((_place(way, low), way.points_m[inner], _place(way, high)))
            part = f", part {number + 1}" if len(pieces) > 1 else ""
            found.append(
                Stretch(
                    name=f"{way.name}{part}",
                    line=profile_of(site, points),
                    carries=carries,
                    at_wall=way.into is None and high == length,
                    given=way.given,
                )
            )
    return tuple(found)
