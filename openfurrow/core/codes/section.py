"""Structural sections as data: generic shapes and those of standards, never a maker's product."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache

from openfurrow.core.codes import Table, table
from openfurrow.core.working import Source

STEEL_MODULUS_PA = 200e9


@dataclass(frozen=True)
class Section:
    """One steel section, bending about its strong axis; a lip is measured with its flange."""

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


@cache
def section(name: str) -> Section:
    """The section called ``name``; KeyError names the known ones."""
    data = next((one for one in _tables() if name in one.texts["section"]), _tables()[0])
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
    return Section(name=name, shape=data.texts["shape"][row], source=data.source, **values)


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
    """A validator: the name of a section meant for ``use``, or ValueError naming the choices."""

    def check(name: str) -> str:
        if name not in section_names(use):
            raise ValueError(f"is none of {', '.join(section_names(use))}")
        return name

    return check
