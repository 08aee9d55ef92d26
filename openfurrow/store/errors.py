"""What can go wrong in the store, in the words of the job."""

from dataclasses import dataclass

from openfurrow.core.edits import Difference


class StoreError(Exception):
    """The store cannot do it; the text says why and what to do."""


class NotFound(StoreError):
    """There is no such thing, or it is not this account's to see."""


class NotAllowed(StoreError):
    """The account may see it but not change it."""


class Moved(StoreError):
    """Someone wrote in between: what was computed is looked at again before it is stored."""


class Busy(StoreError):
    """Too much is asked at once; nothing was stored, and it can be asked again in a moment."""


class TooMany(StoreError):
    """Too many wrong passwords; ``wait_s`` says when the next may be tried."""

    def __init__(self, wait_s: int) -> None:
        """Keep the time to wait."""
        self.wait_s = wait_s
        super().__init__(
            f"Too many wrong passwords for this name or from here: wait {-(-wait_s // 60)} minutes."
        )


@dataclass(frozen=True)
class Clash:
    """Both sides of one field since the revision they share; empty where a side left it alone.

    ``together``: of this list what both did is kept; there is nothing to choose.
    """

    path: str
    label: str
    base: str
    mine: str
    theirs: str
    together: bool


class Conflict(StoreError):
    """Someone saved in between. Holds both sides; nothing has been stored or lost."""

    def __init__(self, head: int, author: str, note: str, clashes: tuple[Clash, ...]) -> None:
        """Keep what a person needs to decide."""
        self.head, self.author, self.note, self.clashes = head, author, note, clashes
        super().__init__(f"{author} saved revision {head} in between: choose field by field")


class Late(StoreError):
    """An edit made on an older step that cannot be had beside what was done since; holds both sides."""

    def __init__(self, clashes: tuple[Clash, ...], text: str = "") -> None:
        """Keep what a person needs to decide; the text tells the first."""
        self.clashes = clashes
        first = clashes[0]
        super().__init__(
            text
            or (
                f"{first.label} was changed in another tab in between: now {first.theirs or 'gone'}, "
                f"here {first.mine or 'gone'}. Nothing was changed: type it again if you want it so."
            )
        )


def clashes_of(
    mine: tuple[Difference, ...], theirs: tuple[Difference, ...], together: frozenset[str]
) -> tuple[Clash, ...]:
    """Every field either side changed, with what each wants; ``together`` are lists that keep both."""
    ours = {d.path: d for d in mine}
    others = {d.path: d for d in theirs}
    paths = [*ours, *(path for path in others if path not in ours)]
    return tuple(
        Clash(
            path,
            (ours.get(path) or others[path]).label,
            (ours.get(path) or others[path]).before,
            ours[path].after if path in ours else "",
            others[path].after if path in others else "",
            path in together,
        )
        for path in paths
    )
