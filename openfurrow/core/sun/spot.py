"""A spot on the globe: all that the sun stage asks of the site."""

from dataclasses import dataclass

from openfurrow.core.lacking import said
from openfurrow.core.site.givens import SiteGivens
from openfurrow.core.site.said import place_of


@dataclass(frozen=True)
class Spot:
    """North and east are positive; the elevation is over the sea; the zone is an IANA name."""

    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    time_zone: str


def spot_of(site: SiteGivens) -> Spot:
    """Where a site lies. Raises Lacking for what nobody has said."""
    return Spot(
        *place_of(site),
        said("site.elevation_m", site.elevation_m),
        said("site.time_zone", site.time_zone),
    )
