"""The field book in words: what a crew reads at a post, with or without a network."""

from openfurrow.core.codes import constant
from openfurrow.core.fieldbook.posts import BuiltPost
from openfurrow.core.fieldbook.strings import Tested
from openfurrow.core.fieldbook.trench import Station
from openfurrow.core.footings.ladder import Ladder
from openfurrow.core.quantities import UnitSystem, format_value

# Said of a post that reached what was planned, to the mark of a tape.
MARK_M = 0.0008
TWO_DIFFER = "two differ: measure again, both together"


def cut_words(high_m: float, carries: bool, units: UnitSystem) -> str:
    """What to do with the top of a post that stands higher or lower than planned.

    One that does not carry is not cut: it may yet go deeper.
    """
    if abs(high_m) < MARK_M:
        return "top as planned"
    much = format_value(abs(high_m), "tape", units)
    if high_m < 0:
        return f"top {much} too low"
    return f"cut {much} off the top" if carries else f"stands {much} high: not cut before it carries"


def next_words(fails: tuple[str, ...], next_m: float | None, units: UnitSystem) -> str:
    """Whether it carries, what it does not carry, and where it would."""
    if not fails:
        return "sound at this depth"
    deeper = (
        f"carries at {format_value(next_m, 'tape', units)}"
        if next_m is not None
        else "carries at no depth that is looked at"
    )
    return f"not sound: {', '.join(fails)}; {deeper}"


def post_words(post: BuiltPost, units: UnitSystem) -> str:
    """What is said of a post that was measured; nothing of one that was not.

    How high it stands is read by the rod, where somebody has, and not told from its depth.
    """
    leans = _leans_words(post, units)
    if post.depth_m is None and post.off_m is None:
        return leans
    high_m = post.high_m if post.off_m is None else post.off_m
    carries = post.depth_m is not None and not post.fails
    said = [next_words(post.fails, post.next_m, units)] if post.depth_m is not None else []
    said.append(cut_words(high_m, carries, units))
    if post.refused and post.fails:
        said.append(f"it stopped: {ways_on(post)}")
    if leans:
        said.append(leans)
    if post.asked:
        said.append(TWO_DIFFER)
    return "; ".join(said)


def ways_on(post: BuiltPost) -> str:
    """What may be done where a post or a bore stopped short of what carries."""
    if post.poured:
        return "break through, shift it inside the span, or a wider bore"
    if post.screwed:
        return "drill first, a smaller helix, shift it inside the span, or bore and set it in concrete"
    return "drill, shift it inside the span, or bore and set it in concrete"


def _leans_words(post: BuiltPost, units: UnitSystem) -> str:
    """Said of a post that was held to a level."""
    if post.leans_deg is None:
        return ""
    leans = f"{format_value(post.leans_deg, 'angle', units)} off plumb"
    most = constant("common", "post_plumb_deg").value
    return leans if post.leans_deg <= most else f"{leans}: pull it straight"


def cover_words(station: Station, units: UnitSystem) -> str:
    """What is said of a place of the trench that was measured."""
    match station.verdict:
        case "not yet":
            return ""
        case "not sound":
            short = format_value(station.least_m - (station.cover_m or 0.0), "tape", units)
            deeper = f"dig {short} deeper: less than is asked for"
            return f"{deeper}; {TWO_DIFFER}" if station.asked else deeper
        case "asked":
            return TWO_DIFFER
        case "shallow":
            return "enough by the rules, less than planned"
        case "sound":
            return "as planned"


def string_words(string: Tested, units: UnitSystem) -> str:
    """What is said of a string that was measured."""
    match string.verdict:
        case "not yet":
            said = []
        case "reversed":
            said = ["plus is on minus: a plug is reversed"]
        case "asked":
            said = []
        case "sound":
            said = ["as its modules should"]
        case "not sound":
            said = [_wrong_words(string, units)]
    if string.insulated is not None:
        said.append("insulated" if string.insulated else "not insulated: leave it open")
    if string.currents:
        said.append(_running_words(string, units))
    if string.asked or string.runs == "asked":
        said.append(TWO_DIFFER)
    return "; ".join(filter(None, said))


def _running_words(string: Tested, units: UnitSystem) -> str:
    """What its current says, beside what its light gives."""
    last = string.currents[-1]
    assert last.beside is not None
    expected = format_value(string.expected_a(last.beside), "current", units)
    match string.runs:
        case "dim":
            return "too little light to tell by its current"
        case "not sound":
            return f"should run at {expected} in that light: look for shade, dirt, a plug, a bypass"
        case "weak":
            return "runs weaker than the others: look for shade, dirt, or a bypassed module"
        case "sound":
            return "runs as its light lets it"
        case _:
            return ""


def _wrong_words(string: Tested, units: UnitSystem) -> str:
    """What a wrong voltage looks like, the first that is wrong."""
    wrong = next(record for record in string.records if not string.right(record))
    assert wrong.beside is not None
    expected = format_value(string.expected_v(wrong.beside), "voltage", units)
    off = string.missing(wrong)
    if not off:
        return f"should be {expected}: look for shade, or a hurt module"
    less = "fewer" if off > 0 else "more"
    return f"should be {expected}: as if {abs(off)} module{'s' * (abs(off) > 1)} {less}"


def rung_words(ladder: Ladder, rung: int, units: UnitSystem) -> str:
    """What a phone says of a depth between this rung and the next, on the safe side."""
    depth = rung * ladder.step_m
    return next_words(ladder.fails[rung], ladder.next_m(depth), units)
