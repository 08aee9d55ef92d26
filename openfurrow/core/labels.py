"""Fields by what they are called, in a sentence."""

from openfurrow.core.fields import field_at

# More names than this make no sentence.
MOST_NAMED = 6


def label_of(path: str) -> str:
    """What a field is called."""
    field = field_at(path)
    return field.label if field else path


def named(paths: tuple[str, ...]) -> str:
    """Fields in a sentence; two arrays that lack the same are told once."""
    labels = tuple(dict.fromkeys(label_of(path).lower() for path in paths))
    more = f" and {len(labels) - MOST_NAMED} more" if len(labels) > MOST_NAMED else ""
    return ", ".join(labels[:MOST_NAMED]) + more
