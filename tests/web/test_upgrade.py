"""Stored jobs of the second version of the document: things get ids, once, and stay themselves."""

import json
from collections.abc import Iterator
from typing import Any

import pytest
from alembic import command
from alembic.config import Config
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import Engine, create_engine, text

from openfurrow.core.design import Design
from openfurrow.core.design_versions import read_document
from openfurrow.demo.designs import larkspur
from openfurrow.store import database
from openfurrow.store.migrations.things_by_id import with_ids

Thing = dict[str, Any]
JOB = "00000000-0000-0000-0000-0000000000aa"


def of_version_two(design: Design, *features: Thing) -> dict[str, Any]:
    """The document as version 2 wrote it: no ids, nothing of a structure."""
    data = json.loads(design.model_dump_json()) | {"schema_version": 2}
    (array,) = data.pop("arrays")
    data |= {stage: array[stage] for stage in ("rows", "footings", "frame", "modules")}
    structure, data["sun"]["turn_deg"] = array["structure"], data["rows"].pop("turn_deg")
    del data["footings"]["family"], data["footings"]["depths"]
    for name in ("post_section", "span_limit_m", "cantilever_ratio", "shifts", "post_top_m"):
        data["footings"][name] = structure[name]
    for name in ("purlin_section", "beam_section", "strut_section", "strut_reach_m", "strut_foot_m"):
        data["frame"][name] = structure[name]
    for name in ("surveys", "features", "test_holes", "tickets", "notes"):
        for thing in data["site"][name]:
            thing.pop("id", None)
    if features:
        data["site"]["features"] = [dict(one) for one in features]
    return data


def drain(name: str, **more: object) -> Thing:
    return {
        "name": name,
        "kind": "drain",
        "points": [[0.0, 0.0], [float(len(name)), 5.0]],
        "how_sure": "measured",
        "depth_m": 1.0,
        "note": "as dug",
    } | more


@pytest.fixture
def old_database(database_url: str) -> Iterator[Engine]:
    """A database of its own at the third migration."""
    maker = create_engine(
        database_url.replace("postgresql://", "postgresql+psycopg://"), isolation_level="AUTOCOMMIT"
    )
    with maker.connect() as connection:
        connection.execute(text("create database upgraded"))
    address = database_url.rsplit("/", 1)[0] + "/upgraded"
    if "?" in database_url:
        address += "?" + database_url.split("?", 1)[1]
    engine = database.open_database(address)
    config = Config()
    config.set_main_option("script_location", str(database.files("openfurrow.store") / "migrations"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "0003")
    yield engine
    engine.dispose()
    with maker.connect() as connection:
        connection.execute(text("drop database upgraded with (force)"))
    maker.dispose()


def test_a_stored_job_keeps_its_things_apart_through_revisions_and_drafts(old_database: Engine) -> None:
    plain = larkspur()
    first = of_version_two(plain, drain("north"), drain("south"))
    second = of_version_two(
        plain, drain("new", depth_m=0.4), drain("north"), drain("south", depth_m=2.0)
    )
    step = of_version_two(plain, drain("new", depth_m=0.4), drain("south", depth_m=2.5))
    with old_database.begin() as connection:
        connection.execute(
            text("insert into account (id, name, password_hash) values (1, 'Wren', 'x')")
        )
        connection.execute(text("insert into job (id) values (:job)"), {"job": JOB})
        for number, document in ((1, first), (2, second)):
            connection.execute(
                text(
                    "insert into revision (job_id, number, parent, author_id, note, design) values "
                    "(:job, :number, :parent, 1, '', cast(:design as jsonb))"
                ),
                {
                    "job": JOB,
                    "number": number,
                    "parent": number - 1 or None,
                    "design": json.dumps(document),
                },
            )
        connection.execute(
            text(
                "insert into draft (job_id, account_id, base, position, counter) "
                "values (:job, 1, 2, 5, 5)"
            ),
            {"job": JOB},
        )
        connection.execute(
            text(
                "insert into draft_step (job_id, account_id, number, path, label, design) values "
                "(:job, 1, 5, '', '', cast(:design as jsonb))"
            ),
            {"job": JOB, "design": json.dumps(step)},
        )
    database.migrate(old_database)
    with old_database.connect() as connection:
        rows = connection.execute(text("select design, upgraded from revision order by number")).all()
        (kept,) = connection.execute(text("select design, upgraded from draft_step")).all()
    # What was saved stays as it was.
    assert [row.design for row in rows] == [first, second] and kept.design == step
    names = [
        {one["name"]: one["id"] for one in row.upgraded["site"]["features"]} for row in (*rows, kept)
    ]
    assert names[0]["north"] == names[1]["north"] and names[0]["south"] == names[1]["south"]
    assert names[2] == {"new": names[1]["new"], "south": names[0]["south"]}
    for row, was in zip((*rows, kept), (first, second, step), strict=True):
        design = read_document(row.upgraded)
        assert of_version_two(design) == of_version_two(read_document(was))
        assert [one.id for one in design.site.surveys] == [
            one["id"] for one in rows[0].upgraded["site"]["surveys"]
        ]


worked = st.lists(
    st.tuples(st.sampled_from(["add", "change", "remove"]), st.integers(0, 9)), max_size=6
)


@given(st.lists(worked, min_size=1, max_size=4))
def test_ids_are_each_thing_s_own_and_what_stays_keeps_its_own(
    walk: list[list[tuple[str, int]]],
) -> None:
    """Random work on a list, document after document; what nobody touched is still the same."""
    things, before, known = [drain("a"), drain("b")], None, {}
    for number, edits in enumerate([[], *walk]):
        for edit, (what, at) in enumerate(edits):
            if what == "add":
                things.insert(at % (len(things) + 1), drain(f"n{number}-{edit}", depth_m=0.3 + edit))
            elif things and what == "remove":
                del things[at % len(things)]
            elif things:
                place = at % len(things)
                things[place] = things[place] | {"depth_m": 5.0 + number + edit}
        document = with_ids(
            {"schema_version": 2, "site": {"features": list(things)}}, before, f"d{number}"
        )
        now = {one["name"]: one["id"] for one in document["site"]["features"]}
        assert len(set(now.values())) == len(now)
        for name, its in now.items():
            assert known.setdefault(name, its) == its
        before = document


def test_a_file_of_version_two_is_read_with_the_places_as_ids() -> None:
    design = read_document(of_version_two(larkspur()))
    assert [one.id for one in design.site.features] == [
        str(number) for number in range(len(design.site.features))
    ]
    assert design == larkspur()
