"""Ground that was opened is put back: what of it, with what on top, stretch by stretch."""

from dataclasses import dataclass

from openfurrow.core.checks import Check, holds
from openfurrow.core.codes import constant
from openfurrow.core.quantities import spoken
from openfurrow.core.trench.crossings import Dug
from openfurrow.core.trench.givens import NOBODY_SAID, PutBack, TrenchGivens
from openfurrow.core.working import COMMON_PRACTICE, GEOMETRY, Answer, Input, Working


@dataclass(frozen=True, kw_only=True)
class Back:
    """What is put back: ``opened_m2`` was dug, ``worn_m2`` is that and the strip driven over beside it.

    ``topsoil_m3`` was laid apart and goes back on top; then seed and straw, or gravel on what was
    opened, or the paving that was taken up.
    """

    on_top: PutBack
    opened_m2: float
    worn_m2: float
    length_m: float
    strip_m: float
    topsoil_m3: float
    seed_kg: float
    straw_kg: float
    gravel_m3: float
    words: str


def back_of(givens: TrenchGivens, dug: tuple[Dug, ...]) -> Back | None:
    """What is put back of every stretch, each once; None while nobody has said how."""
    if givens.put_back == NOBODY_SAID or givens.is_over:
        return None
    lengths = [piece.stretch.line.ground_length_m for piece in dug]
    opened = sum(piece.area_m2 for piece in dug)
    worn = opened + givens.strip_m * sum(lengths)
    grown = givens.put_back in ("seeded grass", "bare earth")
    seeded = givens.put_back == "seeded grass"
    seed, straw, gravel = (
        constant("common", name).value for name in ("seed_kg_per_m2", "straw_kg_per_m2", "gravel_top_m")
    )
    return Back(
        on_top=givens.put_back,
        opened_m2=opened,
        worn_m2=worn,
        length_m=sum(lengths),
        strip_m=givens.strip_m,
        topsoil_m3=opened * givens.topsoil_m if grown else 0.0,
        seed_kg=seed * worn if seeded else 0.0,
        straw_kg=straw * worn if seeded else 0.0,
        gravel_m3=gravel * opened if givens.put_back == "gravel" else 0.0,
        words="; ".join(
            f"{piece.stretch.name}: {spoken(piece.area_m2 + givens.strip_m * length, 'area')}"
            for piece, length in zip(dug[:12], lengths, strict=False)
        )
        + (f"; and {len(dug) - 12} more" if len(dug) > 12 else ""),
    )


def back_answers(back: Back | None, givens: TrenchGivens) -> tuple[Answer, ...]:
    """How much ground, and the topsoil that is laid apart before the trench is dug."""
    if back is None:
        return ()
    found = [
        Answer(
            "trench",
            "put_back",
            f"Ground put back, {back.on_top}",
            Working(
                "A_b",
                "A + s * L",
                (
                    Input("A", "opened", back.opened_m2, "area"),
                    Input("s", "strip beside it, driven over and under the heap", back.strip_m, "tape"),
                    Input("L", "length along the ground", back.length_m, "run"),
                ),
                back.worn_m2,
                "area",
                GEOMETRY,
                f"{back.words}. Raked level and left a little proud: backfill settles for a year.",
            ),
        )
    ]
    if back.topsoil_m3 > 0:
        found.append(
            Answer(
                "trench",
                "topsoil",
                "Topsoil laid apart",
                Working(
                    "V_t",
                    "A * t",
                    (
                        Input("A", "opened", back.opened_m2, "area"),
                        Input("t", "topsoil", givens.topsoil_m, "tape"),
                    ),
                    back.topsoil_m3,
                    "volume",
                    COMMON_PRACTICE,
                    "On its own heap, on the other side from the spoil; last off is first back.",
                ),
            )
        )
    return tuple(found)


def back_checks(back: Back | None, givens: TrenchGivens) -> tuple[Check, ...]:
    """Whether anybody has said how, and whether the owner knows what tracks to expect."""
    if givens.is_over:
        return ()
    said = holds(
        "trench",
        "put_back",
        "It is said how opened ground is put back",
        back is not None,
        givens.put_back,
        "what lies on top in the end",
        remedy="Ask the owner before the first bucket: the trench is judged by its grass.",
        source=COMMON_PRACTICE,
        given="trench.put_back",
        otherwise="look",
    )
    if back is None:
        return (said,)
    return (
        said,
        holds(
            "trench",
            "tracks_told",
            "The owner knows what tracks to expect",
            givens.tracks_told,
            "told" if givens.tracks_told else "nobody has said so",
            "told before the machine comes",
            remedy="Walk it with the owner, and write down what was said: tracks that were spoken of "
            "are work, others are damage.",
            source=COMMON_PRACTICE,
            given="trench.tracks_told",
            otherwise="look",
        ),
    )
