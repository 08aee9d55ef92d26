"""What a planner says: how one given is declared, with its meaning, its place and its usual range."""

from typing import Annotated, Any, TypeVar

from pydantic import BaseModel, ConfigDict, Field
from pydantic.fields import FieldInfo


class Givens(BaseModel):
    """A stage's givens: immutable, nothing unknown, nothing infinite."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def shown(self) -> frozenset[str]:
        """Names of the givens that matter as things stand; the others are kept, not asked for."""
        return frozenset(type(self).model_fields)


# What an id is made of: short, without a point or a sign.
ID_PATTERN = r"^[a-z0-9]*$"
LONGEST_ID = 12


class Thing(Givens):
    """One thing of a list. Its id is its own for good: no other thing of the job ever gets it.

    Ids are made where things are added, outside the core; a document without any gets numbers.
    """

    id: Annotated[str, Field(max_length=LONGEST_ID, pattern=ID_PATTERN)] = ""

    @property
    def called(self) -> str:
        """What it is called, where no given of its says it alone."""
        return ""


T = TypeVar("T", bound=Thing)


def identified(things: tuple[T, ...]) -> tuple[T, ...]:
    """The same things, those without an id numbered. Raises ValueError where two share an id."""
    taken = [thing.id for thing in things if thing.id]
    if len(set(taken)) < len(taken):
        twice = next(one for one in taken if taken.count(one) > 1)
        raise ValueError(f"two of them have the id {twice}: each needs its own")
    if len(taken) == len(things):
        return things
    free = (str(number) for number in range(2 * len(things)) if str(number) not in taken)
    return tuple(thing if thing.id else thing.model_copy(update={"id": next(free)}) for thing in things)


def given(
    default: Any,
    label: str,
    kind: str,
    meaning: str,
    where: str,
    *,
    low: float | None = None,
    high: float | None = None,
    usual: tuple[float, float] | None = None,
    pack: str | None = None,
    step: float | None = None,
    caution: str = "",
    group: str = "",
    length: int | None = None,
    needed: bool = False,
    us: Any = None,
    metric: Any = None,
) -> Any:
    """Declare one given.

    ``low`` and ``high`` bound what is allowed and ``usual`` what is ordinary, both in SI.
    ``pack`` limits a given to one rule pack. ``where`` says where a planner gets the value.
    ``needed``: only people can say it; while it is None, what stands on it is not computed.
    ``us`` and ``metric`` are what practice is under those rules, where it is not the default.
    """
    extra: dict[str, Any] = {"label": label, "kind": kind, "where": where}
    optional = {"usual": usual, "pack": pack, "step": step, "caution": caution, "group": group}
    optional |= {"needed": needed, "us": us, "metric": metric}
    extra |= {name: value for name, value in optional.items() if value}
    field: FieldInfo = Field(
        default,
        description=meaning,
        ge=low,
        le=high,
        max_length=length,
        json_schema_extra=extra,
    )
    return field
