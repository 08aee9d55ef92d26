"""What is done with a file that was sent, as functions that a process of its own can be given."""

import numpy as np

from openfurrow.core.design import Design
from openfurrow.core.quantities import UnitSystem, format_value
from openfurrow.exchange.ground_file import HowToRead, placed
from openfurrow.exchange.read_ground import layers_of, read_file, read_into, taking
from openfurrow.web.models import GroundFileView, LayerView


def look_at(design: Design, data: bytes, wanted: HowToRead, units: UnitSystem) -> GroundFileView:
    """What a file of the ground holds, and what would become of it. Raises DesignError."""
    file = read_file(data, wanted, units)
    local = placed(file, wanted, design.site)
    taken = taking(local, wanted, units)
    places = np.vstack([local.points[:, :2], *(shape.points[:, :2] for shape in local.shapes)])
    reach = np.ptp(places, axis=0)
    levels = local.points[:, 2] if len(local.points) else np.array([np.nan])
    return GroundFileView(
        format=file.format, shots=len(file.points), columns=file.columns, roles=file.roles,
        sample=tuple(
            tuple(format_value(value, "coordinate", units) for value in point)
            for point in local.points[:4].tolist()
        ),
        layers=tuple(LayerView(**vars(layer)) for layer in layers_of(local, wanted)),
        grid=file.grid if wanted.grid is None else wanted.grid, unit=wanted.unit or "",
        notes=taken.notes, reach=" by ".join(format_value(float(side), "run", units) for side in reach),
        lowest=format_value(float(levels.min()), "coordinate", units),
        highest=format_value(float(levels.max()), "coordinate", units),
    )


def take(design: Design, data: bytes, wanted: HowToRead, units: UnitSystem) -> tuple[Design, str]:
    """The design with a file's ground in it, and the step in words. Raises DesignError."""
    new, taken = read_into(design, data, wanted, units)
    readings = taken.survey["readings"] if taken.survey else ()
    count = len(readings) if isinstance(readings, list) else 0
    return new, f"{wanted.name or 'a file'}: {count} shots, {len(taken.features)} things"
