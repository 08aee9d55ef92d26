"""What people type becomes SI: read as the trade writes it, asked about where it is ambiguous."""

import math
import re

from openfurrow.core.quantities import (
    FOOT_M,
    INCH_M,
    KINDS,
    LENGTH_WORDS,
    QuantityError,
    Shown,
    UnitSystem,
    describe,
    format_value,
    shown,
)

LONGEST_FRACTION = 9
INCHES_IN_FOOT = 12
_NUMBER = r"[-+−]?\d+(?:[.,]\d+)?|[-+−]?[.,]\d+"
# A unit may end in a power, but after feet and metres of a length another number may follow.
_UNIT = r"[^\d\s.,+/\-−](?:[^\d+\-−]|(?<=m)\d)*"
_POWERED_UNIT = r"[^\d\s.,+/\-−](?:[^\d+\-−]|(?<=[a-z])[2-4](?!\d))*"


def _terms(unit: str) -> re.Pattern[str]:
    return re.compile(
        rf"\s*(?P<number>(?:{_NUMBER})(?![\d.,]|\s*/))?"
        r"(?:(?(number)[\s-]+|\s*)(?P<top>\d+)\s*/\s*(?P<bottom>\d+))?"
        rf"\s*(?P<unit>{unit})?",
        re.IGNORECASE,
    )


_TERM, _POWERED_TERM = _terms(_UNIT), _terms(_POWERED_UNIT)
_HALVES = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}
_ALIKE = str.maketrans(
    {
        "’": "'",
        "′": "'",
        "”": '"',
        "″": '"',
        "\u00a0": " ",
        "\u202f": " ",
        "\u2009": " ",
        "⁄": "/",
        "²": "2",
        "³": "3",
        "⁴": "4",
        "º": "°",
    }
)
_SIXTEEN = (
    "N",
    "NNE",
    "NE",
    "ENE",
    "E",
    "ESE",
    "SE",
    "SSE",
    "S",
    "SSW",
    "SW",
    "WSW",
    "W",
    "WNW",
    "NW",
    "NNW",
)
WINDS = {word: 22.5 * number for number, word in enumerate(_SIXTEEN)}
_SPELLED = {"NORTH": "N", "EAST": "E", "SOUTH": "S", "WEST": "W"}
_SIGNS = {"N": 1.0, "E": 1.0, "S": -1.0, "W": -1.0}
_ANGLES = ("angle", "bearing", "coordinate_angle")


def parse(text: str, kind: str, system: UnitSystem) -> float:
    """Read what a person typed as a quantity of ``kind``; returns SI.

    ``5'6"``, ``5'-6"``, ``66 in``, ``5 ft 6 1/2 in``, ``29½ in``, ``1.68 m`` are all tape lengths, and
    ``5-6`` is one where lengths are in feet; ``44°54'N``, ``8/12`` and ``SE`` are angles, ``1:8`` is a
    ratio, ``1:30 pm`` a time. A bare number is taken in the unit the field shows in ``system``. Raises
    QuantityError for anything else, for a unit that does not fit, and for numbers that are not finite.
    """
    default = shown(kind, system)
    cleaned = _cleaned(text)
    if not cleaned:
        raise QuantityError("write a number")
    if default.style == "clock" or (kind == "solar_time" and re.search(r"(?i):|m\.?$", cleaned)):
        return _clock_time(cleaned)
    if kind == "temperature":
        return _temperature(cleaned, default)
    if kind in _ANGLES:
        return _angle(cleaned, text, kind, system)
    if kind == "ratio" and (proportion := _proportion(cleaned)) is not None:
        return proportion
    if KINDS[kind].words is LENGTH_WORDS:
        return _summed(_joined(cleaned, text, system), text, kind, system)
    return _summed(_pointed(cleaned), text, kind, system)


def _cleaned(text: str) -> str:
    """One way of writing marks, fractions and thousands; the printed narrow space among them."""
    for mark, fraction in _HALVES.items():
        text = re.sub(rf"(?<=\d)\s*{mark}", f" {fraction}", text).replace(mark, fraction)
    text = text.translate(_ALIKE).replace("''", '"').replace("^", "").strip()
    # Thousands as we print them, 1 250; or with commas, where a decimal point shows which is which.
    text = re.sub(
        r"(?<![\d.,/])(\d{1,3})((?: \d{3})+)(?![\d/]|\s*/)",
        lambda found: found[1] + found[2].replace(" ", ""),
        text,
    )
    text = re.sub(r"(?<![\d.,])(\d{1,3}(?:,\d{3})+)(?=\.\d)", lambda f: f[1].replace(",", ""), text)
    return re.sub(r"(?<![\d.,])(\d{1,3}(?:\.\d{3})+)(?=,\d)", lambda f: f[1].replace(".", ""), text)


def _number(text: str) -> float:
    """A plain number; a decimal comma is read, a comma that could be either is refused."""
    text = text.replace("−", "-")
    if re.fullmatch(r"[-+]?\d{1,3},\d{3}", text):
        raise QuantityError(
            f"'{text}' could mean {text.replace(',', '')} or {text.replace(',', '.')}: "
            "write it without the comma"
        )
    return float(text.replace(",", "."))


def _unit_words(kind: str) -> dict[str, float]:
    """Every word for a unit of ``kind``: those people type, and those either system shows."""
    how = KINDS[kind]
    shown_words = {s.unit: s.si_per_unit for s in (how.us, how.metric) if s.unit}
    return {
        word.lower().translate(_ALIKE): value for word, value in {**shown_words, **how.words}.items()
    }


def _joined(text: str, said: str, system: UnitSystem) -> str:
    """A length whose hyphens join feet and inches, without them; before a lone number it is a minus.

    Raises QuantityError where ``5-6`` is no feet and inches.
    """
    joined = re.sub(r"(?<=['\"A-Za-z.])\s*[-–]\s*(?=\d)", " ", text)
    bare = re.fullmatch(
        r"([-+−]?\d+)\s*[-–]\s*(\d+(?:\.\d+)?)((?:[\s-]+\d+\s*/\s*\d+)?\s*(?:\"|in)?)", joined
    )
    if bare is None:
        return joined
    if system != "us" or float(bare[2]) >= INCHES_IN_FOOT:
        raise QuantityError(
            f"'{said}' could be feet and inches, or from one to the other: write "
            f"{bare[1]}'{bare[2]}\" or one number"
        )
    return f"{bare[1]}' {bare[2]}{bare[3].replace('-', ' ').rstrip()}"


def _pointed(text: str) -> str:
    """Units of a moment with a point between: ``ft-lb``, ``in lbs``, ``Nm`` and ``N m`` read alike."""
    text = re.sub(r"(?i)(?<![a-z])(ft|in)\s*[-–·.*⋅ ]?\s*lb[sf]?\b\.?", r"\1·lb", text)
    text = re.sub(r"(?i)(?<![a-z])lb[sf]?\s*[-–·.*⋅ ]\s*(ft|in)\b\.?", r"lb·\1", text)
    return re.sub(r"(?i)(?<![a-z])(k?n)\s*[-–·.*⋅ ]?\s*m\b", r"\1·m", text)


def _summed(cleaned: str, said: str, kind: str, system: UnitSystem) -> float:
    """Numbers with units, the larger before the smaller, added up."""
    default = shown(kind, system)
    total, position, last_scale, negative = 0.0, 0, math.inf, False
    words = _unit_words(kind)
    terms = _TERM if KINDS[kind].words is LENGTH_WORDS else _POWERED_TERM
    while position < len(cleaned):
        term = terms.match(cleaned, position)
        if term is None or term.end() == position or not (term["number"] or term["top"]):
            raise QuantityError(f"'{said}' is not a {describe(kind, system)}")
        value = _number(term["number"]) if term["number"] else 0.0
        negative = negative or (term["number"] or "").startswith(("-", "−"))
        if term["bottom"]:
            value = abs(value) + _fraction(term["top"], term["bottom"], said)
        word = (term["unit"] or "").strip().lower().rstrip(".")
        # After feet a bare number means inches: 5' 6 is 5'6".
        scale = words.get(word) if word else default.si_per_unit
        if not word and position > 0:
            scale = INCH_M if math.isclose(last_scale, FOOT_M) else None
        if scale is None or not scale < last_scale:
            raise QuantityError(f"'{said}' is not a {describe(kind, system)}")
        total += abs(value) * scale
        position, last_scale = term.end(), scale
    if not math.isfinite(total):
        raise QuantityError(f"'{said}' is too large")
    return -total if negative else total


def _fraction(top: str, bottom: str, said: str) -> float:
    """Fractions of a tape have few digits; the largest numbers do not fit a quotient."""
    if max(len(top), len(bottom)) > LONGEST_FRACTION:
        raise QuantityError(f"'{said[:40]}…' is not a fraction of a tape")
    if int(bottom) == 0:
        raise QuantityError(f"'{said}' divides by zero")
    return int(top) / int(bottom)


def _proportion(text: str) -> float | None:
    """``1:8``, ``1/8`` or ``1 in 8`` as a ratio; None where it is none of them."""
    found = re.fullmatch(r"([-−]?)\s*(\d+(?:\.\d+)?)\s*(?::|/|in)\s*(\d+(?:\.\d+)?)", text)
    if found is None:
        return None
    if float(found[3]) == 0 or max(len(found[2]), len(found[3])) > LONGEST_FRACTION:
        raise QuantityError(f"'{text[:40]}' is not a ratio: write 12.5 % or 1:8")
    share = float(found[2]) / float(found[3])
    return -share if found[1] else share


def _angle(cleaned: str, said: str, kind: str, system: UnitSystem) -> float:
    """Degrees: a number, degrees and minutes, a rise over a run, a wind, a side of the world."""
    if kind == "bearing" and (wind := _wind(cleaned)) is not None:
        return wind
    if kind == "angle" and (rise := _proportion(cleaned)) is not None:
        return math.degrees(math.atan(rise))
    sign, rest = 1.0, cleaned
    if kind == "coordinate_angle" and (
        side := re.search(r"(?i)^[NESW](?![a-z])|(?<![a-z])[NESW]$", cleaned)
    ):
        sign, rest = _SIGNS[side[0].upper()], (cleaned[: side.start()] + cleaned[side.end() :]).strip()
        if rest.startswith(("-", "−", "+")):
            raise QuantityError(f"'{said}' has a sign and a side of the world: write one of them")
    return sign * _sexagesimal(rest, said, kind, system)


def _sexagesimal(text: str, said: str, kind: str, system: UnitSystem) -> float:
    found = re.fullmatch(
        r"([-−+]?)(\d+)\s*°\s*(\d+(?:[.,]\d+)?)\s*'\s*(?:(\d+(?:[.,]\d+)?)\s*\")?", text
    )
    if found is None:
        if "/" in text or "'" in text:
            raise QuantityError(f"'{said}' is not an angle: write 12.5, 12°30' or, of a slope, 8/12")
        return _summed(text, said, kind, system)
    minutes, seconds = (_number(part) if part else 0.0 for part in (found[3], found[4]))
    if minutes >= 60 or seconds >= 60:
        raise QuantityError(f"'{said}' has more than 59 minutes or seconds")
    value = int(found[2]) + minutes / 60 + seconds / 3600
    return -value if found[1] in ("-", "−") else value


def _wind(text: str) -> float | None:
    """``SE``, ``south-east``, or a surveyor's ``S 45 E``; None where it is neither."""
    word = re.sub(r"[\s-]", "", text.upper())
    for long, short in _SPELLED.items():
        word = word.replace(long, short)
    if word in WINDS:
        return WINDS[word]
    quadrant = re.fullmatch(r"([NS])(\d+(?:\.\d+)?)°?([EW])", word)
    if quadrant is None or float(quadrant[2]) > 90:
        return None
    turn = float(quadrant[2]) if quadrant[1] == "N" else 180 - float(quadrant[2])
    return turn if quadrant[3] == "E" else (360 - turn) % 360


def _clock_time(text: str) -> float:
    """Hours of the day from ``13:30``, ``1:30 pm`` or ``13.5``."""
    match = re.fullmatch(r"(?i)(\d{1,2})(?::(\d{2}))?\s*([ap])\.?\s?m\.?", text)
    if match and 1 <= int(match[1]) <= 12:
        hours = int(match[1]) % 12 + (12 if match[3].lower() == "p" else 0)
        minutes = int(match[2] or 0)
    elif match := re.fullmatch(r"(\d{1,2}):(\d{2})(?:\s*h)?", text):
        hours, minutes = int(match[1]), int(match[2])
    elif re.fullmatch(r"\d{1,2}(?:[.,]\d+)?\s*h?", text):
        return _number(text.rstrip("h ").strip())
    else:
        raise QuantityError(f"'{text}' is not a time: write 13:30, 1:30 pm or 13.5")
    if minutes >= 60:
        raise QuantityError(f"'{text}' has more than 59 minutes")
    return hours + minutes / 60


def _temperature(text: str, default: Shown) -> float:
    match = re.fullmatch(rf"({_NUMBER})\s*(°?\s*[cCfF])?", text)
    if not match:
        raise QuantityError(f"'{text}' is not a temperature: write -31 °C or -24 °F")
    unit = (match[2] or default.unit)[-1].lower()
    value = _number(match[1])
    return (value - 32) * 5 / 9 if unit == "f" else value


def kept_or_read(text: str, kind: str, system: UnitSystem, held: float | None) -> float:
    """What was typed; where that is just how the held value is written, the held value, unrounded."""
    if held is not None and text.strip() == format_value(held, kind, system):
        return held
    return parse(text, kind, system)
