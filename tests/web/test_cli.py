"""The command line in this process: every verb, every refusal."""

import csv
import io
import json
import re
from pathlib import Path

import pytest

from openfurrow import quality
from openfurrow.cli import main
from openfurrow.core.plan import Plan
from openfurrow.core.quantities import in_words
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.design_json import write_design
from openfurrow.web.app import create_app


@pytest.fixture
def design_file(tmp_path: Path) -> Path:
    path = tmp_path / "ferry.json"
    path.write_text(write_design(DESIGNS["larkspur"]()))
    return path


def test_plan_prints_every_answer_and_what_stands_in_the_way(
    design_file: Path, capsys: pytest.CaptureFixture[str], demo_plan: Plan
) -> None:
    assert main(["plan", str(design_file)]) == 0
    out = capsys.readouterr().out
    for answer in demo_plan.answers:
        assert in_words(answer.label, "us") in out
    assert "stops 3, look here 10" in out and "Two people lift every piece" in out
    assert "telecom late since 2026-04-15" in out


def test_a_design_of_nothing_says_what_is_missing_and_writes_no_list(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "nothing.json"
    path.write_text('{"schema_version": 8, "name": "from nothing"}')
    assert main(["plan", str(path)]) == 0
    out = capsys.readouterr().out
    assert "still to be said: latitude, longitude, elevation, time zone" in out
    assert "stops 0" in out and "footings\n  not yet" in out
    assert main(["export", str(path), "--to", str(tmp_path / "materials.csv")]) == 2
    assert "not said yet: latitude" in capsys.readouterr().err
    assert not (tmp_path / "materials.csv").exists()
    # The ground can be written: nothing of it stands on what is missing.
    assert main(["export", str(path), "--to", str(tmp_path / "site.dxf")]) == 0


def test_plan_in_the_other_units(design_file: Path, capsys: pytest.CaptureFixture[str]) -> None:
    main(["plan", str(design_file), "--units", "metric"])
    out = capsys.readouterr().out
    assert " mm" in out and not re.search(r"\d'", out.split("stops")[0])


@pytest.mark.parametrize("name", sorted(DESIGNS))
def test_every_example_is_a_design_that_plans(
    name: str, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["example", name]) == 0
    path = tmp_path / "example.json"
    path.write_text(capsys.readouterr().out)
    assert main(["plan", str(path)]) == 0


@pytest.mark.parametrize(
    "name",
    [
        "x-design.json",
        "x-stakes.csv",
        "x-materials.csv",
        "x-plan.geojson",
        "x-site.geojson",
        "x-shots.csv",
    ],
)
def test_export_writes_one_whole_file(design_file: Path, tmp_path: Path, name: str) -> None:
    target = tmp_path / name
    assert main(["export", str(design_file), "--to", str(target)]) == 0
    text = target.read_text(encoding="utf-8")
    if name.endswith(".csv"):
        rows = list(csv.reader(io.StringIO(text)))
        assert len({len(row) for row in rows}) == 1 and len(rows) > 8
    else:
        assert json.loads(text)
    assert not [path for path in tmp_path.iterdir() if path.name.endswith(".part")]


def test_an_export_that_cannot_be_written_leaves_nothing(
    design_file: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert main(["export", str(design_file), "--to", str(tmp_path / "none" / "plan.geojson")]) == 2
    assert "No such file or directory" in capsys.readouterr().err
    assert main(["export", str(design_file), "--to", str(tmp_path / "x.pdf")]) == 2
    assert "plan.geojson" in capsys.readouterr().err
    assert [path.name for path in tmp_path.iterdir()] == ["ferry.json"]


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "not JSON"),
        ("[]", "not a JSON object"),
        ('{"schema_version": 10}', "newer"),
        ('{"schema_version": 2, "name": "x", "rows": {"rows": 0}}', "rows.rows: Rows is below"),
        ('{"schema_version": 2, "name": "x", "site": {"time_zone": "Moon"}}', "IANA time zone"),
    ],
)
def test_a_design_that_is_not_valid_is_refused_field_by_field(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], text: str, says: str
) -> None:
    path = tmp_path / "bad.json"
    path.write_text(text)
    assert main(["plan", str(path)]) == 2
    error = capsys.readouterr().err
    assert says in error and error.startswith("furrow: ")


def test_help_and_unknown_verbs(capsys: pytest.CaptureFixture[str]) -> None:
    with pytest.raises(SystemExit) as done:
        main(["help"])
    assert done.value.code == 0
    assert "export" in capsys.readouterr().out
    with pytest.raises(SystemExit) as wrong:
        main(["fly"])
    assert wrong.value.code == 2


def test_the_api_document_names_every_route(capsys: pytest.CaptureFixture[str]) -> None:
    assert main(["openapi"]) == 0
    paths = json.loads(capsys.readouterr().out)["paths"]
    assert {"/api/jobs", "/api/jobs/{job_id}/edits", "/api/jobs/{job_id}/revisions"} <= set(paths)
    for path, methods in paths.items():
        for method, operation in methods.items():
            assert operation["description"], (path, method)


def test_one_failing_check_fails_them_all_and_is_named(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path, capfd: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.setattr(
        quality,
        "checks",
        lambda: {
            "good": quality._command("true"),
            "bad": quality._command("false"),
            "also good": quality._command("true"),
        },
    )
    assert quality.run_all(tmp_path) == 1
    out = capfd.readouterr().out
    assert "--- bad: FAILED" in out and "--- also good: fine" in out
    assert "furrow: failed: bad" in out


def test_api_types_are_written_from_the_api_as_it_stands() -> None:
    root = Path(quality.__file__).resolve().parents[1]
    kept = root / "frontend/src/api/schema.d.ts"
    kept.write_text("// of another day")
    assert quality.write_api_types(root) == 0
    types = kept.read_text()
    routes = create_app(None).openapi()["paths"].keys()
    assert len(routes) > 12
    assert all(f'"{path}": {{' in types for path in routes)
