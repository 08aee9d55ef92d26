"""Work on what strangers send, in a process of its own: bounded in time and memory, killed at will.

A process is forked from one that has the modules already, so that it begins within some ten
milliseconds. A file that eats its process harms nobody else.
"""

import multiprocessing
import resource
import threading
import time
from collections.abc import Callable
from multiprocessing import forkserver
from multiprocessing.connection import Connection
from typing import Any, TypeVar

from openfurrow.core.edits import DesignError, Problem
from openfurrow.core.lacking import Lacking
from openfurrow.store.turns import turn

T = TypeVar("T")
LONGEST_S = 20.0
WAITS_S = 10.0
# Address space, most of it only reserved: a process that has just begun holds about half of it.
MOST_BYTES = 3_000_000_000
AT_ONCE = 2
LOOKS_EVERY_S = 0.05
_turns = threading.BoundedSemaphore(AT_ONCE)
_context = multiprocessing.get_context("forkserver")


def have_ready(*modules: str) -> None:
    """Modules that a process has from its first moment; said before the first is started."""
    _context.set_forkserver_preload(list(modules))


class Left(Exception):
    """Who asked is no longer there to be answered."""


def make_ready() -> None:
    """Begin to load those modules now, so that the first who asks does not wait for it."""
    forkserver.ensure_running()


def _refuse(message: str, allowed: str) -> DesignError:
    return DesignError(
        (
            Problem(
                "file",
                "File",
                message,
                allowed,
                "Thin it, or split it, and check that it is the right file.",
            ),
        )
    )


def _within_limits(
    answer: Connection, work: Callable[..., T], given: tuple[Any, ...], tells: bool, longest_s: float
) -> None:
    """What the process does: the work, its progress, its result or its refusal sent back."""
    resource.setrlimit(resource.RLIMIT_AS, (MOST_BYTES, MOST_BYTES))
    seconds = int(longest_s) + 1
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds + 1))
    if tells:
        given = (*given, lambda share, words: answer.send(("told", (share, words))))
    try:
        answer.send(("done", work(*given)))
    except DesignError as error:
        answer.send(("refused", error.problems))
    except Lacking as lacking:
        answer.send(("lacking", lacking.paths))
    except (MemoryError, RecursionError):
        problem = _refuse("needs more memory to read than a file may", f"{MOST_BYTES // 10**9} GB")
        answer.send(("refused", problem.problems))


def apart(
    work: Callable[..., T],
    *given: Any,
    left: Callable[[], bool] = lambda: False,
    told: Callable[[float, str], None] | None = None,
    longest_s: float = LONGEST_S,
) -> T:
    """The result of ``work(*given)``, computed in a process that is ended when ``left()`` or late.

    ``work`` is a function of a module; with ``told`` it is given one more argument, to be called with
    a share done and what is being done. Raises DesignError or Lacking as the work does, DesignError
    for the limits; Left; Busy where too many are at it.
    """
    with turn(_turns, WAITS_S, "Too many files are being read at once: try again in a moment."):
        return _in_process(work, given, left, told, longest_s)


def _in_process(
    work: Callable[..., T],
    given: tuple[Any, ...],
    left: Callable[[], bool],
    told: Callable[[float, str], None] | None,
    longest_s: float,
) -> T:
    receives, sends = _context.Pipe(duplex=False)
    process = _context.Process(
        target=_within_limits, args=(sends, work, given, told is not None, longest_s), daemon=True
    )
    process.start()
    # The child has its own end by now: ours must not keep the pipe open when it dies.
    sends.close()
    deadline = time.monotonic() + longest_s
    try:
        while True:
            if receives.poll(LOOKS_EVERY_S):
                kind, found = receives.recv()
                if kind != "told":
                    break
                if told:
                    told(*found)
            if left():
                raise Left
            if time.monotonic() > deadline:
                raise _refuse("takes too long to read", f"{longest_s:.0f} s")
    except EOFError:
        raise _refuse(
            "could not be read: its reading had to be stopped",
            f"{longest_s:.0f} s and {MOST_BYTES // 10**9} GB",
        ) from None
    finally:
        process.kill()
        process.join()
        receives.close()
    if kind == "refused":
        raise DesignError(found)
    if kind == "lacking":
        raise Lacking(found)
    return found  # type: ignore[no-any-return]
