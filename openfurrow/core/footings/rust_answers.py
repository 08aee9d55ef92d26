"""What rusts away of steel in the soil, and what it carries then: the working behind it."""

from openfurrow.core.codes import RulePack, constant
from openfurrow.core.codes.section import Section
from openfurrow.core.footings.givens import FootingsGivens
from openfurrow.core.members.bending import bending_limit_n_m
from openfurrow.core.members.rust import by_zinc, loss_m, loss_source, thinned, zinc_years
from openfurrow.core.working import Answer, Input, Source, Working

LEFT = Source("inertia of the plates, each thinner by what both its faces lost", "geometry")


def rust_answers(pack: RulePack, givens: FootingsGivens, profile: Section) -> tuple[Answer, ...]:
    """What each face loses, and the moment that the profile carries then."""
    years, zinc = float(givens.life_years), givens.zinc_m
    lost = loss_m(pack, givens.ground_bites, years, zinc)
    inputs, formula = [Input("T", "years that it has to last", years, "count")], ""
    if by_zinc(pack, givens.ground_bites):
        rate = constant("us", "steel_loss_m").value
        inputs += [
            Input(
                "T_z", f"years that its zinc lasts ({zinc * 1e6:.0f} µm)", zinc_years(zinc), "factor"
            ),
            Input("r", "steel lost a year after it", rate, "coating"),
        ]
        formula = "max(T - T_z, 0) * r"
    return (
        Answer(
            "footings",
            "lost",
            "Rusts away of each face",
            Working(
                "t_lost",
                formula,
                tuple(inputs),
                lost,
                "coating",
                loss_source(pack, givens.ground_bites),
                f"{givens.ground_bites.capitalize()}."
                + ("" if formula else " Between the years that are printed it is taken evenly."),
            ),
        ),
        Answer(
            "footings",
            "carries_then",
            "Moment it carries then",
            Working(
                "M_R",
                "",
                (Input("M_0", f"{profile.name} as new", bending_limit_n_m(profile, pack), "moment"),),
                bending_limit_n_m(thinned(profile, lost), pack),
                "moment",
                LEFT,
                "Where it stands in the soil. Above the ground it is looked after and painted again.",
            ),
        ),
    )
