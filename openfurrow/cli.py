"""The command line behind ``./furrow``."""

import argparse
import json
import re
import sys
from collections.abc import Callable, Sequence
from pathlib import Path

from openfurrow.core.as_built import as_built
from openfurrow.core.checks import LEVELS, told_remedy
from openfurrow.core.design import STAGES, Design
from openfurrow.core.edits import DesignError
from openfurrow.core.fields import array_labels
from openfurrow.core.labels import named
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import plan
from openfurrow.core.quantities import format_value, in_words
from openfurrow.core.unsaid import KEY as UNSAID
from openfurrow.demo.designs import DESIGNS
from openfurrow.exchange.design_json import read_design, write_design
from openfurrow.exchange.exports import EXPORTS, export_named
from openfurrow.exchange.package import told
from openfurrow.exchange.plan_json import plan_json
from openfurrow.exchange.wanted import LENGTH_M, Wanted
from openfurrow.store.errors import StoreError

ROOT = Path(__file__).resolve().parents[1]


class CommandError(Exception):
    """What was asked cannot be done; the text says why and what to do."""


def _load(name: str) -> Design:
    try:
        data = sys.stdin.buffer.read() if name == "-" else Path(name).read_bytes()
    except OSError as error:
        raise CommandError(f"{name}: {error.strerror}") from None
    try:
        return read_design(data)
    except DesignError as error:
        lines = [
            f"  {p.path}: {p.label} {p.message}"
            + (f"; allowed: {p.allowed}" if p.allowed else "")
            + (f"; {p.remedy}" if p.remedy else "")
            for p in error.problems
        ]
        raise CommandError(f"{name} is not a valid design:\n" + "\n".join(lines)) from None


def _plan(arguments: argparse.Namespace) -> int:
    design = _load(arguments.design)
    units = arguments.units or design.site.display_units
    found = plan(design)
    if arguments.json:
        print(plan_json(design, found, Wanted(units=units)), end="")
        return 0
    print(design.name)
    # Of one array alone nobody asks which.
    names = array_labels(design.arrays) if found.several else {}
    for stage in STAGES:
        print(f"\n{stage}")
        whose = ""
        if not any(answer.stage == stage for answer in found.answers):
            print("  not yet")
        for answer in found.answers:
            if answer.stage != stage:
                continue
            if names.get(answer.array, "") not in ("", whose):
                whose = names[answer.array]
                print(f"  {whose}")
            mark = "*" if answer.headline else " "
            text = format_value(answer.value, answer.kind, units)
            print(f"  {mark} {in_words(answer.label, units):<48} {text:>18}")
    if found.missing:
        print(f"\nstill to be said: {named(found.missing)}")
    checks = [check for check in found.checks if check.key != UNSAID]
    counts = {level: sum(check.level == level for check in checks) for level in LEVELS}
    print(f"\nstops {counts['stop']}, look here {counts['look']}, sound {counts['sound']}")
    for check in checks:
        if check.level != "sound":
            measured = format_value(check.measured, check.kind, units)
            limit = format_value(check.limit, check.kind, units)
            of = f"{names[check.array]}: " if check.array in names else ""
            print(
                f"  {check.level}: {of}{check.title}: {measured}, {limit}. "
                f"{in_words(told_remedy(check), units)}"
            )
    return 0


def _example(arguments: argparse.Namespace) -> int:
    print(write_design(DESIGNS[arguments.name]()), end="")
    return 0


def _export(arguments: argparse.Namespace) -> int:
    design = _load(arguments.design)
    target = Path(arguments.to)
    try:
        export = export_named(target.name)
    except KeyError as error:
        raise CommandError(f"{target.name}: {error.args[0]}") from None
    wanted = Wanted(
        units=arguments.units or design.site.display_units, length=arguments.length, grid=arguments.grid
    )
    try:
        written = export.write(design, as_built(design, plan(design)), wanted)
    except Lacking as error:
        raise CommandError(
            f"{target.name}: {told(error)}. Say it, then write the file again."
        ) from None
    except DesignError as error:
        raise CommandError(f"{target.name}: {told(error)}. {error.problems[0].remedy}") from None
    content = written if isinstance(written, bytes) else written.encode()
    # Written beside and moved into place, so that a full disk leaves no half file.
    part = target.with_name(f".{target.name}.part")
    try:
        part.write_bytes(content)
        part.replace(target)
    except OSError as error:
        raise CommandError(f"{target}: {error.strerror}") from None
    print(f"{target}: {len(content):,} bytes")
    return 0


def _openapi(arguments: argparse.Namespace) -> int:
    from openfurrow.web.app import create_app

    print(json.dumps(create_app(None).openapi(), indent=1, sort_keys=True))
    return 0


def _types(arguments: argparse.Namespace) -> int:
    from openfurrow.quality import write_api_types

    return write_api_types(ROOT)


# A name of a host or an IPv4 address.
HOST = r"(?i)[a-z0-9]([a-z0-9-]*[a-z0-9])?(\.[a-z0-9]([a-z0-9-]*[a-z0-9])?)*"


def _start(arguments: argparse.Namespace) -> int:
    from openfurrow.serve import Reached, serve

    files = {name: getattr(arguments, name) for name in ("certificate", "key")}
    if any(files.values()) and not arguments.host:
        raise CommandError("--certificate and --key go with --host: say by which name it is reached.")
    reached = None
    if arguments.host:
        if not re.fullmatch(HOST, arguments.host):
            raise CommandError(
                f"--host {arguments.host!r} is no name or address: write it as 192.168.1.20 or "
                "plans.example.org, without https:// and without a port."
            )
        paths = {name: Path(path) if path else None for name, path in files.items()}
        reached = Reached(arguments.host, **paths)
    return serve(ROOT, arguments.port, demo=not arguments.no_demo, reached=reached)


def _work(arguments: argparse.Namespace) -> int:
    from openfurrow.serve import work_on

    return work_on(until_stdin_closes=arguments.until_stdin_closes)


def _tests(arguments: argparse.Namespace) -> int:
    from openfurrow.quality import run_all

    return run_all(ROOT, arguments.rest)


def _shots(arguments: argparse.Namespace) -> int:
    from openfurrow.shots import take_shots

    return take_shots(ROOT, Path(arguments.to) if arguments.to else ROOT / "docs/screenshots")


def _bench(arguments: argparse.Namespace) -> int:
    import runpy

    runpy.run_path(str(ROOT / "bench" / f"{arguments.what}.py"), run_name="__main__")
    return 0


def parser() -> argparse.ArgumentParser:
    """The verbs and what each takes."""
    top = argparse.ArgumentParser(prog="furrow", description="Plan a ground-mount solar array.")
    verbs = top.add_subparsers(dest="verb", required=True)

    def verb(
        name: str, does: Callable[[argparse.Namespace], int], text: str
    ) -> argparse.ArgumentParser:
        made = verbs.add_parser(name, help=text, description=text)
        made.set_defaults(does=does)
        return made

    start = verb("start", _start, "run the application on demo data")
    start.add_argument("--port", type=int, default=8321)
    start.add_argument("--no-demo", action="store_true", help="begin with an empty store")
    start.add_argument(
        "--host", help="serve phones too, over HTTPS, by this name or address; jobs of its own"
    )
    start.add_argument("--certificate", help="a certificate in PEM for that host; else one is made")
    start.add_argument("--key", help="the key of that certificate")
    verb(
        "work", _work, "take long work from the queue of DATABASE_URL, on this or another host"
    ).add_argument("--until-stdin-closes", action="store_true", help="end with who started it")
    verb("test", _tests, "run every check and test").add_argument(
        "rest", nargs=argparse.REMAINDER, help="passed on to pytest, which then runs alone"
    )
    planner = verb("plan", _plan, "print what follows from a design")
    planner.add_argument("design", help="a design.json, or - for standard input")
    planner.add_argument("--units", choices=("us", "metric"))
    planner.add_argument("--json", action="store_true", help="for machines: SI values and their texts")
    example = verb("example", _example, "print a demo design as JSON")
    example.add_argument("name", choices=sorted(DESIGNS))
    export = verb("export", _export, "write a design's files")
    export.add_argument("design", help="a design.json, or - for standard input")
    export.add_argument("--to", required=True, help=", ".join(f"…{name}" for name in EXPORTS))
    export.add_argument("--units", choices=("us", "metric"))
    export.add_argument("--length", choices=tuple(LENGTH_M), help="unit of coordinates and columns")
    export.add_argument("--grid", type=int, default=0, help="a map grid's EPSG number")
    shots = verb("shots", _shots, "take the pictures in docs/screenshots")
    shots.add_argument("--to")
    verb("bench", _bench, "time plans, edits, the ground, the server; or kill it").add_argument(
        "what",
        nargs="?",
        choices=(
            "plans",
            "edits",
            "ground",
            "shots",
            "load",
            "durable",
            "energy",
            "structures",
            "nesting",
            "footings",
        ),
        default="plans",
    )
    verb("types", _types, "write the front end's API types anew")
    verb("openapi", _openapi, "print the API's OpenAPI document")
    return top


def main(arguments: Sequence[str] | None = None) -> int:
    """Run one verb; errors are one clear line and exit code 2."""
    given = sys.argv[1:] if arguments is None else list(arguments)
    parsed = parser().parse_args(given if given != ["help"] else ["--help"])
    try:
        return int(parsed.does(parsed))
    except (CommandError, StoreError) as error:
        print(f"furrow: {error}", file=sys.stderr)
        return 2


if __name__ == "__main__":
    sys.exit(main())
