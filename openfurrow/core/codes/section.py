"""Structural sections as data: generic shapes and those of standards, never a maker's product."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, lru_cache

from openfurrow.core.codes import Table, constant, table
from openfurrow.core.codes.metal import Metal, metal
from openfurrow.core.codes.own_section import Made, read_name, serves
from openfurrow.core.working import Source

# How many own sections are kept at hand; those of the lists are far fewer.
MOST_KEPT = 4096


@dataclass(frozen=True)
class Section:
    """One section, bending about its strong axis; a lip is measured with its flange."""

    name: str
    shape: str
    depth_m: float
    width_m: float
    area_m2: float
    inertia_m4: float
    modulus_m3: float
    mass_kg_per_m: float
    perimeter_m: float
    yield_pa: float
    source: Source
    web_m: float
    flange_m: float
    lip_m: float
    metal: Metal
    ultimate_pa: float

    @property
    def elastic_pa(self) -> float:
        """Young's modulus of what it is made of."""
        return self.metal.elastic_pa

    @property
    def closed(self) -> bool:
        """Whether its walls close a ring: it hardly twists, and does not turn over."""
        return self.shape in ("pipe", "box")

    @property
    def aluminium(self) -> bool:
        """Whether it is not steel."""
        return self.metal.name == "aluminium"

    @property
    def weak_modulus_m3(self) -> float:
        """About the weak axis, elastic, from the plates that it is made of; fillets are left out.

        Of a channel the plates lie off to one side of the axis: the further edge counts.
        """
        if self.shape == "pipe":
            return self.modulus_m3
        inertia, edge = self._weak
        return inertia / edge

    @property
    def weak_inertia_m4(self) -> float:
        """About the weak axis, likewise."""
        return self._weak[0]

    @property
    def _weak(self) -> tuple[float, float]:
        """Inertia about the weak axis, and how far the furthest edge lies from it."""
        if self.shape == "pipe":
            return self.inertia_m4, self.depth_m / 2
        width, flange, web = self.width_m, self.flange_m, self.web_m
        inside = self.depth_m - 2 * flange
        if self.shape == "box":
            apart = (width - web) / 2
            inertia = 2 * (flange * width**3 / 12 + inside * web**3 / 12 + inside * web * apart**2)
            return inertia, width / 2
        if self.shape == "I":
            inertia = 2 * flange * width**3 / 12 + inside * web**3 / 12
            return inertia, width / 2
        # Web at one edge, two flanges, two lips at the other: area, place and own inertia of each.
        plates = (
            (inside * web, web / 2, inside * web**3 / 12),
            (2 * width * flange, width / 2, 2 * flange * width**3 / 12),
            (2 * (self.lip_m - flange) * web, width - web / 2, 2 * (self.lip_m - flange) * web**3 / 12)
            if self.lip_m > flange
            else (0.0, 0.0, 0.0),
        )
        area = sum(one for one, _, _ in plates)
        middle = sum(one * at for one, at, _ in plates) / area
        inertia = sum(own + one * (at - middle) ** 2 for one, at, own in plates)
        return inertia, max(middle, width - middle)


def _tables() -> tuple[Table, ...]:
    """Every list of sections, each with a source of its own."""
    return table("common", "section"), table("common", "w_shape")


def _listed(name: str) -> Section | None:
    """A section of the lists."""
    data = next((one for one in _tables() if name in one.texts["section"]), None)
    if data is None:
        return None
    row = data.row("section", name)
    names = (
        "depth_m",
        "width_m",
        "area_m2",
        "inertia_m4",
        "modulus_m3",
        "mass_kg_per_m",
        "perimeter_m",
        "yield_pa",
        "web_m",
        "flange_m",
        "lip_m",
    )
    values = {column: data.number(column, row) for column in names}
    return Section(
        name=name,
        shape=data.texts["shape"][row],
        source=data.source,
        metal=metal("steel"),
        ultimate_pa=constant("common", "ultimate_over_yield").value * values["yield_pa"],
        **values,
    )


@lru_cache(maxsize=MOST_KEPT)
def section(name: str) -> Section:
    """The section called ``name``, of the lists or one's own; KeyError says what names are."""
    found = _listed(name)
    if found is not None:
        return found
    try:
        return _own(read_name(name))
    except ValueError as error:
        raise KeyError(f"{name!r} {error}") from None


def _own(made: Made) -> Section:
    return Section(
        name=made.name,
        shape=made.shape,
        depth_m=made.depth_m,
        width_m=made.width_m,
        area_m2=made.area_m2,
        inertia_m4=made.inertia_m4,
        modulus_m3=made.inertia_m4 / (made.depth_m / 2),
        mass_kg_per_m=made.kg_per_m,
        perimeter_m=made.perimeter_m,
        yield_pa=made.grade.yield_pa,
        source=made.grade.source,
        web_m=made.bearing_wall_m,
        flange_m=made.bearing_wall_m if made.shape == "pipe" else made.flange_m,
        lip_m=made.lip_m,
        metal=made.grade.metal,
        ultimate_pa=made.grade.ultimate_pa,
    )


@cache
def section_names(use: str) -> tuple[str, ...]:
    """The sections meant for ``use``: post, purlin, beam, strut or rail; or every pipe."""
    return tuple(
        name
        for data in _tables()
        for name, *those in zip(
            data.texts["section"], data.texts["use"], data.texts["shape"], strict=True
        )
        if use in (those if use == "pipe" else those[:1])
    )


def known_section(use: str) -> Callable[[str], str]:
    """A validator: a section meant for ``use``, or one's own; ValueError names the choices."""

    def check(name: str) -> str:
        if name in section_names(use):
            return name
        try:
            made = read_name(name)
        except ValueError as error:
            listed = any(name in data.texts["section"] for data in _tables())
            why = "" if listed else f"; of one's own it {error}"
            raise ValueError(f"is none of {', '.join(section_names(use))}{why}") from None
        if not serves(made, use):
            raise ValueError(f"is no {use}: a {made.shape} of {made.grade.metal.name} is none")
        return name

    return check
