"""Invented prices: a merchant's list for a job in feet and pounds, one line of it left open."""

from datetime import date

from openfurrow.core.materials.prices import Per, PriceGivens

DAY = date(2026, 2, 16)
QUOTED = "yard at the mill road"
# Item or how it begins, price, for each.
LIST: tuple[tuple[str, float, Per], ...] = (
    ("Post", 1.38, "lb"),
    ("Inclined beam", 1.62, "lb"),
    ("Strut", 1.47, "lb"),
    ("Purlin stock", 1.71, "lb"),
    ("Pipe stock", 1.44, "lb"),
    ("Cross pipe", 1.44, "lb"),
    ("Rail", 1.83, "lb"),
    ("Cross brace", 1.52, "lb"),
    ("Base rail", 1.49, "lb"),
    ("Leg", 1.41, "lb"),
    ("Cross cable", 19.5, "piece"),
    ("Bolt", 1.15, "piece"),
    ("Eye bolt", 3.35, "piece"),
    ("Bar through", 3.9, "piece"),
    ("Saddle", 8.75, "piece"),
    ("U-bolt", 2.85, "piece"),
    ("Coupler", 6.4, "piece"),
    ("Grip", 1.3, "piece"),
    ("Turnbuckle", 7.2, "piece"),
    ("Head", 66.0, "piece"),
    ("Ground screw", 2.35, "lb"),
    ("Rock screw", 2.6, "lb"),
    ("Box or tray", 31.0, "piece"),
    ("Concrete for the boxes", 0.052, "lb"),
    ("Stone for the boxes", 0.021, "lb"),
    ("Concrete by truck", 176.0, "cu yd"),
    ("Bag of concrete", 6.6, "piece"),
    ("Stone for the bores", 43.0, "cu yd"),
    ("Form tube", 9.3, "ft"),
    ("Module, 430 W", 121.0, "piece"),
    ("Module, 400 W", 112.0, "piece"),
    ("End clamp", 2.05, "piece"),
    ("Mid clamp", 1.75, "piece"),
    ("Bonding strap", 3.1, "piece"),
    ("Lug, steel", 2.6, "piece"),
    ("Conduit", 7.4, "piece"),
    ("Sweep", 10.2, "piece"),
    ("Bend", 5.1, "piece"),
    ("Coupling", 1.9, "piece"),
    ("Terminal", 2.7, "piece"),
    ("Strap,", 0.85, "piece"),
    ("Expansion fitting", 27.0, "piece"),
    ("Duct seal", 4.4, "piece"),
    ("Cement", 12.6, "piece"),
    ("Pull line", 0.05, "ft"),
    ("Pulling lubricant", 8.9, "piece"),
    ("Sand", 37.0, "cu yd"),
    ("Warning tape", 0.07, "ft"),
    ("Wire 10 AWG", 0.46, "ft"),
    ("Grounding wire", 0.41, "ft"),
    ("Array wire", 0.71, "ft"),
    ("Bare copper", 0.88, "ft"),
    ("Ground rod", 22.5, "piece"),
    ("Connector pair", 4.3, "piece"),
    ("Fuse", 7.9, "piece"),
    ("Junction box", 69.0, "piece"),
    ("Inverter", 1840.0, "piece"),
    ("Jumper", 11.5, "piece"),
    ("Breaker, AC", 47.0, "piece"),
    ("Wire 4 AWG", 2.35, "ft"),
    ("Wire 3 AWG", 2.9, "ft"),
    ("Grounding wire 8 AWG", 0.95, "ft"),
    ("Panel for", 218.0, "piece"),
    ("Switch, AC", 164.0, "piece"),
)


def prices() -> tuple[PriceGivens, ...]:
    """The list as things of a design."""
    return tuple(
        PriceGivens(id=f"p{number}", item=item, price=price, per=per, priced_on=DAY, quoted_by=QUOTED)
        for number, (item, price, per) in enumerate(LIST, start=1)
    )
