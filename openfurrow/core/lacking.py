"""What only people can say and nobody has said yet: raised where it is asked for, never guessed."""

from typing import TypeVar

T = TypeVar("T")


class Lacking(Exception):
    """Nothing can be said of it before these paths of the design hold something."""

    def __init__(self, paths: tuple[str, ...]) -> None:
        """Keep the paths, in the order they are asked for."""
        self.paths = paths
        super().__init__(f"not said yet: {', '.join(paths)}")


def said(path: str, value: T | None) -> T:
    """The value, where it has been said. Raises Lacking."""
    if value is None:
        raise Lacking((path,))
    return value
