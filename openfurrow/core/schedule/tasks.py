"""What has to be done, how long it takes this crew, and what comes before what."""

import math
from dataclasses import dataclass, replace
from typing import Any

from openfurrow.core.schedule.crew import BY_HAND, Crew, Task, usual_pace
from openfurrow.core.schedule.givens import Comes, ScheduleGivens

POST_DRIVER: Comes = "post driver"
AUGER: Comes = "auger"


@dataclass(frozen=True)
class PierWork:
    """What piers take: so many bags, none where a truck comes; days until they may be loaded."""

    bags: float
    cure_days: int


@dataclass(frozen=True, kw_only=True)
class ArrayWork:
    """What is done for one array that is to be built; ``soils`` are those its posts stand in.

    ``weighed``: it stands in weights on the ground, and nothing of it is driven; ``piled``: it lies on
    blocks. ``piers`` are poured instead, ``screwed`` posts are bolted on screws.
    """

    id: str
    name: str
    posts: int
    modules: int
    strings: int
    soils: tuple[str, ...]
    weighed: bool = False
    piled: bool = False
    piers: PierWork | None = None
    screwed: bool = False

    @property
    def bags(self) -> int:
        """Bags of concrete that are mixed for its piers."""
        return math.ceil(self.piers.bags - 1e-9) if self.piers else 0


@dataclass(frozen=True, kw_only=True)
class WayWork:
    """What is done between the arrays and the building.

    ``circuit_m`` is every circuit times its way, ``back_m2`` the ground that is put back after it,
    ``cover_m2`` what is covered under the tables, ``fence_m`` the fence that is put up.
    ``glued``: the joints are. Cable without conduit has no joints.
    """

    dug_m: float
    by_hand_m: float
    joints: int
    glued: bool
    cable: bool
    circuit_m: float
    inverters: int
    soils: tuple[str, ...]
    back_m2: float = 0.0
    cover_m2: float = 0.0
    fence_m: float = 0.0


def tasks_of(
    arrays: tuple[ArrayWork, ...], way: WayWork, givens: ScheduleGivens, *, named: bool
) -> tuple[Task, ...]:
    """Every task, after those it follows. ``named``: there are several arrays, so each says whose."""
    crew = Crew(givens.people)
    own = [_of_array(crew, one, givens, named=named) for one in arrays]
    driven = tuple((f"{one.id}:{'pour' if one.piers else 'drive'}", 0) for one in arrays)
    plugged = tuple((f"{one.id}:strings", 0) for one in arrays)
    glazed = tuple((f"{one.id}:modules", 0) for one in arrays)
    return (
        *(task for tasks in own for task in tasks),
        *_of_way(crew, way, givens, driven, plugged),
        *_of_ground(crew, way, givens, driven, glazed),
    )


@dataclass(frozen=True, kw_only=True)
class _Step:
    """What is done for every array: ``rate`` is the given of its pace, ``of`` what is counted.

    ``pace`` is what the usual one is called, where not as the step; ``by`` the given that says which
    machine does it. ``wait_days`` are office days between the step before and this one.
    """

    key: str
    words: str
    rate: str
    of: str
    pace: str = ""
    before: str = ""
    wait_days: int = 0
    needs: tuple[Comes, ...] = ()
    machine: str = ""
    by: str = ""
    digs: bool = False
    lifts: bool = False
    pours: bool = False
    inspected: bool = False


STEPS = (
    _Step(key="stake", words="Set out the posts", rate="stake_per_h", of="posts", digs=True),
    _Step(
        key="drive",
        words="Drive the posts",
        rate="drive_per_h",
        of="posts",
        before="stake",
        needs=("posts and frame", POST_DRIVER),
        machine=POST_DRIVER,
        by="post_machine",
        digs=True,
    ),
    _Step(
        key="frame",
        words="Build the frame",
        rate="frame_per_h",
        of="modules",
        before="drive",
        needs=("posts and frame",),
        lifts=True,
    ),
    _Step(
        key="modules",
        words="Set the modules",
        rate="modules_per_h",
        of="modules",
        before="frame",
        needs=("modules",),
        lifts=True,
    ),
    _Step(
        key="strings",
        words="Plug and tie the strings",
        rate="strings_per_h",
        of="strings",
        before="modules",
        needs=("conduit and wire",),
    ),
)


# Weights take the place of posts that are driven.
WEIGHED: dict[str, Any] = {
    "pace": "fill",
    "words": "Set and fill the boxes",
    "rate": "boxes_per_h",
    "needs": ("posts and frame",),
    "machine": "",
    "by": "",
    "digs": False,
}
# So do piles of blocks.
PILED: dict[str, Any] = {
    **WEIGHED,
    "pace": "pile",
    "words": "Level the ground and lay the piles",
    "rate": "piles_per_h",
}
# So do screws, with a machine that bores.
SCREWED: dict[str, Any] = {
    "pace": "screw",
    "words": "Turn in the screws",
    "rate": "screws_per_h",
    "needs": ("posts and frame", AUGER),
    "machine": AUGER,
    "by": "",
}
OFFICE_DAYS, WEEK_DAYS = 5, 7


def _poured(one: ArrayWork, piers: PierWork, givens: ScheduleGivens) -> tuple[_Step, ...]:
    """What takes the place of driving: bore, have it seen, stand the posts, pour."""
    by_hand = givens.bore_machine == "two-person auger"
    bore = _Step(
        key="bore",
        words="Bore the holes",
        rate="bore_per_h",
        of="posts",
        before="stake",
        needs=() if by_hand else (AUGER,),
        machine="" if by_hand else AUGER,
        by="bore_machine",
        digs=True,
    )
    seen = _Step(
        key="bores_seen",
        words="Open bores are inspected",
        rate="",
        of="",
        pace="inspect",
        before="bore",
        wait_days=givens.notice_days,
        inspected=True,
    )
    stand = _Step(
        key="stand",
        words="Stand and brace the posts",
        rate="stand_per_h",
        of="posts",
        before="bores_seen" if givens.bores_seen else "bore",
        needs=("posts and frame",),
    )
    bagged = piers.bags > 0
    pour = _Step(
        key="pour",
        words="Mix and pour the piers" if bagged else "Pour the piers",
        rate="bags_per_h" if bagged else "pour_per_h",
        of="bags" if bagged else "posts",
        pace="mix" if bagged else "pour",
        before="stand",
        needs=("concrete",),
        pours=True,
    )
    return (bore, *((seen,) if givens.bores_seen else ()), stand, pour)


def _steps(one: ArrayWork, givens: ScheduleGivens) -> tuple[_Step, ...]:
    """What is done for it, in order."""
    if one.piers is None:
        others = ((one.weighed, WEIGHED), (one.piled, PILED), (one.screwed, SCREWED))
        instead = next((parts for is_so, parts in others if is_so), {})
        return tuple(replace(step, **instead) if step.key == "drive" else step for step in STEPS)
    stake, _, frame, *rest = STEPS
    # Concrete cures on days off too.
    cured = math.ceil(one.piers.cure_days * OFFICE_DAYS / WEEK_DAYS)
    on_piers = replace(frame, before="pour", wait_days=cured)
    return (stake, *_poured(one, one.piers, givens), on_piers, *rest)


def _of_array(crew: Crew, one: ArrayWork, givens: ScheduleGivens, *, named: bool) -> tuple[Task, ...]:
    def said(words: str) -> str:
        return f"{one.name}: {words[:1].lower()}{words[1:]}" if named else words

    return tuple(
        crew.task(
            usual_pace(
                step.pace or step.key, getattr(givens, step.by) if step.by else BY_HAND, one.soils
            ),
            getattr(givens, step.rate) if step.rate else None,
            quantity=getattr(one, step.of) if step.of else 1,
            id=f"{one.id}:{step.key}",
            array=one.id,
            name=said(step.words),
            kind="count",
            machine=step.machine,
            after=((f"{one.id}:{step.before}", step.wait_days),) if step.before else (),
            needs=step.needs,
            digs=step.digs,
            lifts=step.lifts,
            pours=step.pours,
            inspected=step.inspected,
        )
        for step in _steps(one, givens)
    )


def _of_way(
    crew: Crew,
    way: WayWork,
    givens: ScheduleGivens,
    driven: tuple[tuple[str, int], ...],
    plugged: tuple[tuple[str, int], ...],
) -> tuple[Task, ...]:
    """The way from the array to the building: opened, laid, looked at, closed, wired, looked at."""
    dug = _dug(crew, way, givens)
    open_ = ((dug[-1].id, 0),) if dug else ()
    filled = (_filled(crew, way, givens),) if way.dug_m > 0 else ()
    closed = "backfill" if filled else "inspect"
    restored = (_restored(crew, way.back_m2, givens),) if way.back_m2 > 0 else ()
    wired = () if way.cable else (_pulled(crew, way, givens, closed),)
    after = ((closed if way.cable else "pull", 0), *plugged)
    return (
        *dug,
        *_laid(crew, way, givens, (*open_, *driven)),
        *filled,
        *restored,
        *wired,
        *_landed(crew, way, givens, after),
    )


def _held(givens: ScheduleGivens) -> dict[str, Any]:
    """The machine that digs and fills, where one is hired, and what its tasks wait for."""
    machine = givens.dig_machine
    hired: Comes | None = None if machine == BY_HAND else machine  # type: ignore[assignment]
    return {"machine": hired or "", "needs": (hired,) if hired else ()}


def _dug(crew: Crew, way: WayWork, givens: ScheduleGivens) -> list[Task]:
    """By hand near what is buried, by the machine elsewhere."""
    machine = givens.dig_machine
    by_hand = way.dug_m if machine == BY_HAND else way.by_hand_m
    by_machine = way.dug_m - by_hand
    held = _held(givens)
    tasks: list[Task] = []
    if by_hand > 0:
        tasks.append(
            crew.task(
                usual_pace("dig", BY_HAND, way.soils),
                givens.hand_dig_m_per_h,
                quantity=by_hand,
                id="hand",
                array="",
                name="Dig by hand" if machine == BY_HAND else "Dig by hand near buried lines",
                kind="run",
                digs=True,
            )
        )
    if by_machine > 0:
        tasks.append(
            crew.task(
                usual_pace("dig", machine, way.soils),
                givens.dig_m_per_h,
                quantity=by_machine,
                id="dig",
                array="",
                name="Dig the trench",
                kind="run",
                after=tuple((one.id, 0) for one in tasks),
                digs=True,
                **held,
            )
        )
    return tasks


def _laid(
    crew: Crew, way: WayWork, givens: ScheduleGivens, after: tuple[tuple[str, int], ...]
) -> tuple[Task, Task]:
    """Conduit or cable, and the look at it before anything is closed."""
    # It comes up at the first post of every array.
    lay = crew.task(
        usual_pace("pull") if way.cable else usual_pace("conduit"),
        givens.pull_m_per_h if way.cable else givens.joints_per_h,
        quantity=way.circuit_m if way.cable else way.joints,
        id="lay",
        array="",
        name="Lay the cable" if way.cable else "Lay the conduit",
        kind="run" if way.cable else "count",
        after=after,
        needs=("conduit and wire",),
        glues=way.glued,
    )
    seen = crew.task(
        usual_pace("inspect"),
        None,
        quantity=1,
        id="inspect",
        array="",
        name="Open trench is inspected" if way.dug_m > 0 else "What is laid is inspected",
        kind="count",
        after=(("lay", givens.notice_days),),
        inspected=True,
    )
    return lay, seen


def _filled(crew: Crew, way: WayWork, givens: ScheduleGivens) -> Task:
    held = _held(givens)
    return crew.task(
        usual_pace("backfill", givens.dig_machine),
        givens.backfill_m_per_h,
        quantity=way.dug_m,
        id="backfill",
        array="",
        name="Backfill the trench",
        kind="run",
        after=(("inspect", 0),),
        **held,
    )


def _pulled(crew: Crew, way: WayWork, givens: ScheduleGivens, closed: str) -> Task:
    return crew.task(
        usual_pace("pull"),
        givens.pull_m_per_h,
        quantity=way.circuit_m,
        id="pull",
        array="",
        name="Pull the wires",
        kind="run",
        after=((closed, 0),),
        needs=("conduit and wire",),
    )


def _landed(
    crew: Crew, way: WayWork, givens: ScheduleGivens, after: tuple[tuple[str, int], ...]
) -> tuple[Task, Task]:
    """The inverters, and the look at the whole."""
    land = crew.task(
        usual_pace("land"),
        None if givens.inverter_h is None else 1 / givens.inverter_h,
        quantity=way.inverters,
        id="land",
        array="",
        name="Land and test the inverters",
        kind="count",
        machine="electrician",
        after=after,
        needs=("inverter",),
    )
    final = crew.task(
        usual_pace("inspect"),
        None,
        quantity=1,
        id="final",
        array="",
        name="The whole is inspected",
        kind="count",
        after=(("land", givens.notice_days),),
        inspected=True,
    )
    return land, final


def _of_ground(
    crew: Crew,
    way: WayWork,
    givens: ScheduleGivens,
    driven: tuple[tuple[str, int], ...],
    glazed: tuple[tuple[str, int], ...],
) -> tuple[Task, ...]:
    """Cloth and stone once nothing is dug there any more; the fence when no truck has to pass."""
    closed = (("backfill" if way.dug_m > 0 else "inspect", 0),)
    cover = ("cover", "Cover the ground under the tables", "area", driven, False)
    fence = ("fence", "Put up the fence", "run", glazed, True)
    wanted = (
        (way.cover_m2, givens.cover_m2_per_h, cover),
        (way.fence_m, givens.fence_m_per_h, fence),
    )
    return tuple(
        crew.task(
            usual_pace(id_),
            said,
            quantity=quantity,
            id=id_,
            array="",
            name=name,
            kind=kind,
            after=(*closed, *before),
            needs=("posts and frame",),
            digs=digs,
        )
        for quantity, said, (id_, name, kind, before, digs) in wanted
        if quantity > 0
    )


def _restored(crew: Crew, back_m2: float, givens: ScheduleGivens) -> Task:
    """Opened ground is put back once the trench is filled."""
    return crew.task(
        usual_pace("restore"),
        givens.restore_m2_per_h,
        quantity=back_m2,
        id="restore",
        array="",
        name="Put the ground back",
        kind="area",
        after=(("backfill", 0),),
    )
