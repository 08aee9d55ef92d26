"""The house itself: locks, addresses, file sizes, pictures, words."""

import re
import subprocess
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]


def tracked(pattern: str) -> list[Path]:
    """Files git tracks; where the tree is not a checkout, those that lie there."""
    done = subprocess.run(
        ["git", "ls-files", pattern], cwd=ROOT, capture_output=True, text=True, check=False
    )
    names = done.stdout.split() if done.returncode == 0 else []
    return [ROOT / name for name in names if (ROOT / name).exists()] or list(ROOT.glob(pattern))


def pins(lock: str) -> dict[str, str]:
    text = (ROOT / "requirements" / lock).read_text()
    return dict(re.findall(r"^([a-z0-9._-]+)(?:\[\w+\])?==([^ \\]+)", text, re.MULTILINE))


def test_the_larger_lock_holds_the_smaller() -> None:
    run, develop = pins("run.txt"), pins("develop.txt")
    assert len(run) > 20
    assert {name: develop.get(name) for name in run} == run


@pytest.mark.parametrize("lock", ["run.txt", "develop.txt", "node.txt"])
def test_every_locked_package_has_a_hash_and_no_address(lock: str) -> None:
    text = (ROOT / "requirements" / lock).read_text()
    blocks = re.split(r"\n(?=[a-z0-9])", text.strip())
    assert all("--hash=sha256:" in block for block in blocks if "==" in block)
    assert "://" not in text and "--index" not in text


def test_the_front_end_lock_names_no_place_to_fetch_from() -> None:
    text = (ROOT / "frontend/package-lock.json").read_text()
    assert '"resolved"' not in text
    assert text.count('"integrity"') > 100


def test_files_stay_short() -> None:
    long = {
        path.name: lines
        for path in tracked("openfurrow/**/*.py") + tracked("frontend/src/**/*.tsx")
        if (lines := len(path.read_text().splitlines())) > 500
    }
    assert long == {}


def test_every_picture_is_shown_and_none_is_missing() -> None:
    readme = (ROOT / "README.md").read_text()
    shown = set(re.findall(r"docs/screenshots/([\w-]+\.png)", readme))
    kept = {path.name for path in (ROOT / "docs/screenshots").glob("*.png")}
    assert shown == kept
    assert 10 <= len(kept) < 20


def test_every_command_of_the_readme_is_one_of_the_program() -> None:
    from openfurrow.cli import parser

    verbs = set(re.findall(r"`?\./furrow (\w+)", (ROOT / "README.md").read_text()))
    known = set(next(a for a in parser()._actions if a.dest == "verb").choices)
    assert verbs <= known
    assert {"start", "test", "plan", "example", "export", "shots", "bench"} <= verbs
