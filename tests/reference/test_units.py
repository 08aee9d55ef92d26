"""What one of each unit is, from the constants of scipy (CODATA, NIST Handbook 44), not from ours."""

import math

import pytest
from scipy import constants as c

from openfurrow.core.quantities import KINDS, format_value
from openfurrow.core.reading import parse

PSF = c.lbf / c.foot**2
US = {
    "tape": c.inch,
    "run": c.foot,
    "thickness": c.inch,
    "caliper": c.inch,
    "coating": c.mil,
    "far": c.mile,
    "elevation": c.foot,
    "coordinate": c.foot,
    "area": c.foot**2,
    "wire_area": c.inch**2,
    "volume": c.yard**3,
    "yield": c.foot**3,
    "per_metre": 1 / c.foot,
    "mass": c.lb,
    "haul": c.lb,
    "line_mass": c.lb / c.foot,
    "area_mass": c.lb / c.foot**2,
    "force": c.lbf,
    "line_load": c.lbf / c.foot,
    "moment": c.lbf * c.foot,
    "torque": c.lbf * c.foot,
    "pressure": PSF,
    "stress": 1000 * c.psi,
    "modulus_gradient": PSF / c.foot,
    "unit_weight": c.lbf / c.foot**3,
    "inertia": c.inch**4,
    "section_modulus": c.inch**3,
    "speed": c.mph,
    "line_resistance": 1 / (1000 * c.foot),
    "pace": c.foot,
    "area_pace": c.foot**2,
}
METRIC = {
    "tape": c.milli,
    "run": 1,
    "thickness": c.milli,
    "caliper": c.milli,
    "coating": c.micro,
    "far": c.kilo,
    "elevation": 1,
    "coordinate": 1,
    "area": 1,
    "wire_area": c.milli**2,
    "volume": 1,
    "yield": c.liter,
    "per_metre": 1,
    "mass": 1,
    "haul": 1,
    "line_mass": 1,
    "area_mass": 1,
    "force": c.kilo,
    "line_load": c.kilo,
    "moment": c.kilo,
    "torque": 1,
    "pressure": c.kilo,
    "stress": c.mega,
    "modulus_gradient": c.kilo,
    "unit_weight": c.kilo,
    "inertia": c.centi**4,
    "section_modulus": c.centi**3,
    "speed": 1,
    "line_resistance": c.milli,
    "pace": 1,
    "area_pace": 1,
}


def test_every_kind_whose_systems_differ_is_held_here() -> None:
    differ = {name for name, kind in KINDS.items() if kind.us != kind.metric}
    assert differ - {"temperature"} == US.keys() == METRIC.keys()


@pytest.mark.parametrize("kind", sorted(US))
def test_one_of_a_unit_is_what_scipy_says(kind: str) -> None:
    assert KINDS[kind].us.si_per_unit == pytest.approx(US[kind], rel=1e-9)
    assert KINDS[kind].metric.si_per_unit == pytest.approx(METRIC[kind], rel=1e-9)


@pytest.mark.parametrize("kind", sorted(US))
@pytest.mark.parametrize("system", ["us", "metric"])
def test_what_is_written_in_a_unit_is_so_many_of_it(kind: str, system: str) -> None:
    """Twelve hundred of each: read as one would, by the digits before the unit."""
    factor = (US if system == "us" else METRIC)[kind]
    text = format_value(1234 * factor, kind, system)
    if "'" in text or '"' in text:
        feet = 1234 * factor / c.foot
        assert text.startswith(f"{math.floor(feet + 1e-9)}'")
        return
    digits = text.split(KINDS[kind].us.unit if system == "us" else KINDS[kind].metric.unit)[0]
    assert float(digits.replace("\u202f", "").strip()) == pytest.approx(1234)


@pytest.mark.parametrize(
    ("text", "kind", "si"),
    [
        ("5 yd", "run", 5 * c.yard),
        ("3 cu ft", "volume", 3 * c.foot**3),
        ("2 psi", "pressure", 2 * c.psi),
        ("2 ksi", "stress", 2000 * c.psi),
        ("40 kn", "speed", 40 * c.knot),
        ("1.2 ω/km", "line_resistance", 1.2e-3),
        ("90 km/h", "speed", 90 * c.kmh),
        ("12 lb/ft", "line_load", 12 * c.lbf / c.foot),
        ("-40 F", "temperature", -40.0),
        ("212 °F", "temperature", 100.0),
        ("2 t", "mass", 2000.0),
    ],
)
def test_words_for_units_mean_what_they_say(text: str, kind: str, si: float) -> None:
    assert parse(text, kind, "metric") == pytest.approx(si, rel=1e-6)


LENGTHS = {
    "mil": c.mil,
    "µm": c.micro,
    "um": c.micro,
    "micron": c.micro,
    "mils": c.mil,
    **dict.fromkeys(("'", "ft", "feet", "foot"), c.foot),
    **dict.fromkeys(('"', "in", "inch", "inches"), c.inch),
    **dict.fromkeys(("m", "metre", "metres", "meter", "meters"), 1.0),
    **{"mm": c.milli, "cm": c.centi, "km": c.kilo, "yd": c.yard, "mi": c.mile},
}
ALONE = {"pa": 1.0, "kpa": c.kilo, "mpa": c.mega, "psf": PSF, "psi": c.psi, "ksi": 1000 * c.psi}
OTHER = {
    **{"°": 1.0, "deg": 1.0, "degrees": 1.0, "%": c.centi, "percent": c.centi},
    **{"v": 1.0, "kv": c.kilo, "a": 1.0, "w": 1.0, "kw": c.kilo, "h": 1.0, "mph": c.mph, "°c": 1.0},
    # Hours are counted, and so is what is done in one.
    **{
        "hours": 1.0,
        **dict.fromkeys(("an hour", "per hour", "each hour"), 1.0),
        "m/h": 1.0,
        "ft/h": c.foot,
        **dict.fromkeys(("m²/h", "m2/h"), 1.0),
        **dict.fromkeys(("sq ft/h", "ft²/h"), c.foot**2),
    },
    **dict.fromkeys(("l", "litres"), c.liter),
    **dict.fromkeys(("per m", "1/m"), 1.0),
    **dict.fromkeys(("per ft", "1/ft"), 1 / c.foot),
    # Watts for an hour are counted in those, as every meter does.
    **{"wh": 1.0, "kwh": c.kilo, "mwh": c.mega},
    **dict.fromkeys(("kwh/kw", "kwh/kwp", "kwh/m²", "kwh/m2"), 1.0),
    # Nobody measures how wires are insulated in thousandths of an ohm: letters are read small.
    **{"mω": c.mega, "mohm": c.mega, "gω": c.giga, "gohm": c.giga, "kω": c.kilo},
    # Ohms of an earth, ohms over a metre each way, and light on an area.
    **dict.fromkeys(("ω", "ohm", "ohms", "ω·m", "ωm", "ω m", "ohm·m", "ohm m", "ohm-m"), 1.0),
    **dict.fromkeys(("w/m²", "w/m2", "w/m^2"), 1.0),
    **{"%/°c": c.centi, "%/k": c.centi, "ω/km": c.milli, "km/h": c.kmh},
}


def of_length(word: str) -> float:
    """A length, an area, a volume, or a fourth power, however its power is written."""
    for start, power in (("sq ", 2), ("cu ", 3)):
        if word.startswith(start):
            return float(LENGTHS[word.removeprefix(start)] ** power)
    for end, power in (("²", 2), ("2", 2), ("³", 3), ("3", 3), ("⁴", 4)):
        if word.endswith(end):
            return float(LENGTHS[word.removesuffix(end)] ** power)
    return float(LENGTHS[word])


def said_by(word: str, kind: str) -> float:
    """A unit by its parts; of a pound its kind says whether it is mass or force."""
    heavy = {"lb": c.lb, "kg": 1.0, "t": 1000.0}
    pushing = {"lb": c.lbf, "lbf": c.lbf, "n": 1.0, "kn": c.kilo}
    if kind == "speed":
        return {"m/s": 1.0, "kn": c.knot}.get(word) or OTHER[word]
    if word == "pcf":
        return float(c.lbf / c.foot**3)
    if word == "psf" and kind == "area_mass":
        return float(c.lb / c.foot**2)
    if word in OTHER or word in ALONE:
        return OTHER.get(word) or ALONE[word]
    if "·" in word:
        parts = word.split("·")
        force = next(one for one in parts if one in pushing)
        return pushing[force] * LENGTHS[next(one for one in parts if one != force)]
    over, _, under = word.partition("/")
    amounts = heavy if kind in ("mass", "haul", "line_mass", "area_mass") else pushing | ALONE
    amount = amounts[over] if over in amounts else of_length(over)
    return float(amount / (of_length(under) if under else 1.0))


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_every_word_that_is_read_for_a_unit_means_what_its_parts_say(kind: str) -> None:
    for word, si in KINDS[kind].words.items():
        assert si == pytest.approx(said_by(word, kind), rel=1e-6), word
