"""The field book in words: what a crew reads at a post, with or without a network."""

from openfurrow.core.fieldbook.built import BuiltPost
from openfurrow.core.fieldbook.ladder import Ladder
from openfurrow.core.quantities import UnitSystem, format_value

# Said of a post that reached what was planned, to the mark of a tape.
MARK_M = 0.0008


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
    if post.depth_m is None and post.off_m is None:
        return ""
    high_m = post.high_m if post.off_m is None else post.off_m
    carries = post.depth_m is not None and not post.fails
    said = [next_words(post.fails, post.next_m, units)] if post.depth_m is not None else []
    said.append(cut_words(high_m, carries, units))
    if post.refused and post.fails:
        said.append("it stopped: drill, shift inside the span, or bore and set in concrete")
    if post.asked:
        said.append("two differ: measure again, both together")
    return "; ".join(said)


def rung_words(ladder: Ladder, rung: int, units: UnitSystem) -> str:
    """What a phone says of a depth between this rung and the next, on the safe side."""
    depth = rung * ladder.step_m
    return next_words(ladder.fails[rung], ladder.next_m(depth), units)
