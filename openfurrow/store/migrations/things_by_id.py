"""How version 3 of the document gave the things of lists their ids: frozen as it was done.

A stored job is walked from its first revision on, and each account's steps after the revision they
began from: what is still the same thing by likeness keeps the id that it has in the document before.
"""

import hashlib
import json
from difflib import SequenceMatcher
from typing import Any

Document = dict[str, Any]
Thing = dict[str, Any]

LISTS = ("surveys", "features", "test_holes", "tickets", "notes")
NOTHING: tuple[object, ...] = (None, "", 0, False)


def _said(thing: Thing) -> Thing:
    return {name: value for name, value in thing.items() if name != "id"}


def _text(thing: Thing) -> str:
    return json.dumps(_said(thing), sort_keys=True)


# How much of what was said must stay: of two that bear different names nearly all.
ENOUGH, ENOUGH_RENAMED = 0.5, 0.75


def _likeness(old: Thing, new: Thing) -> float:
    """The share of what was said of a thing that another says too; nought where that is too little."""
    said = [name for name, value in _said(old).items() if value not in NOTHING and value != []]
    share = sum(1 for name in said if new.get(name) == old[name]) / max(len(said), 1)
    renamed = bool(old.get("name") and new.get("name") and old["name"] != new["name"])
    return share if share >= (ENOUGH_RENAMED if renamed else ENOUGH) else 0.0


def _ids(before: list[Thing], now: list[Thing]) -> list[str]:
    """The ids of things by those of the document before; empty for what is new."""
    found = [""] * len(now)
    old, new = [_text(thing) for thing in before], [_text(thing) for thing in now]
    for tag, i, i_end, j, j_end in SequenceMatcher(None, old, new, autojunk=False).get_opcodes():
        if tag == "equal":
            for number in range(i, i_end):
                found[j + number - i] = before[number]["id"]
            continue
        # The likest pairs first; each thing is one thing.
        pairs = sorted(
            ((_likeness(before[k], now[m]), -k, -m) for k in range(i, i_end) for m in range(j, j_end)),
            reverse=True,
        )
        gone: set[int] = set()
        for likeness, k, m in pairs:
            if likeness and -k not in gone and not found[-m]:
                found[-m] = before[-k]["id"]
                gone.add(-k)
    return found


def with_ids(document: Document, before: Document | None, where: str) -> Document:
    """A document of version 2 as one of version 3; ``before`` is the one before it, of version 3.

    ``where`` names the document, so that what is new in it gets an id that nothing else has.
    """
    site = dict(document.get("site", {}))
    for name in LISTS:
        now = [_said(thing) for thing in site.get(name, [])]
        if not now:
            continue
        ids = _ids((before or {}).get("site", {}).get(name, []), now)
        for number, thing in enumerate(now):
            made = hashlib.sha256(f"{where} {name} {number}".encode()).hexdigest()[:12]
            thing["id"] = ids[number] or made
        site[name] = now
    return {**document, "schema_version": 3, "site": site}
