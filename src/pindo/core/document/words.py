"""Sentences are data: fixed templates whose fields are filled, and what a person typed goes in
as it is.
"""

import re
from collections.abc import Callable

_FIELD = re.compile(r"\{\{|\}\}|\{([a-z_][a-z0-9_]*)\}", re.IGNORECASE)


def literal(typed: str) -> str:
    """A person's words for use inside a template: no brace of theirs opens a field."""
    return typed.replace("{", "{{").replace("}", "}}")


def filled(template: str, field: Callable[[str], str | None]) -> str:
    """A template with its fields filled. Total: a field that ``field`` does not know (None) stays
    as it is written.

    Only plain names are fields, without attributes, formats or conversions.
    """

    def one(match: re.Match[str]) -> str:
        if match[1] is None:
            return match[0][0]
        found = field(match[1])
        return match[0] if found is None else found

    return _FIELD.sub(one, template)
