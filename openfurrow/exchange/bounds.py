"""How large what is read may be, seen before any work is done on it.

A file within its bytes can still be a million lines, one line of megabytes or a thousand levels deep.
"""

from xml.etree.ElementTree import Element, TreeBuilder

import numpy as np

from openfurrow.core.edits import DesignError, Problem

MOST_LINES = 1_600_000
MOST_TABLE_LINES = 200_100
LONGEST_LINE = 4_000
MOST_COLUMNS = 60
DEEPEST_XML = 40
MOST_ELEMENTS = 500_000
DEEPEST_JSON = 12
MOST_VALUES = 300_000
# What a path in a document may show of its names: more would fill a page with one problem.
LONGEST_NAME = 60


def refuse(message: str, allowed: str, remedy: str) -> DesignError:
    """The error for a file that cannot be taken."""
    return DesignError((Problem("file", "File", message, allowed, remedy),))


def check_lines(data: bytes, most: int, longest: int = LONGEST_LINE) -> None:
    """Refuse text of too many lines or of a line that is too long."""
    ends = np.flatnonzero(np.frombuffer(data, dtype=np.uint8) == ord("\n"))
    if len(ends) > most:
        raise refuse(f"holds {len(ends):,} lines", f"at most {most:,}", "Thin it, or split it.")
    lengths = np.diff(ends, prepend=-1, append=len(data))
    if lengths.max() > longest + 1:
        raise refuse(
            f"has a line of {lengths.max():,} letters (line {int(lengths.argmax()) + 1})",
            f"at most {longest:,} letters a line",
            "Check that this is the right file.",
        )


def check_elements(data: bytes) -> None:
    """Refuse XML of more elements than are read: each opens, and most close, with a bracket."""
    count = data.count(b"<")
    if count > 2 * MOST_ELEMENTS:
        raise refuse(
            f"holds {count:,} marks of XML", f"at most {2 * MOST_ELEMENTS:,}", "Thin it, or split it."
        )


class BoundedTree(TreeBuilder):
    """A tree of XML elements that grows neither too deep nor too large."""

    def __init__(self) -> None:
        """Nothing yet."""
        super().__init__()
        self._depth = self._count = 0

    def start(self, tag: str, attrs: dict[str, str], /) -> Element:
        """One more element. Raises DesignError beyond the limits."""
        self._depth += 1
        self._count += 1
        if self._depth > DEEPEST_XML:
            raise refuse(
                f"is nested more than {DEEPEST_XML} elements deep",
                f"at most {DEEPEST_XML}",
                "Check that this is the right file.",
            )
        if self._count > MOST_ELEMENTS:
            raise refuse(
                f"holds more than {MOST_ELEMENTS:,} elements",
                f"at most {MOST_ELEMENTS:,}",
                "Thin it, or split it.",
            )
        return super().start(tag, attrs)

    def end(self, tag: str, /) -> Element:
        """An element is whole."""
        self._depth -= 1
        return super().end(tag)


def _is_text(value: str) -> bool:
    """Whether a database and a file can hold it: no NUL, no lone half of a pair."""
    if "\x00" in value:
        return False
    try:
        value.encode()
    except UnicodeEncodeError:
        return False
    return True


def check_document(document: object) -> None:
    """Refuse a JSON document that is too large or too deep, or holds what is not text."""
    waiting: list[tuple[object, str, int]] = [(document, "", 0)]
    count = 0
    while waiting:
        value, path, depth = waiting.pop()
        if depth > DEEPEST_JSON:
            raise refuse(
                f"is nested more than {DEEPEST_JSON} deep at {path}",
                f"at most {DEEPEST_JSON}",
                "Export the design again.",
            )
        parts: list[tuple[object, object]] = []
        if isinstance(value, dict):
            parts = list(value.items())
        elif isinstance(value, list):
            parts = list(enumerate(value))
        elif isinstance(value, str) and not _is_text(value):
            raise DesignError(
                (
                    Problem(
                        path or "design",
                        path or "Design",
                        "holds a character that is not text",
                        "letters, digits, signs",
                        "Type it again.",
                    ),
                )
            )
        count += len(parts)
        if count > MOST_VALUES:
            raise refuse(
                f"holds more than {MOST_VALUES:,} values",
                f"at most {MOST_VALUES:,}",
                "A design is a few kilobytes: check that this is the right file.",
            )
        for name, part in parts:
            step = str(name)[:LONGEST_NAME].encode("utf-8", "replace").decode()
            waiting.append((part, f"{path}.{step}" if path else step, depth + 1))
