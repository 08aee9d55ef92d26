"""What pydantic finds wrong, in words that follow a field's name: "Name says nothing"."""

from collections.abc import Mapping
from typing import Any

# By pydantic's name for it; what is in braces stands in the error's context.
WORDS: Mapping[str, str] = {
    "missing": "is missing",
    "extra_forbidden": "is not a field of a design",
    "string_too_short": "says nothing",
    "string_too_long": "is longer than {max_length} letters",
    "string_type": "is not text",
    "string_pattern_mismatch": "holds a sign that it may not: small letters and digits only",
    "literal_error": "is none of {expected}",
    "enum": "is none of {expected}",
    "float_type": "is not a number",
    "float_parsing": "is not a number",
    "finite_number": "is not a number that ends",
    "int_type": "is not a whole number",
    "int_parsing": "is not a whole number",
    "int_parsing_size": "is too large a number",
    "int_from_float": "is not a whole number",
    "greater_than_equal": "is below {ge}",
    "greater_than": "is not above {gt}",
    "less_than_equal": "is above {le}",
    "less_than": "is not below {lt}",
    "bool_type": "is neither yes nor no",
    "bool_parsing": "is neither yes nor no",
    "date_type": "is not a date: write 2026-04-18",
    "date_parsing": "is not a date: write 2026-04-18",
    "date_from_datetime_parsing": "is not a date: write 2026-04-18",
    "date_from_datetime_inexact": "is not a date: write 2026-04-18",
    "too_long": "has more in it than the {max_length} it may",
    "too_short": "needs at least {min_length} in it",
    "tuple_type": "is not a list",
    "list_type": "is not a list",
    "dict_type": "is not an object with fields",
    "model_type": "is not an object with fields",
    "model_attributes_type": "is not an object with fields",
    "uuid_parsing": "is no id of a job",
    "uuid_type": "is no id of a job",
    "json_invalid": "is not JSON",
    "string_unicode": "holds a character that is not text: type it again",
}
OTHERWISE = "cannot be read"


def own_words(error: Mapping[str, Any]) -> str:
    """One of pydantic's errors as the rest of a sentence that begins with the field."""
    if error["type"] in ("value_error", "assertion_error"):
        return str(error["msg"]).removeprefix("Value error, ").removeprefix("Assertion failed, ")
    return WORDS.get(error["type"], OTHERWISE).format_map(error.get("ctx", {}))
