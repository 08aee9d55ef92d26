"""Any two operations on one job at once: both are answered, none hangs, none falls over."""

import itertools
import threading
from collections.abc import Iterator

import httpx
import pytest
from sqlalchemy import Engine

from openfurrow.demo.seed import PLANNER
from openfurrow.jobs.apart import LONGEST_S, WAITS_S
from openfurrow.web.app import create_app
from tests.conftest import running, signed_in
from tests.web.requests import APART, Asked, names_of, on_one_job

# Twice the longest that anyone is let wait for a turn and then worked for: who is not answered by
# then, however busy the machine, is not answered at all.
ANSWERED_WITHIN_S = 2 * (WAITS_S + LONGEST_S)


@pytest.fixture
def own_server(database_url: str, store: Engine) -> Iterator[httpx.Client]:
    """A server in a process of its own, which can be ended even if it hangs."""
    with running(database_url) as address, signed_in(address, PLANNER) as client:
        client.timeout = httpx.Timeout(ANSWERED_WITHIN_S)
        yield client


def at_once(client: httpx.Client, job: str, asked: list[Asked]) -> list[int]:
    """The status of each, all sent in the same moment; 0 for one that was not answered."""
    gate, answers = threading.Barrier(len(asked)), [0] * len(asked)

    def send(place: int, request: Asked) -> None:
        gate.wait()
        try:
            answers[place] = client.request(**request.sent_to(job)).status_code
        except httpx.TransportError:
            answers[place] = 0

    threads = [threading.Thread(target=send, args=pair) for pair in enumerate(asked)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return answers


def test_every_operation_is_among_those_that_are_overlapped() -> None:
    assert names_of(create_app(None).openapi()) == set(on_one_job(b"")) | APART


def test_any_two_operations_on_one_job_are_both_answered(own_server: httpx.Client) -> None:
    client = own_server
    job = next(
        f"/jobs/{line['id']}"
        for line in client.get("/jobs").json()
        if line["name"].startswith("Larkspur")
    )
    asked = on_one_job(client.get(f"{job}/files/design.json").content)
    wrong = []
    writers = sorted(name for name in asked if asked[name].writes)
    readers = sorted(asked.keys() - writers)
    # Who only looks waits for nobody: against the slowest that writes it is seen.
    pairs = [
        *itertools.combinations_with_replacement(writers, 2),
        *((name, "take_file") for name in readers),
    ]
    for one, other in pairs:
        answers = at_once(client, job, [asked[one], asked[other]])
        # Of two that want the same, the second may be told so.
        if not set(answers) <= {200, 201, 202, 204, 409}:
            wrong.append((one, other, answers))
            if 0 in answers:
                break
    assert wrong == []
    assert client.get("/jobs").status_code == 200
