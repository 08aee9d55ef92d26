"""Demo jobs have been worked through: what they hold has been looked at, but for what is named."""

from collections.abc import Callable
from functools import wraps

from openfurrow.core.design import Design
from openfurrow.core.looked import looked_at, not_looked


def worked_through(*but: str) -> Callable[[Callable[[], Design]], Callable[[], Design]]:
    """Decorates what makes a design: all of it looked at but what lies under ``but``."""

    def decorated(make: Callable[[], Design]) -> Callable[[], Design]:
        @wraps(make)
        def made() -> Design:
            design = make()
            return looked_at(design, (path for path in not_looked(design) if not path.startswith(but)))

        return made

    return decorated
