"""What the list comes to, and whether its prices can be relied on."""

from datetime import date

from openfurrow.core.checks import Check, at_most, holds
from openfurrow.core.codes import constant
from openfurrow.core.materials.givens import MaterialsGivens
from openfurrow.core.materials.prices import Cost
from openfurrow.core.working import COMMON_PRACTICE, GIVEN, Answer, Input, Working

PRICES = "materials.prices"


def cost_answers(givens: MaterialsGivens, cost: Cost, watts: float) -> tuple[Answer, ...]:
    """All that has a price, with its tax; over the modules' power. Nothing where nothing is priced."""
    if not any(one.cost is not None for one in cost.priced):
        return ()
    some, total = len(cost.open), cost.known * (1 + givens.tax)
    short = f" {some} line{'s' * (some > 1)} without a price {'are' if some > 1 else 'is'} not in it."
    of = f", {some} lines not priced" if some > 1 else ", one line not priced" if some else ""
    return (
        Answer(
            "materials",
            "cost",
            f"Materials, {givens.currency}{of}",
            Working(
                "C",
                "c * (1 + t)",
                (
                    Input("c", "all lines that have a price", cost.known, "price"),
                    Input("t", "tax", givens.tax, "ratio"),
                ),
                total,
                "price",
                GIVEN,
                "Each line times its price, by the quotations." + (short if some else ""),
            ),
            True,
        ),
        Answer(
            "materials",
            "cost_per_watt",
            f"For each watt, {givens.currency}",
            Working(
                "C_w",
                "C / max(P, 1)",
                (Input("C", "materials", total, "price"), Input("P", "modules' power", watts, "power")),
                total / max(watts, 1.0),
                "factor",
                GIVEN,
                "Of the power on the modules' plates." + (short if some else ""),
            ),
        ),
    )


def cost_checks(givens: MaterialsGivens, cost: Cost, begins: date | None) -> tuple[Check, ...]:
    """Every line has a price, and none is old; nothing is asked where nobody prices anything."""
    if not givens.prices:
        return ()
    named = ", ".join(f"{one.line.key.replace('_', ' ')} ({one.why})" for one in cost.open[:3])
    more = f", {len(cost.open) - 3} more" if len(cost.open) > 3 else ""
    return (
        holds(
            "materials",
            "priced",
            "Every line has a price",
            not cost.open,
            f"not {named}{more}" if cost.open else "each",
            "each",
            remedy="Send the list of prices out, and bring it back filled in.",
            source=COMMON_PRACTICE,
            given=PRICES,
            otherwise="look",
        ),
        _fresh(cost, begins),
    )


def _fresh(cost: Cost, begins: date | None) -> Check:
    """How old the oldest price is on the day the job begins; without both days that is not known."""
    life = constant("common", "price_days")
    oldest = cost.oldest
    if cost.undated or oldest is None or begins is None:
        unknown = f"{cost.undated} without their day" if cost.undated else "nobody knows on which day"
        return holds(
            "materials",
            "fresh_prices",
            "Prices are fresh when the job begins",
            False,
            unknown,
            "a day for each price and for the job",
            remedy="Say on which day each price was quoted, and when the job begins.",
            source=life.source,
            given=PRICES,
            otherwise="look",
        )
    return at_most(
        "materials",
        "fresh_prices",
        "Prices are fresh when the job begins",
        float((begins - oldest).days),
        life.value,
        "count",
        remedy=f"Ask again for what was priced on {oldest.isoformat()}.",
        source=life.source,
        given=PRICES,
        otherwise="look",
    )
