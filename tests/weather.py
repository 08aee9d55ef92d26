"""Years of weather as files, made up: a station's sky by the hour, written as services write them."""

import numpy as np

from openfurrow.core.energy.sky import relative_air_mass, sun_way
from openfurrow.core.year_days import DAYS_OF_MONTH

STATION = ("Kettle Bank", 44.7, -116.4, 1490.0, -7.0)


def hours_of_station() -> np.ndarray:
    """Level light, beam, diffuse, air and wind of each hour: (8760, 5)."""
    _, latitude, longitude, elevation, zone = STATION
    at = np.arange(8760)
    way = sun_way(latitude, longitude, elevation, (at + 0.5 - zone) * 3600.0)
    up = np.maximum(np.sin(np.radians(way.altitude_deg)), 0.0)
    cloud = 0.55 + 0.45 * np.cos(at // 24 * 2.4)
    beam = np.where(up > 0, 950 * 0.75 ** relative_air_mass(way.altitude_deg) * cloud, 0.0)
    diffuse = np.where(up > 0, 60 + 180 * up * (1.2 - cloud), 0.0)
    air = 7 - 14 * np.cos(2 * np.pi * (at / 24 - 20) / 365) - 5 * np.cos(2 * np.pi * (at % 24 - 3) / 24)
    wind = 2.5 + 1.5 * np.sin(at / 7.0)
    return np.column_stack((beam * up + diffuse, beam, diffuse, air, wind))


def stamps() -> list[tuple[int, int, int]]:
    """Month, day and hour, counted from one, of each hour of the year."""
    found = []
    for month, days in enumerate(DAYS_OF_MONTH.tolist(), start=1):
        found += [(month, day, hour) for day in range(1, days + 1) for hour in range(1, 25)]
    return found


def epw(hours: np.ndarray | None = None) -> str:
    """The year as building simulation has it."""
    name, latitude, longitude, elevation, zone = STATION
    hours = hours_of_station() if hours is None else hours
    head = [f"LOCATION,{name},ID,USA,made,000000,{latitude},{longitude},{zone},{elevation}"]
    head += ["DESIGN CONDITIONS,0", "TYPICAL/EXTREME PERIODS,0", "GROUND TEMPERATURES,0"]
    head += ["HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0", "COMMENTS 1,made up", "COMMENTS 2,made up"]
    head += ["DATA PERIODS,1,1,Data,Sunday,1/1,12/31"]
    lines = []
    for (month, day, hour), (level, beam, diffuse, air, wind) in zip(
        stamps(), hours.tolist(), strict=True
    ):
        cells = [2025, month, day, hour, 60, "?9", f"{air:.1f}", "2.0", 60, 85000, 9999, 9999, 300]
        cells += [f"{level:.0f}", f"{beam:.0f}", f"{diffuse:.0f}", 9999, 9999, 9999, 9999, 180]
        cells += [f"{wind:.1f}", 5, 5, 16, 77777, 9, 999999999, 20, 0.1, 0, 88, 0.2, 0, 0]
        lines.append(",".join(map(str, cells)))
    return "\n".join([*head, *lines]) + "\n"


def tmy3(hours: np.ndarray | None = None) -> str:
    """The same year as the national tables have it, as far as its columns are read."""
    name, latitude, longitude, elevation, zone = STATION
    hours = hours_of_station() if hours is None else hours
    lines = [f'000001,"{name}",ID,{zone},{latitude},{longitude},{elevation:.0f}']
    titles = ["Date (MM/DD/YYYY)", "Time (HH:MM)", "GHI (W/m^2)", "DNI (W/m^2)", "DHI (W/m^2)"]
    lines.append(",".join([*titles, "Dry-bulb (C)", "Wspd (m/s)"]))
    for (month, day, hour), (level, beam, diffuse, air, wind) in zip(
        stamps(), hours.tolist(), strict=True
    ):
        lines.append(
            f"{month:02d}/{day:02d}/1998,{hour:02d}:00,{level:.0f},{beam:.0f},{diffuse:.0f},"
            f"{air:.1f},{wind:.1f}"
        )
    return "\n".join(lines) + "\n"


def used() -> bytes:
    """A meter's year by the hour: more by day than by night."""
    return "".join(["kWh\n", *(f"{0.4 + (hour % 24) / 20:.2f}\n" for hour in range(8760))]).encode()
