"""Posts that were tested before a job: which, how deep, how they were loaded and how they moved."""

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import AfterValidator, Field, field_validator

from openfurrow.core.codes.section import known_section
from openfurrow.core.givens import Thing, given
from openfurrow.core.quantities import FOOT_M, INCH_M, POUND_FORCE_N, spoken

PostName = Annotated[str, AfterValidator(known_section("post"))]
PipeName = Annotated[str, AfterValidator(known_section("pipe"))]
TestedFooting = Literal["driven post", "ground screw", "bored pier"]
NOT_OF: dict[TestedFooting, frozenset[str]] = {
    "driven post": frozenset({"across_m", "shaft", "torque_n_m"}),
    "ground screw": frozenset({"post"}),
    "bored pier": frozenset({"post", "shaft", "torque_n_m"}),
}
Loaded = Literal["pulled", "pressed", "pushed sideways"]
Load = Annotated[float, Field(gt=0, le=2e6)]
Moved = Annotated[float, Field(ge=0, le=1)]
Reading = tuple[Load, Moved]


class LoadTestGivens(Thing):
    """One post, screw or pier that was put in for a test and loaded step by step."""

    name: str = given("", "Called", "text", "As it is flagged on site.", "The flag.", length=40)
    loaded: Loaded = given(
        "pulled",
        "It was",
        "choice",
        "Pulled: what wind lifts with. Pressed: what weight and snow press with. Pushed sideways: what "
        "wind tips with.",
        "The test sheet.",
    )
    readings: Annotated[tuple[Reading, ...], Field(min_length=1, max_length=60)] = given(
        ((5e3, 0.003),),
        "Loads and movement",
        "held",
        "One a line: a load, and how far the post had moved at the ground when it came to rest.",
        "Scale and dial, read at every step; from nought on, each load more than the one before.",
        us=((1000 * POUND_FORCE_N, INCH_M / 8),),
        caution="Nobody stands in line with chain, hook or jack, nor under what lifts: what lets go "
        "strikes. The locate has answered before a post is driven.",
    )
    depth_m: float = given(
        1.8,
        "Depth in the ground",
        "tape",
        "Of what was tested, to its foot.",
        "The tape.",
        low=0.3,
        high=6,
        usual=(1.2, 2.4),
        us=6 * FOOT_M,
    )
    height_m: float = given(
        1.0,
        "Pushed at a height of",
        "tape",
        "From the ground to the hook.",
        "The tape.",
        low=0.05,
        high=6,
        usual=(0.5, 1.5),
        us=3 * FOOT_M,
    )
    footing: TestedFooting = given(
        "driven post",
        "It was a",
        "choice",
        "A post says nothing of a screw or of a pier: each speaks for its own kind alone.",
        "What stands there.",
    )
    across_m: float = given(
        0.25,
        "Its helix, or the pier",
        "tape",
        "Diameter of the helix, or of the pier as it was bored.",
        "The tape.",
        low=0.05,
        high=1.5,
        usual=(0.15, 0.6),
        us=10 * INCH_M,
    )
    shaft: PipeName = given(
        "pipe 3 in",
        "Its shaft",
        "section:pipe",
        "Pipe of the screw; named by its bore.",
        "Its sheet.",
        length=40,
    )
    torque_n_m: float | None = given(
        None,
        "It took a torque of",
        "torque",
        "As its foot came to rest. Left empty: nobody read it.",
        "The drive's gauge.",
        low=10,
        high=2e5,
        usual=(1e3, 1.5e4),
    )
    post: PostName = given(
        "I 150 x 100 x 14",
        "The post",
        "section:post",
        "Its profile: what one holds is reckoned for the post that is planned.",
        "What was driven for the test; most like the posts that are planned.",
        length=40,
        us="W6x9",
    )
    east_m: float = given(
        0.0,
        "East",
        "coordinate",
        "East of the origin. It speaks for the soil of the hole that is nearest.",
        "Two tapes.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
    )
    north_m: float = given(
        0.0,
        "North",
        "coordinate",
        "North of the origin.",
        "Two tapes.",
        low=-5000,
        high=5000,
        usual=(-100, 100),
    )
    left_out: str = given(
        "",
        "It does not count, because",
        "text",
        "Left empty: it counts. A test that held little is no reason; one that was done wrongly is.",
        "Whoever tested: a stone, a bent post, a scale that slipped.",
        length=200,
    )

    @field_validator("readings")
    @classmethod
    def _rising(cls, readings: tuple[Reading, ...]) -> tuple[Reading, ...]:
        if any(after[0] <= before[0] for before, after in pairwise(readings)):
            raise ValueError("each load must be more than the one before it")
        return readings

    def shown(self) -> frozenset[str]:
        """A height only of a push sideways, and of each footing what it is made of."""
        names = super().shown() - NOT_OF[self.footing]
        if self.loaded != "pulled":
            names -= {"torque_n_m"}
        return names if self.loaded == "pushed sideways" else names - {"height_m"}

    @property
    def called(self) -> str:
        """Its name, or what was done with it."""
        return self.name.strip() or f"one {self.loaded}"

    @property
    def what(self) -> str:
        """What was tested, in few words."""
        if self.footing == "driven post":
            return self.post
        wide = spoken(self.across_m, "tape")
        return f"pier {wide}" if self.footing == "bored pier" else f"{self.shaft}, helix {wide}"

    def held(self, moved_m: float) -> tuple[float, bool]:
        """The load at which it had moved so far, and whether it ever did.

        Between two readings it is taken to move evenly: no more than it held, for what gives way
        moves more at each step. One that never moved so far held its greatest load at least.
        """
        last_n, last_m = 0.0, 0.0
        for load_n, at_m in self.readings:
            if at_m >= moved_m:
                share = (moved_m - last_m) / (at_m - last_m) if at_m > last_m else 0.0
                return last_n + share * (load_n - last_n), True
            last_n, last_m = load_n, at_m
        return last_n, False
