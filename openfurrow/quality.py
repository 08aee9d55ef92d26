"""Everything that must hold before a change lands: lint, layers, types, tests."""

import difflib
import json
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable, Sequence
from pathlib import Path

Check = Callable[[Path], int]


def _command(*words: str, folder: str = ".") -> Check:
    def run(root: Path) -> int:
        return subprocess.run(words, cwd=root / folder, check=False).returncode

    return run


def api_types_are_current(root: Path) -> int:
    """Whether the front end's types are those of the API as it stands; shows the difference."""
    from openfurrow.web.app import create_app

    kept = root / "frontend/src/api/schema.d.ts"
    with tempfile.TemporaryDirectory() as folder:
        document, fresh = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        document.write_text(json.dumps(create_app(None).openapi()))
        done = subprocess.run(
            ["npm", "run", "--silent", "types", "--", str(document), "-o", str(fresh)],
            cwd=root / "frontend", check=False, capture_output=True, text=True,
        )
        if done.returncode:
            print(done.stdout, done.stderr)
            return done.returncode
        new, old = fresh.read_text(), kept.read_text()
    if new == old:
        return 0
    print("frontend/src/api/schema.d.ts is not current; run: ./furrow types")
    sys.stdout.writelines(
        list(difflib.unified_diff(old.splitlines(True), new.splitlines(True), "kept", "fresh"))[:40]
    )
    return 1


def write_api_types(root: Path) -> int:
    """Write the front end's types anew from the API."""
    from openfurrow.web.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        document = Path(folder) / "openapi.json"
        document.write_text(json.dumps(create_app(None).openapi()))
        return subprocess.run(
            ["npm", "run", "--silent", "types", "--", str(document), "-o", "src/api/schema.d.ts"],
            cwd=root / "frontend", check=False,
        ).returncode


def checks() -> dict[str, Check]:
    """Each check by its name, quickest first, the tests last."""
    python = sys.executable
    scripts = Path(python).parent
    return {
        "lint": _command(python, "-m", "ruff", "check", "--quiet", "."),
        "layers": _command(str(scripts / "lint-imports"), "--no-logo"),
        "types": _command(python, "-m", "mypy"),
        "API types": api_types_are_current,
        "screen types": _command("npm", "run", "--silent", "check", folder="frontend"),
        "screen lint": _command("npm", "run", "--silent", "lint", folder="frontend"),
        "tests": _command(python, "-m", "pytest"),
    }


def run_all(root: Path, only: Sequence[str] = ()) -> int:
    """Run every check, or pytest alone with ``only`` as its arguments; the worst code wins."""
    if only:
        return _command(sys.executable, "-m", "pytest", *only)(root)
    failed = []
    for name, check in checks().items():
        began = time.monotonic()
        print(f"--- {name}", flush=True)
        if check(root):
            failed.append(name)
        print(f"--- {name}: {'FAILED' if name in failed else 'fine'}, "
              f"{time.monotonic() - began:.1f} s", flush=True)
    if failed:
        print(f"furrow: failed: {', '.join(failed)}")
    return 1 if failed else 0
