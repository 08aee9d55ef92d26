"""Everything that must hold before a change lands: lint, layers, types, tests."""

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


def write_api_types(root: Path) -> int:
    """Write the front end's types from the API as it stands; they are kept nowhere else."""
    from openfurrow.web.app import create_app

    with tempfile.TemporaryDirectory() as folder:
        document = Path(folder) / "openapi.json"
        document.write_text(json.dumps(create_app(None).openapi()))
        return subprocess.run(
            ["npm", "run", "--silent", "types", "--", str(document), "-o", "src/api/schema.d.ts"],
            cwd=root / "frontend",
            check=False,
        ).returncode


def checks() -> dict[str, Check]:
    """Each check by its name, quickest first, the tests last."""
    python = sys.executable
    scripts = Path(python).parent
    pytest = (python, "-m", "pytest", "--hypothesis-profile=whole")
    return {
        "lint": _command(python, "-m", "ruff", "check", "--quiet", "."),
        "format": _command(python, "-m", "ruff", "format", "--quiet", "--check", "."),
        "layers": _command(str(scripts / "lint-imports"), "--no-logo"),
        "types": _command(python, "-m", "mypy"),
        "API types": write_api_types,
        "screen types": _command("npm", "run", "--silent", "check", folder="frontend"),
        "screen format": _command("npm", "run", "--silent", "format", folder="frontend"),
        "screen lint": _command("npm", "run", "--silent", "lint", folder="frontend"),
        "screen tests": _command("npm", "run", "--silent", "test", folder="frontend"),
        # What only computes takes every core; what asks a server for its speed has the machine alone.
        "tests of the core": _command(*pytest, "tests/core", "tests/reference", "-n", "auto"),
        "tests of the server": _command(*pytest, "tests/web"),
        # A browser waits more than it works: one for each core, each with a server of its own.
        "tests of the screens": _command(*pytest, "tests/browser", "-n", "auto", "--dist", "loadfile"),
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
        print(
            f"--- {name}: {'FAILED' if name in failed else 'fine'}, {time.monotonic() - began:.1f} s",
            flush=True,
        )
    if failed:
        print(f"furrow: failed: {', '.join(failed)}")
    return 1 if failed else 0
