"""The benchmarks still run: each on its smallest job, for what it prints and never for its times."""

import importlib.util
import os
import re
import subprocess
import sys
from pathlib import Path
from types import ModuleType

import pytest

from openfurrow.core.design import STAGES

BENCH = Path(__file__).resolve().parents[2] / "bench"


def bench(name: str) -> ModuleType:
    spec = importlib.util.spec_from_file_location(f"bench_{name}", BENCH / f"{name}.py")
    assert spec and spec.loader
    module = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(module)
    return module


def numbers(line: str) -> list[float]:
    return [float(word) for word in re.findall(r"(?<![\w.-])\d+\.?\d*", line)]


def test_plans_are_timed_against_a_bound(capsys: pytest.CaptureFixture[str]) -> None:
    bench("plans").plans((40, 80))
    head, demo, *_, growth = capsys.readouterr().out.splitlines()
    assert "x bound" in head and demo.startswith("Larkspur Ferry landing")
    assert numbers(demo)[0] == 36 and numbers(demo)[-1] > 0
    assert "time ~ modules^" in growth


def test_every_sheet_is_timed_as_the_field_grows(capsys: pytest.CaptureFixture[str]) -> None:
    bench("plans").drawn((40, 80))
    head, *lines = capsys.readouterr().out.splitlines()
    assert numbers(head) == [48, 72]
    assert [line.split()[0] for line in lines] == ["plan", "job", "scene", *STAGES]
    assert all(numbers(line)[0] > 0 for line in lines)


def test_the_ground_is_timed_against_scipy(capsys: pytest.CaptureFixture[str]) -> None:
    bench("ground").ground((400,))
    head, line = capsys.readouterr().out.splitlines()
    assert "x Delaunay" in head and "x scipy" in head
    assert numbers(line)[0] == 400 and len(numbers(line)) == 8
    bench("ground").breaks((300,))
    *_, lines = capsys.readouterr().out.splitlines()
    assert numbers(lines)[:2] == [300 + 20 * 60, 20]


def test_energy_is_timed_against_the_same_chain_elsewhere(capsys: pytest.CaptureFixture[str]) -> None:
    """How far a sweep lies off the loop is no time: it is held here."""
    energy = bench("energy")
    energy.years(2)
    one, sweep = capsys.readouterr().out.splitlines()
    assert "x the same in pvlib calls" in one and "x as fast as the loop" in sweep
    assert numbers(sweep)[-1] < 0.1
    energy.fills((400,))
    _, line = capsys.readouterr().out.splitlines()
    assert 380 <= numbers(line)[0] <= 402


def test_an_edit_is_timed_on_surveys_of_any_size() -> None:
    head, *lines = apart("shots", "main(2, (100, 300))").splitlines()
    assert "without its plan" in head
    assert [numbers(line)[0] for line in lines] == [100, 300]
    assert all(min(numbers(line)) > 0 for line in lines)


def test_edits_are_timed_from_key_to_answer() -> None:
    """In a process of its own: a second browser's loop cannot run beside this one's."""
    call = "import runpy; runpy.run_path('bench/edits.py')['main'](edits=1, warm=0)"
    done = subprocess.run(
        [sys.executable, "-c", call],
        cwd=BENCH.parent,
        capture_output=True,
        text=True,
        check=False,
        env=os.environ | {"PYTHONPATH": str(BENCH.parent)},
    )
    assert done.returncode == 0, done.stderr[-2000:]
    head, *watched = done.stdout.splitlines()
    assert "bare round trip" in head
    assert [line.split()[0] for line in watched] == ["arrays.1.rows.tilt_deg", "site.frost_depth_m"]
    assert all("x plan" in line and numbers(line)[0] > 0 for line in watched)


def test_the_server_is_loaded_beside_a_route_that_does_nothing() -> None:
    done = apart("load", "main(seconds=0.4, edits=8)")
    head, *lines = done.splitlines()
    assert "bare/s" in head and "ratio" in head
    assert [numbers(line)[0] for line in lines[:3]] == [1, 4, 16]
    assert all(rate > 0 for line in lines[:3] for rate in numbers(line))
    beside = [line for line in lines if line.startswith("beside")]
    assert ["422" in line for line in beside] == [True, True, False]
    assert lines[-1].startswith("memory over 8 edits")


def test_what_was_confirmed_outlives_kills() -> None:
    """The benchmark itself fails where an edit that was confirmed is lost."""
    done = apart("durable", "killing(2, 5); saving(3, 2)")
    kills, saves = done.splitlines()
    assert kills.startswith("2 kills") and "0 of 10 writers lost one" in kills
    assert saves.startswith("3 writers:")


def apart(name: str, call: str) -> str:
    """What a benchmark prints, run in a process of its own."""
    code = f"from bench import {name}; {name}.{call.replace('; ', f'; {name}.')}"
    done = subprocess.run(
        [sys.executable, "-c", code],
        cwd=BENCH.parent,
        capture_output=True,
        text=True,
        check=False,
        env=os.environ | {"PYTHONPATH": str(BENCH.parent)},
    )
    assert done.returncode == 0, done.stderr[-2000:]
    return done.stdout
