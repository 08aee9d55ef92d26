"""Profiles that a merchant has and the lists have not: by measures, offered wherever they serve."""

from collections.abc import Iterable
from dataclasses import replace
from typing import Literal

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes.own_section import MEASURES, USES, Made, Shape, made_of, serves
from openfurrow.core.codes.section import section, section_names
from openfurrow.core.givens import Thing, given
from openfurrow.core.materials.lines import Take
from openfurrow.core.quantities import INCH_M, spoken
from openfurrow.core.working import COMMON_PRACTICE

GradeName = Literal[
    "S235",
    "S275",
    "S355",
    "S280GD",
    "S320GD",
    "S350GD",
    "A653-33",
    "A653-50",
    "A653-55",
    "A53-B",
    "A500-C",
    "A992",
    "6060-T66",
    "6063-T5",
    "6063-T6",
    "6005A-T6",
    "6061-T6",
    "6082-T6",
]
PROFILES = "materials.profiles"
MOST_PROFILES = 60
# An outside that lies so near a pipe's nominal bore is likely to be that.
NEAR_BORE_M = 0.6e-3


class ProfileGivens(Thing):
    """One profile by its measures over all; those that its shape has none of are kept, not asked."""

    sold_as: str = given(
        "",
        "Sold as",
        "text",
        "What the merchant calls it; it stands in the list to buy.",
        "Catalogue or quotation.",
        length=40,
    )
    shape: Shape = given(
        "C",
        "Shape",
        "choice",
        "C and Z have lips; a box is a tube with corners; a pipe is named by its bore elsewhere, here "
        "by its outside. What has another shape is not reckoned.",
        "Catalogue; a look at its end.",
    )
    depth_m: float = given(
        0.15,
        "Depth over all",
        "caliper",
        "Of a pipe its outside.",
        "Catalogue, or a caliper over it.",
        low=0.02,
        high=0.5,
        usual=(0.04, 0.25),
    )
    width_m: float = given(
        0.064,
        "Width over all",
        "caliper",
        "Its flange, of a box the other side. Of a Z the narrower flange, as if both were so.",
        "Catalogue, or a caliper over it.",
        low=0.015,
        high=0.4,
        usual=(0.03, 0.1),
    )
    lip_m: float = given(
        0.018,
        "Lip",
        "caliper",
        "From the outer face of the flange to the lip's end.",
        "Catalogue, or a caliper.",
        low=0.005,
        high=0.08,
        usual=(0.01, 0.025),
    )
    wall_m: float = given(
        0.002,
        "Wall",
        "caliper",
        "Steel without its zinc; of an I the web.",
        "Catalogue; a caliper takes zinc for steel, some 0.04 mm.",
        low=0.0009,
        high=0.02,
        usual=(0.0015, 0.006),
    )
    flange_m: float = given(
        0.006,
        "Wall of the flange",
        "caliper",
        "Of an I, where it stands out from the web.",
        "Catalogue, or a caliper.",
        low=0.0009,
        high=0.025,
        usual=(0.004, 0.012),
        us=0.25 * INCH_M,
    )
    grade: GradeName = given(
        "S350GD",
        "Grade",
        "choice",
        "Its strength; those that begin with a 6 are aluminium. What comes in none of them is given "
        "the weaker one next to it.",
        "Mill certificate or catalogue.",
        us="A653-50",
    )

    def shown(self) -> frozenset[str]:
        """The measures of its shape."""
        others = set(OF_MEASURE.values()) - {OF_MEASURE[one] for one in MEASURES[self.shape]}
        return super().shown() - others

    @property
    def called(self) -> str:
        """As the merchant has it, else by its measures."""
        return self.sold_as.strip() or (self.made.name if self.made else "")

    @property
    def made(self) -> Made | None:
        """What it is; None where `wrong` says why it is not."""
        return None if self.wrong else made_of(self.shape, self._measures, self.grade)

    @property
    def wrong(self) -> str:
        """What keeps it from being reckoned."""
        try:
            made_of(self.shape, self._measures, self.grade)
        except ValueError as error:
            return str(error)
        return ""

    @property
    def _measures(self) -> dict[str, float]:
        return {name: getattr(self, given_by) for name, given_by in OF_MEASURE.items()}

    @property
    def serves(self) -> tuple[str, ...]:
        """For what it is offered."""
        made = self.made
        return tuple(use for use in USES if serves(made, use)) if made else ()


OF_MEASURE = {
    "depth_m": "depth_m",
    "width_m": "width_m",
    "lip_m": "lip_m",
    "web_m": "wall_m",
    "flange_m": "flange_m",
}


def offered(profiles: Iterable[ProfileGivens], use: str) -> tuple[str, ...]:
    """Names of those that serve a use, each once."""
    names = [one.made.name for one in profiles if one.made and use in one.serves]
    return tuple(dict.fromkeys(names))


def with_sellers_names(takes: tuple[Take, ...], profiles: Iterable[ProfileGivens]) -> tuple[Take, ...]:
    """What is made of an own profile says what the merchant calls it."""
    names = {one.made.name: one.sold_as.strip() for one in profiles if one.made and one.sold_as.strip()}

    def named(take: Take) -> Take:
        sold = next((sold for name, sold in names.items() if f", {name}," in f"{take.item},"), "")
        return replace(take, where=f"Sold as {sold}. {take.where}") if sold else take

    return tuple(named(take) for take in takes) if names else takes


def profile_checks(profiles: tuple[ProfileGivens, ...]) -> tuple[Check, ...]:
    """Whether every own profile can be reckoned, and whether a pipe's outside is one."""
    if not profiles:
        return ()
    wrong = [f"{_word(one, at)} {one.wrong}" for at, one in enumerate(profiles) if one.wrong]
    bores = [
        f"{_word(one, at)}: {name} is {spoken(section(name).depth_m, 'caliper')} outside"
        for at, one in enumerate(profiles)
        if one.shape == "pipe" and (name := bore_of(one.depth_m))
    ]
    return (
        holds(
            "materials",
            "own_profiles",
            "Own profiles can be reckoned",
            not wrong,
            "; ".join(wrong) or "all of them",
            "measures that can be bent so, and were looked at",
            remedy="Hold its measures against the catalogue; one that is not reckoned is not offered.",
            source=COMMON_PRACTICE,
            given=PROFILES,
            otherwise="look",
        ),
        holds(
            "materials",
            "own_bores",
            "An own pipe's outside is not its bore",
            not bores,
            "; ".join(bores) or "none is as wide as a nominal bore",
            "measured over the outside",
            remedy="Put a caliper over it: pipe is named by its bore. A tube that is sold by its "
            "outside is right as it is.",
            source=COMMON_PRACTICE,
            given=PROFILES,
            otherwise="look",
        ),
    )


def bore_of(outside_m: float) -> str:
    """The listed pipe whose nominal bore is such an outside; none where there is none."""
    for name in section_names("pipe"):
        if abs(_inches(name.split()[1]) * INCH_M - outside_m) <= NEAR_BORE_M:
            return name
    return ""


def _inches(nominal: str) -> float:
    """2-1/2 as it is written."""
    whole, _, part = nominal.partition("-")
    top, _, bottom = part.partition("/")
    return float(whole) + (float(top) / float(bottom) if bottom else 0.0)


def _word(one: ProfileGivens, at: int) -> str:
    return one.called or f"number {at + 1}"
