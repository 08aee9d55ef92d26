"""The design as a JSON document, read with care and written for people to diff."""

import json
from typing import NoReturn

from openfurrow.core.design import Design
from openfurrow.core.design_versions import read_document
from openfurrow.exchange.bounds import check_document, refuse

LARGEST_BYTES = 4_000_000


def _no_constant(name: str) -> NoReturn:
    raise ValueError(f"{name} is not a number a design can hold")


def read_design(data: bytes) -> Design:
    """A design from the bytes of a file. Raises DesignError saying what is wrong and what to do."""
    if len(data) > LARGEST_BYTES:
        raise refuse(
            f"is {len(data):,} bytes",
            f"at most {LARGEST_BYTES:,} bytes",
            "A design is a few kilobytes: check that this is the right file.",
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise refuse(
            f"is not UTF-8 text (byte {error.start})", "UTF-8", "Save it again as UTF-8."
        ) from None
    try:
        document = json.loads(text, parse_constant=_no_constant)
    except json.JSONDecodeError as error:
        raise refuse(
            f"is not JSON: line {error.lineno}, column {error.colno}: {error.msg}",
            "JSON",
            "Export the design again, or mend that line.",
        ) from None
    except (ValueError, RecursionError) as error:
        raise refuse(
            f"is not a design: {error}", "JSON with finite numbers", "Export the design again."
        ) from None
    check_document(document)
    return read_document(document)


def write_design(design: Design) -> str:
    """The design as indented JSON, SI units, keys in the order of the job."""
    return json.dumps(design.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"
