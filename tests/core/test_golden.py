"""The demo jobs give what they gave: nothing moves unless it is said here, with the reason."""

import json

import pytest

from tests.golden import DEMOS, Kept, kept_of, path_of

# "part key" of an answer, a rule or a sheet as it was kept, and the key as it is now.
MOVED: dict[str, str] = {}
# What is meant to differ from the kept files until they are written anew: "part key" and why.
MEANT: dict[str, str] = {}


def differences(was: Kept, now: Kept) -> list[str]:
    """Every part and key whose value differs, is gone or is new."""
    found = []
    for part in was.keys() | now.keys():
        before, after = was.get(part, {}), now.get(part, {})
        if not isinstance(before, dict):
            found += [part] if before != after else []
            continue
        before = {MOVED.get(f"{part} {key}", key): value for key, value in before.items()}
        found += [
            f"{part} {key}" for key in before.keys() | after.keys() if before.get(key) != after.get(key)
        ]
    return sorted(found)


@pytest.mark.parametrize("name", DEMOS)
def test_a_demo_gives_what_it_gave(name: str) -> None:
    was = json.loads(path_of(name).read_text())
    now = json.loads(json.dumps(kept_of(name)))
    assert [one for one in differences(was, now) if one not in MEANT] == []


def test_what_is_kept_sees_a_number_move() -> None:
    """One answer a hair off, a rule gone, a drawing changed: each is named."""
    now = json.loads(path_of("larkspur").read_text())
    was = json.loads(path_of("larkspur").read_text())
    was["answers"]["footings.depth"][0] *= 1.0000001
    del was["checks"]["rows.overlap" if "rows.overlap" in was["checks"] else "rows.grass"]
    drawing = next(key for key in was["sheets"] if "drawing" in key)
    was["sheets"][drawing] = "another"
    found = differences(was, now)
    assert len(found) == 3 and "answers footings.depth" in found and f"sheets {drawing}" in found
