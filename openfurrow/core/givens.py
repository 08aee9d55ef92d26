"""What a planner says: how one given is declared, with its meaning, its place and its usual range."""

from typing import Any

from pydantic import BaseModel, ConfigDict, Field
from pydantic.fields import FieldInfo


class Givens(BaseModel):
    """A stage's givens: immutable, nothing unknown, nothing infinite."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)

    def shown(self) -> frozenset[str]:
        """Names of the givens that matter as things stand; the others are kept, not asked for."""
        return frozenset(type(self).model_fields)


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
) -> Any:
    """Declare one given.

    ``low`` and ``high`` bound what is allowed and ``usual`` what is ordinary, both in SI.
    ``pack`` limits a given to one rule pack. ``where`` says where a planner gets the value.
    """
    extra: dict[str, Any] = {"label": label, "kind": kind, "where": where}
    optional = {"usual": usual, "pack": pack, "step": step, "caution": caution, "group": group}
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
