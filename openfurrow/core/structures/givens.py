"""Structure givens: what stands there, its profiles and its spans."""

from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from openfurrow.core.codes.section import known_section
from openfurrow.core.givens import Givens, given
from openfurrow.core.quantities import INCH_M, either
from openfurrow.core.rows.travel import Travel
from openfurrow.core.structures import mover_givens as mover
from openfurrow.core.structures import shelter_givens as shelter
from openfurrow.core.structures import tube_givens as tube
from openfurrow.core.structures.told import NOT_OF, OF_TRAVELS, ON_TUBES, FamilyName

# A table's place in the pattern, or the id of one of no row; then the post's place in it.
A_POST = r"^([1-9][0-9]{0,2}\.[1-9][0-9]{0,2}|[a-z0-9]{1,12})/[1-9][0-9]{0,3}$"
# More posts off their places want another place of the array.
MOST_SHIFTS = 200
PostShift = tuple[Annotated[str, Field(pattern=A_POST)], Annotated[float, Field(ge=-6, le=6)]]
PostName = Annotated[str, AfterValidator(known_section("post"))]
PurlinName = Annotated[str, AfterValidator(known_section("purlin"))]
BeamName = Annotated[str, AfterValidator(known_section("beam"))]
PipeName = Annotated[str, AfterValidator(known_section("pipe"))]
RailName = Annotated[str, AfterValidator(known_section("rail"))]
StrutName = Annotated[str, AfterValidator(known_section("strut"))]
CableName = Literal[
    "wire rope 3/16 in",
    "wire rope 1/4 in",
    "wire rope 5/16 in",
    "wire rope 6 mm",
    "wire rope 8 mm",
    "wire rope 10 mm",
]


class StructureGivens(Givens):
    """The family of the structure and everything that its families are told, side by side."""

    family: FamilyName = given(
        "one post line",
        "What stands there",
        "choice",
        "One post line: an inclined beam turns on each post, held by a strut. Two post lines: short "
        "posts in front, long ones behind, a beam from one to the other. Pipe grid: a pipe along each "
        "of two lines of posts, rails up the slope on both pipes, modules on the rails. Ballast "
        "frame: bents as of two post lines, their feet in weights on the ground. Table on blocks: "
        "purlins on piles of blocks, modules nearly flat. Single pole: each table stands on one pipe, "
        "a cross pipe on its head, rails on that. Turning tube: a tube along each table in bearings on "
        "a line of posts; a drive at the middle one turns it after the sun.",
        "What the merchant sells and the ground allows.",
    )
    span_limit_m: float = given(
        2.6,
        "Longest span",
        "tape",
        "Posts stand no further apart than this.",
        "Span table of the purlin; less under snow.",
        low=0.6,
        high=9,
        usual=(2, 5),
        group="Posts",
        us=102 * INCH_M,
    )
    cantilever_ratio: float = given(
        0.35,
        "End overhang",
        "ratio",
        "Purlin beyond the end post, as a share of the span.",
        "A third balances the end span with the middle ones.",
        low=0,
        high=0.6,
        usual=(0.25, 0.45),
        group="Posts",
    )
    post_section: PostName = given(
        "I 150 x 100 x 14",
        "Post",
        "section:post",
        "Rolled or cold-formed post, galvanised.",
        "What the merchant stocks; the section must carry the moment at the ground.",
        length=60,
        group="Posts",
        us="W6x9",
    )
    post_top_m: float = given(
        0.05,
        "Post above the bolt",
        "tape",
        "Steel beyond the beam's bolt, for the hole's edge.",
        f"{either('2 in', '50 mm')} is usual; slotted tops want more.",
        low=0.02,
        high=0.4,
        usual=(0.04, 0.15),
        group="Posts",
        us=2 * INCH_M,
    )
    shifts: Annotated[tuple[PostShift, ...], Field(max_length=MOST_SHIFTS)] = given(
        (),
        "Posts shifted",
        "shifts",
        "Posts that stand off their even place, along the row: table and post, 2.1/3 for the third "
        "post of table 2.1, and how far, positive toward the row's last post.",
        "Off a drain, a line, a boulder: inside what the span allows.",
        group="Posts",
    )
    beam_section: BeamName = given(
        "C 175 x 64 x 2.5",
        "Inclined beam",
        "section:beam",
        "One on each post, from lower to upper edge, turning on one bolt.",
        "The check below.",
        length=60,
        group="Table",
    )
    purlin_section: PurlinName = given(
        "Z 150 x 64 x 2.0",
        "Purlin",
        "section:purlin",
        "Runs along the row and carries the modules, two to each module row.",
        "Span table, or the check below.",
        length=60,
        group="Table",
    )
    modules_hold_purlins: bool = given(
        True,
        "Modules hold purlins sideways",
        "yes_no",
        "Clamped tight they keep purlins from bending down the slope, from turning and from turning "
        "over. If not, purlins do all of it at once between their beams.",
        "The frame's instructions; not where clamps are let slide, or modules are left out.",
        group="Table",
    )
    flow_below: Literal["may be blocked", "kept clear"] = given(
        "may be blocked",
        "Wind's way below the table",
        "choice",
        "May be blocked: drifted snow, stored goods, tall growth; the figures of both flows are "
        "carried. Kept clear: somebody sees to it for as long as it stands.",
        "Who owns the ground, and what he keeps there.",
        group="Table",
    )
    deflection_divisor: int = given(
        180,
        "Deflection limit, span over",
        "count",
        "Purlins may sag the span divided by this under snow or wind.",
        "180 for racks is usual; the module maker may ask for more.",
        low=60,
        high=600,
        usual=(120, 360),
        group="Table",
    )
    strut_section: StrutName = given(
        "pipe 2 in",
        "Strut",
        "section:strut",
        "Pipe from the post's foot to the beam; named by its bore, so 2 in is 60 mm outside.",
        "The check below.",
        length=60,
        group="Strut",
    )
    strut_reach_m: float = given(
        1.1,
        "Strut meets beam",
        "tape",
        "Distance along the beam from the post bolt to the strut's bolt, on the lower side.",
        "A third of the chord is usual.",
        low=0.2,
        high=3,
        usual=(0.6, 1.6),
        group="Strut",
        us=42 * INCH_M,
    )
    strut_travel_m: float = given(
        0.0,
        "Strut's length is set over",
        "tape",
        "How much shorter than at its longest it can be made, by holes, a slot or a jack; nought for a "
        "plain pipe, which holds one tilt.",
        "Maker's sheet, or the first and the last hole.",
        low=0,
        high=3,
        usual=(0, 1),
        group="Strut",
    )
    strut_held_by: Literal["a bolt in holes", "a slot", "a jack"] = given(
        "a bolt in holes",
        "An adjustable strut is held by",
        "choice",
        "A bolt in holes bears; a slot holds by how hard its bolts press; a jack by its thread, its "
        "handle locked against winding back.",
        "Maker's sheet.",
        group="Strut",
    )
    strut_rated_n: float | None = given(
        None,
        "It is rated for",
        "force",
        "The push and the pull that its holes, slot or jack hold at any length. Left empty: nobody has "
        "looked.",
        "Maker's sheet, the lesser of push and pull, its own safety within.",
        low=100,
        high=1e6,
        usual=(5e3, 5e4),
        group="Strut",
    )
    strut_hole_m: float = given(
        0.025,
        "Strut: hole to hole",
        "tape",
        "How far apart its holes are, from the middle of one to that of the next.",
        "A tape over ten of them.",
        low=0.005,
        high=0.5,
        usual=(0.02, 0.06),
        group="Strut",
        us=INCH_M,
    )
    strut_turn_m: float = given(
        0.005,
        "Jack: one turn",
        "thickness",
        "By how much one whole turn of its handle makes it longer or shorter.",
        "Ten turns and a tape; its thread's pitch, doubled where both ends turn.",
        low=0.0005,
        high=0.05,
        usual=(0.003, 0.012),
        group="Strut",
        us=0.2 * INCH_M,
    )
    strut_foot_m: float = given(
        0.3,
        "Strut meets post",
        "tape",
        "Height of the strut's lower bolt above the ground.",
        "Clear of grass and snow melt; lower takes more off the beam.",
        low=0.05,
        high=2,
        usual=(0.15, 0.6),
        group="Strut",
        us=12 * INCH_M,
    )
    lines_apart_m: float = given(
        1.8,
        "Front line to back line",
        "tape",
        "Level, from the middle of the front posts to that of the back ones; half of it lies on each "
        "side of the table's middle.",
        "About half the table's depth leaves the beam's ends short.",
        low=0.4,
        high=6,
        usual=(1, 3),
        group="Lines",
        us=72 * INCH_M,
    )
    bent_brace: Literal["cross brace", "none"] = given(
        "cross brace",
        "Each bent is braced by",
        "choice",
        "Cross brace: a pipe from low on the front post to the head of the back one. None: both posts "
        "bend, and the ground must hold their feet.",
        "The frame's maker; none only where posts are stiff and deep.",
        group="Lines",
    )
    brace_section: StrutName = given(
        "pipe 1-1/2 in",
        "Cross brace",
        "section:strut",
        "Pushed by wind from one side, pulled by wind from the other; pipe is named by its bore.",
        "The check below.",
        length=60,
        group="Lines",
    )
    brace_foot_m: float = given(
        0.2,
        "Brace and cables meet posts",
        "tape",
        "Height over the ground of the lower bolts: of the brace on the front post, of the cables on "
        "both lines.",
        "Clear of grass and mud; lower bends the post less.",
        low=0.05,
        high=1.5,
        usual=(0.1, 0.4),
        group="Lines",
        us=8 * INCH_M,
    )
    braced_bays: int = given(
        1,
        "Bays crossed by cables",
        "count",
        "So many spans of each table have an X of cables, in the front line and in the back one; they "
        "hold it along the row. Nought: posts bend about their weak axis.",
        "One in the middle of a short table; the checks below.",
        low=0,
        high=20,
        usual=(1, 3),
        group="Lines",
    )
    cable: CableName = given(
        "wire rope 6 mm",
        "Cable",
        "choice",
        "Galvanised wire rope, two to a crossed bay, its ends in grips, tightened by a turnbuckle.",
        "The check below.",
        group="Lines",
        us="wire rope 1/4 in",
    )

    pipe_section: PipeName = given(
        "pipe 2 in",
        "Pipe along the row",
        "section:pipe",
        "One on each line of posts, or on the pole's head; pipe is named by its bore, so 2 in is 60 mm "
        "outside.",
        "The check below.",
        length=60,
        group="Rails",
    )
    rail_section: RailName = given(
        "C 60 x 40 x 2.0",
        "Rail",
        "section:rail",
        "Two under each column of modules, up the slope, clamped to each pipe below.",
        "The check below.",
        length=60,
        group="Rails",
    )
    pole_section: PipeName = given(
        "pipe 4 in",
        "Pole",
        "section:pipe",
        "One under each table; pipe is named by its bore, so 4 in is 114 mm outside.",
        "The check below; painted or galvanised, it stands in the weather for good.",
        length=60,
        group="Pole",
    )
    moved: mover.Moved = mover.MOVED
    flattest_deg: float = mover.FLATTEST
    steepest_deg: float = mover.STEEPEST
    turn_each_way_deg: float = mover.EACH_WAY
    stow_deg: float = mover.STOW
    full_wind: mover.FullWind = mover.FULL_WIND
    away_wind_m_s: float | None = mover.AWAY_WIND
    actuator_on: mover.Half = mover.ACTUATOR_ON
    arm_m: float = mover.ARM
    arm_under_m: float = mover.ARM_UNDER
    foot_down_m: float = mover.FOOT_DOWN
    foot_out_m: float = mover.FOOT_OUT
    drawn_in_m: float = mover.SHORT
    stroke_m: float = mover.STROKE
    actuator_rated_n: float | None = mover.ACTUATOR_RATED
    drive_turns_n_m: float | None = mover.DRIVE_TURNS
    drive_tips_n_m: float | None = mover.DRIVE_TIPS
    past_limit_deg: float = mover.PAST_LIMIT
    cable_loop_m: float = mover.LOOP
    turns_back: tube.TurnsBack = tube.TURNS_BACK
    tube_drive_n_m: float | None = tube.DRIVE
    tube_twist_deg: float = tube.TWIST
    tube_steady_m_s: float | None = tube.STEADY
    tube_coupler_n_m: float | None = tube.COUPLER

    foot_up_m: float = given(
        0.05,
        "Feet over the ground",
        "tape",
        "Floor of the box or tray and what levels it, below the leg's end.",
        "The box's own sheet, and a hand of stone dust where the ground is uneven.",
        low=0,
        high=0.5,
        usual=(0.02, 0.15),
        group="Feet",
        us=2 * INCH_M,
    )
    base_section: StrutName = given(
        "pipe 1-1/2 in",
        "Base rail",
        "section:strut",
        "Ties the two feet of a bent, so that both weights hold against sliding; pipe is named by its "
        "bore.",
        "The check below.",
        length=60,
        group="Feet",
    )

    bare_below: bool = given(
        False,
        "Ground beneath is kept bare",
        "yes_no",
        "Stone or weed cloth under all of the table: it lies too low for a mower, and dry grass burns.",
        "Who looks after it, for as long as it stands.",
        group="Table",
    )

    shelter_share: float | None = shelter.SHARE
    shelter_report: str = shelter.REPORT
    outer_rows: int = shelter.OUTER_ROWS
    end_tables: int = shelter.END_TABLES

    @property
    def on_tubes(self) -> bool:
        """Whether tables lie on tubes that turn."""
        return self.family == ON_TUBES

    @property
    def is_braced(self) -> bool:
        """Whether bents have a cross brace; on the ground nothing else holds them up."""
        return self.bent_brace == "cross brace" or self.family == "ballast frame"

    @property
    def away_wind_counted_m_s(self) -> float | None:
        """The wind that meets a mover away from its stow, where less than the design wind counts."""
        if self.travel is None or not self.travel.tilts or self.full_wind == "at every tilt":
            return None
        return self.away_wind_m_s

    @property
    def travel(self) -> Travel | None:
        """How far a mover goes; None where what stands there stands fixed.

        One that turns alone keeps the tilt that its rows say.
        """
        if self.on_tubes:
            return Travel(
                flattest_deg=0.0,
                steepest_deg=self.steepest_deg,
                turn_deg=0.0,
                stow_deg=self.stow_deg,
                loop_m=self.cable_loop_m,
                rolls=True,
                turns_back=self.turns_back == "turns back from shade",
            )
        if self.family != "single pole" or self.moved == "stands fixed":
            return None
        return Travel(
            flattest_deg=self.flattest_deg,
            steepest_deg=self.steepest_deg,
            turn_deg=0.0 if self.moved == "tilts alone" else self.turn_each_way_deg,
            stow_deg=self.stow_deg,
            loop_m=self.cable_loop_m,
            tilts=self.moved != "turns about the pole",
        )

    def shown(self) -> frozenset[str]:
        """Those that the family stands by; of cables and braces only where there are some."""
        hidden = set(NOT_OF[self.family])
        if not self.strut_travel_m:
            hidden |= OF_TRAVELS
        if self.strut_held_by != "a bolt in holes":
            hidden.add("strut_hole_m")
        if self.strut_held_by != "a jack":
            hidden.add("strut_turn_m")
        if not self.is_braced:
            hidden.add("brace_section")
        if not self.braced_bays:
            hidden.add("cable")
        if self.shelter_share is None:
            hidden |= shelter.OF_SHELTER
        if not self.on_tubes:
            hidden |= mover.NOT_TOLD[self.moved]
        if self.full_wind == "at every tilt":
            hidden.add("away_wind_m_s")
        return super().shown() - hidden
