"""Work in a process of its own: what it gives back, and how it is ended."""

import os
import time
from pathlib import Path

import numpy as np
import pytest

from openfurrow.core.edits import DesignError
from openfurrow.exchange.bounds import refuse
from openfurrow.jobs.apart import Left, apart


def doubled(number: int) -> int:
    return 2 * number


def refuses() -> None:
    raise refuse("is no file", "a file", "Choose another.")


def eats_memory() -> int:
    return len(np.ones(10**10))


def falls() -> None:
    os.abort()


def dawdles(path: Path) -> None:
    time.sleep(20)
    path.write_text("done")


def test_a_result_and_a_refusal_come_back() -> None:
    assert apart(doubled, 21) == 42
    with pytest.raises(DesignError, match="is no file"):
        apart(refuses)


def test_what_eats_memory_or_dies_is_refused_and_harms_nobody() -> None:
    with pytest.raises(DesignError, match="memory"):
        apart(eats_memory)
    with pytest.raises(DesignError, match="stopped"):
        apart(falls)
    assert apart(doubled, 1) == 2


def test_what_takes_too_long_or_is_left_is_ended(tmp_path: Path) -> None:
    path = tmp_path / "ended"
    with pytest.raises(DesignError, match="too long"):
        apart(dawdles, path, longest_s=0.3)
    asked = iter([False, True])
    with pytest.raises(Left):
        apart(dawdles, path, left=lambda: next(asked))
    assert not path.exists()
