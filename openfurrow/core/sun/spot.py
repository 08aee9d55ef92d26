"""A spot on the globe: all that the sun stage asks of the site."""

from dataclasses import dataclass

from openfurrow.core.site.givens import SiteGivens


@dataclass(frozen=True)
class Spot:
    """North and east are positive; the elevation is over the sea; the zone is an IANA name."""

    latitude_deg: float
    longitude_deg: float
    elevation_m: float
    time_zone: str


def spot_of(site: SiteGivens) -> Spot:
    """Where a site lies."""
    return Spot(site.latitude_deg, site.longitude_deg, site.elevation_m, site.time_zone)
