"""A merchant's own section, named by its measures: what it is can be read off its name alone.

C and Z 180 x 64 x 20 x 1.8 S350GD: depth, flange, lip, wall. I 100 x 60 x 4 x 6 S235: depth, flange,
web, wall of the flange. box 60 x 40 x 2.5 6061-T6: depth, width, wall. pipe 60.3 x
3.2 A53-B: outside, wall. All in millimetres over all, then the grade.
"""

import math
import re
from dataclasses import dataclass
from typing import Literal

from openfurrow.core.codes import constant
from openfurrow.core.codes.metal import Grade, grade, grade_names

Shape = Literal["C", "Z", "I", "box", "pipe"]
MEASURES: dict[Shape, tuple[str, ...]] = {
    "C": ("depth_m", "width_m", "lip_m", "web_m"),
    "Z": ("depth_m", "width_m", "lip_m", "web_m"),
    "I": ("depth_m", "width_m", "web_m", "flange_m"),
    "box": ("depth_m", "width_m", "web_m"),
    "pipe": ("depth_m", "web_m"),
}
WORDS = {
    "depth_m": "depth",
    "width_m": "width",
    "lip_m": "lip",
    "web_m": "wall",
    "flange_m": "wall of the flange",
}
# What a profile of a rack may be, so that a slip between inches and millimetres is caught.
BOUNDS_M = {
    "depth_m": (0.02, 0.5),
    "width_m": (0.015, 0.4),
    "lip_m": (0.005, 0.08),
    "web_m": (0.0009, 0.02),
    "flange_m": (0.0009, 0.025),
}
# For which uses a shape is offered, and whether aluminium may do it: not what stands in soil.
USES: dict[str, tuple[tuple[Shape, ...], bool]] = {
    "post": (("I", "C", "pipe"), False),
    "purlin": (("Z", "C"), True),
    "beam": (("C", "box"), True),
    "strut": (("pipe",), True),
    "rail": (("C", "box"), True),
    "pipe": (("pipe",), False),
}
NAME = re.compile(r"(C|Z|I|box|pipe) (\d{1,3}(?:\.\d{1,3})?(?: x \d{1,3}(?:\.\d{1,3})?){1,3}) (\S+)")
FORM = "named as C 180 x 64 x 20 x 1.8 S350GD: shape, measures in millimetres, grade"


@dataclass(frozen=True, kw_only=True)
class Made:
    """Its measures over all; what a shape has none of is nought, what is one wall is said twice."""

    shape: Shape
    depth_m: float
    width_m: float
    lip_m: float
    web_m: float
    flange_m: float
    grade: Grade

    @property
    def name(self) -> str:
        """By which it is known everywhere."""
        sizes = " x ".join(_mm(getattr(self, one)) for one in MEASURES[self.shape])
        return f"{self.shape} {sizes} {self.grade.name}"

    @property
    def bearing_wall_m(self) -> float:
        """Of a steel pipe 0.93 of its wall, which mills may leave out (AISC 360-16, B4.2)."""
        if self.shape == "pipe" and self.grade.metal.name == "steel":
            return constant("common", "pipe_wall_share").value * self.web_m
        return self.web_m

    @property
    def area_m2(self) -> float:
        """Of what bears."""
        return self._area_m2(self.bearing_wall_m)

    @property
    def kg_per_m(self) -> float:
        """Of all of its wall, without zinc."""
        return self._area_m2(self.web_m) * self.grade.metal.kg_per_m3

    def _area_m2(self, wall: float) -> float:
        if self.shape == "pipe":
            return math.pi * wall * (self.depth_m - wall)
        inside = self.depth_m - 2 * self.flange_m
        flanges, webs = 2 * self.width_m * self.flange_m, 2 if self.shape == "box" else 1
        return webs * inside * wall + flanges + 2 * max(self.lip_m - self.flange_m, 0.0) * wall

    @property
    def inertia_m4(self) -> float:
        """About the axis across its web."""
        high, wall = self.depth_m, self.bearing_wall_m
        if self.shape == "pipe":
            return math.pi / 64 * (high**4 - (high - 2 * wall) ** 4)
        inside = high - 2 * self.flange_m
        webs = (2 if self.shape == "box" else 1) * wall * inside**3 / 12
        flanges = self.width_m * (high**3 - inside**3) / 12
        lip = max(self.lip_m - self.flange_m, 0.0)
        out = high / 2 - self.flange_m - lip / 2
        return webs + flanges + 2 * (wall * lip**3 / 12 + wall * lip * out**2)

    @property
    def perimeter_m(self) -> float:
        """The box around it; the circle of a pipe."""
        return math.pi * self.depth_m if self.shape == "pipe" else 2 * (self.depth_m + self.width_m)


def _mm(length_m: float) -> str:
    return f"{round(length_m * 1000, 3):g}"


def made_of(shape: Shape, measures: dict[str, float], of: str) -> Made:
    """A section of such measures and grade. ValueError says which measure is wrong, and how."""
    # To a thousandth of a millimetre, as its name has them.
    measures = {name: round(measures[name], 6) for name in MEASURES[shape]}
    for name in MEASURES[shape]:
        low, high = BOUNDS_M[name]
        if not low <= measures[name] <= high:
            raise ValueError(
                f"has a {WORDS[name]} of {_mm(measures[name])} mm: {_mm(low)} to {_mm(high)} mm "
                "is looked at"
            )
    if of not in grade_names():
        raise ValueError(f"is of grade {of[:20]}: one of {', '.join(grade_names())} is known")
    depth, wall = measures["depth_m"], measures["web_m"]
    made = Made(
        shape=shape,
        depth_m=depth,
        width_m=measures.get("width_m", depth),
        lip_m=measures.get("lip_m", 0.0),
        web_m=wall,
        flange_m=measures.get("flange_m", wall),
        grade=grade(of),
    )
    wrong = _shapeless(made) or _beyond_method(made)
    if wrong:
        raise ValueError(wrong)
    return made


def _shapeless(made: Made) -> str:
    """What cannot be bent or drawn into such a shape."""
    if made.shape == "pipe":
        return "" if 4 * made.web_m < made.depth_m else "has walls that leave no bore"
    if 4 * made.flange_m >= made.depth_m or 3 * made.web_m >= made.width_m:
        return "has walls that fill it"
    if made.lip_m > 0 and made.lip_m < 2 * made.web_m:
        return "has lips shorter than two walls"
    if 2 * made.lip_m >= 0.7 * made.depth_m:
        return "has lips that nearly meet"
    return ""


def _beyond_method(made: Made) -> str:
    """Walls thinner than those for which ways of reckoning were proven: AISI S100-16, Table B4.1-1.

    Of an I those that buckle before it yields, AISC 360-16, Table B4.1a. Boxes more than four times as
    deep as wide may turn over, which is not looked at.
    """
    wall = made.web_m
    if made.shape in ("C", "Z"):
        proven = (
            (made.depth_m / wall, "web", 300),
            (made.width_m / wall, "flange", 160),
            (made.lip_m / wall, "lip", 60),
            (made.lip_m / made.width_m, "lip over its flange", 0.7),
        )
        for ratio, word, most in proven:
            if ratio > most:
                return f"has a {word} of {ratio:.3g} to 1: up to {most} is looked at"
    if made.shape == "I":
        root = math.sqrt(made.grade.metal.elastic_pa / made.grade.yield_pa)
        stout = (
            ((made.depth_m - 2 * made.flange_m) / wall, "web", 1.49 * root),
            (made.width_m / 2 / made.flange_m, "half flange", 0.56 * root),
        )
        for ratio, word, most in stout:
            if ratio > most:
                return f"has a {word} of {ratio:.3g} to 1: up to {most:.3g} is looked at"
    if made.shape == "box" and made.depth_m > 4 * made.width_m:
        return "is more than four times as deep as wide: it may turn over, which is not looked at"
    if made.shape == "box" and max(made.depth_m, made.width_m) / wall > 150:
        return "has walls of over 150 to 1: up to that is looked at"
    if made.shape == "pipe" and made.depth_m / wall > 0.11 * 200e9 / made.grade.yield_pa:
        return "has a wall that buckles before it yields, which is not looked at (AISC 360-16, B4.1)"
    return ""


def read_name(name: str) -> Made:
    """The section of a name. Raises ValueError."""
    found = NAME.fullmatch(name)
    if found is None:
        raise ValueError(f"is not {FORM}")
    shape: Shape = found[1]  # type: ignore[assignment]
    sizes = [float(one) / 1000 for one in found[2].split(" x ")]
    names = MEASURES[shape]
    if len(sizes) != len(names):
        raise ValueError(
            f"has {len(sizes)} measures: a {shape} has {', '.join(WORDS[n] for n in names)}"
        )
    made = made_of(shape, dict(zip(names, sizes, strict=True)), found[3])
    if made.name != name:
        raise ValueError(f"is written {made.name}")
    return made


def serves(made: Made, use: str) -> bool:
    """Whether it is offered there."""
    shapes, aluminium = USES[use]
    return made.shape in shapes and (aluminium or made.grade.metal.name == "steel")
