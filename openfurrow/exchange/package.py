"""All files of a job in one archive."""

import io
import re
import zipfile
from collections.abc import Callable

from openfurrow.core.as_built import as_built
from openfurrow.core.design import Design
from openfurrow.core.edits import DesignError
from openfurrow.core.fieldbook.records import Record
from openfurrow.core.labels import named
from openfurrow.core.lacking import Lacking
from openfurrow.core.plan import plan
from openfurrow.exchange.exports import EXPORTS
from openfurrow.exchange.wanted import Wanted

# Told of progress: a share from 0 to 1, and what is being done.
Tell = Callable[[float, str], None]


def file_stem(design: Design) -> str:
    """A job's name as the beginning of a file's name."""
    return re.sub(r"[^a-z0-9]+", "-", design.name.lower()).strip("-") or "job"


def told(error: DesignError | Lacking) -> str:
    """Why a file could not be written, in a line."""
    if isinstance(error, Lacking):
        return f"not said yet: {named(error.paths)}"
    return error.problems[0].message


def write_package(design: Design, records: tuple[Record, ...], tell: Tell) -> bytes:
    """A ZIP archive of every file the job can be written to."""
    tell(0.0, "planning")
    found = as_built(design, plan(design), records)
    wanted = Wanted(units=design.site.display_units)
    out, left_out = io.BytesIO(), list[str]()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for number, (name, export) in enumerate(EXPORTS.items()):
            tell((number + 1) / (len(EXPORTS) + 1), name)
            try:
                archive.writestr(f"{file_stem(design)}-{name}", export.write(design, found, wanted))
            except (DesignError, Lacking) as error:
                left_out.append(f"{name}: {told(error)}\n")
        if left_out:
            archive.writestr("left-out.txt", "".join(left_out))
    return out.getvalue()
