"""From metres of a drawing to points of a sheet."""

from dataclasses import dataclass

from openfurrow.sheets.marks import Drawing, Point


@dataclass(frozen=True)
class Scale:
    """A drawing fitted on a sheet ``width`` by ``height``: ``across`` and ``up`` points a metre."""

    width: float
    height: float
    left: float
    top: float
    west: float
    north: float
    across: float
    up: float

    def at(self, point: Point) -> Point:
        """Where a point of the drawing lies on the sheet, whose y runs down."""
        x, y = point
        return self.left + (x - self.west) * self.across, self.top + (self.north - y) * self.up


def fitted(drawing: Drawing, width: float, height: float, pad: float) -> Scale:
    """A drawing in the middle of a sheet, ``pad`` free round it; to scale both ways where it is so."""
    (x0, y0), (x1, y1) = drawing.low, drawing.high
    wide, tall = max(x1 - x0, 1e-6), max(y1 - y0, 1e-6)
    across, up = (width - 2 * pad) / wide, (height - 2 * pad) / tall
    if drawing.to_scale:
        across = up = min(across, up)
    return Scale(
        width, height, (width - wide * across) / 2, (height - tall * up) / 2, x0, y1, across, up
    )
