"""Quantities at the edge: kinds of number, their units, and SI written the way a tape reads.

Inside the core every number is SI (degrees for angles, degrees Celsius for temperature). A
*kind* says what a number is (a tape length, a force, a bearing) and so how each of the two unit
systems, ``us`` and ``metric``, reads and writes it.
"""

import math
import re
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

UnitSystem = Literal["us", "metric"]

FOOT_M = 0.3048
INCH_M = 0.0254
# The foot of older surveys and of many state grids in the United States.
SURVEY_FOOT_M = 1200 / 3937
POUND_KG = 0.45359237
STANDARD_GRAVITY_M_S2 = 9.80665
POUND_FORCE_N = POUND_KG * STANDARD_GRAVITY_M_S2
MILE_PER_HOUR_M_S = 0.44704
PSF_PA = POUND_FORCE_N / FOOT_M**2
PSI_PA = POUND_FORCE_N / INCH_M**2
KSI_PA = 1000 * POUND_FORCE_N / INCH_M**2
MILE_M = 5280 * FOOT_M
CUBIC_YARD_M3 = (3 * FOOT_M) ** 3


class QuantityError(ValueError):
    """The text cannot be read as a quantity; the message says what would be."""


@dataclass(frozen=True)
class Shown:
    """How one unit system writes a kind: unit, factor from SI, decimals, or a tape style."""

    unit: str
    si_per_unit: float = 1.0
    decimals: int = 0
    offset: float = 0.0
    style: Literal["decimal", "sixteenths", "inches", "clock"] = "decimal"


@dataclass(frozen=True)
class Kind:
    """What a number is: both ways of writing it, and the unit words people type for it."""

    us: Shown
    metric: Shown
    words: dict[str, float]


LENGTH_WORDS = {
    "m": 1.0,
    "metre": 1.0,
    "metres": 1.0,
    "meter": 1.0,
    "meters": 1.0,
    "cm": 0.01,
    "mm": 0.001,
    "km": 1000.0,
    "'": FOOT_M,
    "ft": FOOT_M,
    "feet": FOOT_M,
    "foot": FOOT_M,
    '"': INCH_M,
    "in": INCH_M,
    "inch": INCH_M,
    "inches": INCH_M,
    "yd": 3 * FOOT_M,
}
_ANGLE_WORDS = {"°": 1.0, "deg": 1.0, "degrees": 1.0}
_RATIO_WORDS = {"%": 0.01, "percent": 0.01}
_PRESSURE_WORDS = {
    "pa": 1.0,
    "kpa": 1000.0,
    "kn/m²": 1000.0,
    "kn/m2": 1000.0,
    "psf": PSF_PA,
    "lb/ft2": PSF_PA,
    "lb/sq ft": PSF_PA,
    "lbf/ft2": PSF_PA,
    "psi": KSI_PA / 1000,
    "ksi": KSI_PA,
    "mpa": 1e6,
}


# A length and a force in either order, joined by a point: a hyphen or a space between is read as one.
_TURNING_WORDS = {
    "n·m": 1.0,
    "kn·m": 1000.0,
    "lb·ft": POUND_FORCE_N * FOOT_M,
    "ft·lb": POUND_FORCE_N * FOOT_M,
    "lb·in": POUND_FORCE_N * INCH_M,
    "in·lb": POUND_FORCE_N * INCH_M,
}


def _same(unit: str, decimals: int, words: dict[str, float], si_per_unit: float = 1.0) -> Kind:
    """A kind that both systems write alike."""
    shown = Shown(unit, si_per_unit, decimals)
    return Kind(shown, shown, words)


KINDS: dict[str, Kind] = {
    "tape": Kind(Shown("in", INCH_M, style="sixteenths"), Shown("mm", 0.001, 0), LENGTH_WORDS),
    "run": Kind(Shown("ft", FOOT_M, style="inches"), Shown("m", 1.0, 2), LENGTH_WORDS),
    "thickness": Kind(Shown("in", INCH_M, 3), Shown("mm", 0.001, 1), LENGTH_WORDS),
    # What a caliper reads.
    "caliper": Kind(Shown("in", INCH_M, 4), Shown("mm", 0.001, 2), LENGTH_WORDS),
    "coating": Kind(
        Shown("mil", INCH_M / 1000, 1),
        Shown("µm", 1e-6, 0),
        {
            "µm": 1e-6,
            "um": 1e-6,
            "micron": 1e-6,
            "mil": INCH_M / 1000,
            "mils": INCH_M / 1000,
            "mm": 1e-3,
        },
    ),
    "far": Kind(Shown("mi", MILE_M, 0), Shown("km", 1000.0, 0), {**LENGTH_WORDS, "mi": MILE_M}),
    "elevation": Kind(Shown("ft", FOOT_M, 0), Shown("m", 1.0, 0), LENGTH_WORDS),
    "coordinate": Kind(Shown("ft", FOOT_M, 2), Shown("m", 1.0, 3), LENGTH_WORDS),
    "area": Kind(
        Shown("sq ft", FOOT_M**2, 1),
        Shown("m²", 1.0, 2),
        {"m²": 1.0, "m2": 1.0, "sq ft": FOOT_M**2, "ft²": FOOT_M**2, "ft2": FOOT_M**2},
    ),
    "wire_area": Kind(
        Shown("sq in", INCH_M**2, 4), Shown("mm²", 1e-6, 1), {"sq in": INCH_M**2, "mm²": 1e-6}
    ),
    "volume": Kind(
        Shown("cu yd", CUBIC_YARD_M3, 2),
        Shown("m³", 1.0, 2),
        {"m³": 1.0, "m3": 1.0, "cu yd": CUBIC_YARD_M3, "cu ft": FOOT_M**3},
    ),
    # What a bag of concrete gives.
    "yield": Kind(
        Shown("cu ft", FOOT_M**3, 3),
        Shown("l", 0.001, 1),
        {"l": 0.001, "litres": 0.001, "m³": 1.0, "m3": 1.0, "cu ft": FOOT_M**3},
    ),
    "mass": Kind(
        Shown("lb", POUND_KG, 1), Shown("kg", 1.0, 1), {"kg": 1.0, "lb": POUND_KG, "t": 1000.0}
    ),
    "haul": Kind(
        Shown("lb", POUND_KG, 0), Shown("kg", 1.0, 0), {"kg": 1.0, "lb": POUND_KG, "t": 1000.0}
    ),
    "line_mass": Kind(
        Shown("lb/ft", POUND_KG / FOOT_M, 2),
        Shown("kg/m", 1.0, 2),
        {"kg/m": 1.0, "lb/ft": POUND_KG / FOOT_M},
    ),
    "area_mass": Kind(
        Shown("psf", PSF_PA / STANDARD_GRAVITY_M_S2, 2),
        Shown("kg/m²", 1.0, 1),
        {"kg/m²": 1.0, "kg/m2": 1.0, "psf": PSF_PA / STANDARD_GRAVITY_M_S2},
    ),
    "force": Kind(
        Shown("lb", POUND_FORCE_N, 0),
        Shown("kN", 1000.0, 2),
        {"n": 1.0, "kn": 1000.0, "lb": POUND_FORCE_N, "lbf": POUND_FORCE_N},
    ),
    "line_load": Kind(
        Shown("lb/ft", POUND_FORCE_N / FOOT_M, 1),
        Shown("kN/m", 1000.0, 3),
        {"n/m": 1.0, "kn/m": 1000.0, "lb/ft": POUND_FORCE_N / FOOT_M},
    ),
    "moment": Kind(
        Shown("lb·ft", POUND_FORCE_N * FOOT_M, 0),
        Shown("kN·m", 1000.0, 2),
        _TURNING_WORDS,
    ),
    "torque": Kind(
        Shown("lb·ft", POUND_FORCE_N * FOOT_M, 1),
        Shown("N·m", 1.0, 0),
        _TURNING_WORDS,
    ),
    "pressure": Kind(Shown("psf", PSF_PA, 1), Shown("kPa", 1000.0, 3), _PRESSURE_WORDS),
    "stress": Kind(Shown("ksi", KSI_PA, 2), Shown("MPa", 1e6, 1), _PRESSURE_WORDS),
    "modulus_gradient": Kind(
        Shown("psf/ft", PSF_PA / FOOT_M, 0),
        Shown("kPa/m", 1000.0, 1),
        {"psf/ft": PSF_PA / FOOT_M, "kpa/m": 1000.0},
    ),
    # Ultimate force by the torque that it took to turn in.
    "per_metre": Kind(
        Shown("per ft", 1 / FOOT_M, 1),
        Shown("per m", 1.0, 1),
        {"per m": 1.0, "1/m": 1.0, "per ft": 1 / FOOT_M, "1/ft": 1 / FOOT_M},
    ),
    "unit_weight": Kind(
        Shown("lb/cu ft", POUND_FORCE_N / FOOT_M**3, 0),
        Shown("kN/m³", 1000.0, 1),
        {
            "kn/m3": 1000.0,
            "lb/cu ft": POUND_FORCE_N / FOOT_M**3,
            "lb/ft3": POUND_FORCE_N / FOOT_M**3,
            "pcf": POUND_FORCE_N / FOOT_M**3,
        },
    ),
    "inertia": Kind(Shown("in⁴", INCH_M**4, 3), Shown("cm⁴", 1e-8, 1), {"in⁴": INCH_M**4, "cm⁴": 1e-8}),
    "section_modulus": Kind(
        Shown("in³", INCH_M**3, 3), Shown("cm³", 1e-6, 2), {"in³": INCH_M**3, "cm³": 1e-6}
    ),
    "speed": Kind(
        Shown("mph", MILE_PER_HOUR_M_S, 0),
        Shown("m/s", 1.0, 1),
        {"m/s": 1.0, "mph": MILE_PER_HOUR_M_S, "km/h": 1 / 3.6, "kn": 0.514444},
    ),
    "temperature": Kind(Shown("°F", 5 / 9, 0, offset=32.0), Shown("°C", 1.0, 0), {"°c": 1.0}),
    "angle": _same("°", 1, _ANGLE_WORDS),
    "bearing": _same("°", 1, _ANGLE_WORDS),
    "coordinate_angle": _same("°", 5, _ANGLE_WORDS),
    "ratio": _same("%", 1, _RATIO_WORDS, 0.01),
    "factor": _same("", 3, {}),
    # In the currency of the job, which stands beside it.
    "price": _same("", 2, {}),
    "count": _same("", 0, {}),
    "voltage": _same("V", 1, {"v": 1.0, "kv": 1000.0}),
    "insulation": _same("MΩ", 1, {"mω": 1e6, "mohm": 1e6, "gω": 1e9, "gohm": 1e9, "kω": 1e3}, 1e6),
    "current": _same("A", 2, {"a": 1.0}),
    "irradiance": _same("W/m²", 0, {"w/m²": 1.0, "w/m2": 1.0, "w/m^2": 1.0}),
    "power": _same("kW", 2, {"w": 1.0, "kw": 1000.0}, 1000.0),
    "energy": _same("kWh", 0, {"wh": 1.0, "kwh": 1000.0, "mwh": 1e6}, 1000.0),
    # What a day brings, or a battery holds.
    "small_energy": _same("kWh", 1, {"wh": 1.0, "kwh": 1000.0, "mwh": 1e6}, 1000.0),
    # Energy over rated power, and over area: both are the hours for which all would shine at its best.
    "full_hours": _same("kWh/kW", 0, {"kwh/kw": 1.0, "kwh/kwp": 1.0}),
    "irradiation": _same("kWh/m²", 0, {"kwh/m²": 1.0, "kwh/m2": 1.0}),
    "module_power": _same("W", 0, {"w": 1.0, "kw": 1000.0}),
    "temperature_coefficient": _same("%/°C", 3, {"%/°c": 0.01, "%/k": 0.01}, 0.01),
    "resistance": _same("Ω", 1, {"ω": 1.0, "ohm": 1.0, "ohms": 1.0, "kω": 1000.0}),
    "resistivity": _same(
        "Ω·m", 0, {"ω·m": 1.0, "ωm": 1.0, "ω m": 1.0, "ohm·m": 1.0, "ohm m": 1.0, "ohm-m": 1.0}
    ),
    "line_resistance": Kind(
        Shown("Ω/1000 ft", 1 / (1000 * FOOT_M), 4), Shown("Ω/km", 0.001, 3), {"ω/km": 0.001}
    ),
    "solar_time": _same("h", 2, {"h": 1.0}),
    "hours": _same("h", 1, {"h": 1.0, "hours": 1.0}),
    "per_hour": _same("an hour", 2, {"an hour": 1.0, "per hour": 1.0, "each hour": 1.0}),
    "pace": Kind(Shown("ft/h", FOOT_M, 1), Shown("m/h", 1.0, 2), {"m/h": 1.0, "ft/h": FOOT_M}),
    "area_pace": Kind(
        Shown("sq ft/h", FOOT_M**2, 0),
        Shown("m²/h", 1.0, 1),
        {"m²/h": 1.0, "m2/h": 1.0, "sq ft/h": FOOT_M**2, "ft²/h": FOOT_M**2},
    ),
    "clock": Kind(Shown("", style="clock"), Shown("", style="clock"), {}),
}


def shown(kind: str, system: UnitSystem) -> Shown:
    """How ``system`` writes ``kind``."""
    return KINDS[kind].us if system == "us" else KINDS[kind].metric


# --- writing ----------------------------------------------------------------------------------


def describe(kind: str, system: UnitSystem) -> str:
    """What the field wants, in words: used in errors and hints."""
    style = shown(kind, system).style
    if style in ("sixteenths", "inches"):
        return "length: write 5'6\", 66 in or 1.68 m"
    if kind in ("tape", "run", "thickness", "caliper", "elevation", "coordinate"):
        return "length: write 1.68 m, 1680 mm or 5'6\""
    unit = shown(kind, system).unit
    return f"number in {unit}" if unit else "plain number"


def bare_unit(kind: str, system: UnitSystem) -> str:
    """The unit a bare number is taken in."""
    return shown(kind, system).unit


def _feet_inches(value_m: float, denominator: int) -> str:
    """Feet, inches and a reduced fraction, rounded to 1/denominator inch."""
    parts = round(abs(value_m) / INCH_M * denominator)
    sign = "−" if value_m < 0 and parts else ""
    feet, rest = divmod(parts, 12 * denominator)
    inches, over = divmod(rest, denominator)
    fraction = f" {Fraction(over, denominator)}" if over else ""
    if feet:
        return f"{sign}{feet}' {inches}{fraction}\""
    return f'{sign}{inches}{fraction}"' if inches or not over else f'{sign}{fraction.strip()}"'


def _clock(hours: float) -> str:
    minutes = round(hours * 60) % (24 * 60)
    return f"{minutes // 60:02d}:{minutes % 60:02d}"


def format_value(value: float | str, kind: str, system: UnitSystem) -> str:
    """Write an SI value the way ``system`` reads it; text, with the values that it speaks of."""
    if isinstance(value, str):
        return in_words(value, system)
    if not math.isfinite(value):
        return "none"
    how = shown(kind, system)
    if how.style == "sixteenths":
        return _feet_inches(value, 16)
    if how.style == "inches":
        return _feet_inches(value, 1)
    if how.style == "clock":
        return _clock(value)
    number = value / how.si_per_unit + how.offset
    text = f"{number:,.{how.decimals}f}".replace(",", "\u202f").replace("-", "−")
    if text.strip("−0.") == "":
        text = text.replace("−", "")
    joiner = "" if how.unit.startswith(("°", "%")) and how.unit != "°F" else " "
    return f"{text}{joiner if how.unit in ('°', '%') else ' '}{how.unit}".strip()


# Around a value that words speak of, until it is known in whose units they are read: signs that no
# keyboard types.
OPEN, CLOSE, OR = "\ue000", "\ue001", "\ue002"
_SPOKEN = re.compile(f"{OPEN}([^ {CLOSE}]+) ([a-z_]+){CLOSE}")
_EITHER = re.compile(f"{OPEN}([^{CLOSE}{OR}]*){OR}([^{CLOSE}{OR}]*){CLOSE}")


def spoken(value: float, kind: str) -> str:
    """A value inside words, for ``in_words`` to write in the reader's units."""
    return f"{OPEN}{float(value)!r} {kind}{CLOSE}"


def either(us: str, metric: str) -> str:
    """What is a round number in each system, inside words, for ``in_words`` to choose from."""
    return f"{OPEN}{us}{OR}{metric}{CLOSE}"


def in_words(text: str, system: UnitSystem) -> str:
    """Words with every value they speak of written the way ``system`` reads it."""
    if OPEN not in text:
        return text
    text = _EITHER.sub(lambda found: found[1] if system == "us" else found[2], text)
    return _SPOKEN.sub(lambda found: format_value(float(found[1]), found[2], system), text)


def round_up(value: float, step: float) -> float:
    """The next multiple of ``step`` at or above ``value`` (a hair above a multiple stays on it)."""
    return math.ceil(value / step - 1e-9) * step


def tape_step_m(system: UnitSystem) -> float:
    """The finest mark a crew sets out to: a sixteenth of an inch, or a millimetre."""
    return INCH_M / 16 if system == "us" else 0.001
