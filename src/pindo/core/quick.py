"""A build in one line, for a notebook or a script."""

from typing import Self

from pindo.core.document import build
from pindo.core.inputs.dimensions import DIMENSIONS, OPTIONS
from pindo.core.inputs.problems import problems
from pindo.core.inputs.quantity_reader import EntryError

Said = float | int | str | tuple[float | int | str, float | int | str]


class Build(build.Build):
    """Everything known about one build."""

    @classmethod
    def of(cls, name: str = "build", source: str = "measured", **said: Said) -> Self:
        """A build of some sizes and choices.

        Parameters
        ----------
        name : str
            What the build is called.
        source : str
            Where every size comes from; a source has a ± of its own.
        **said
            Sizes by their keys: a number in the unit of the key, a text as it would be typed
            (``"8 31/32 in"``), or either with its ±: ``(200, "± 0.1")``. Choices by theirs, as
            words.

        Raises
        ------
        EntryError
            There is no such size or choice, or an entry cannot be read: all of them are named.

        Examples
        --------
        ``Build.of(disc_od_mm=228, friction_face_mm=(200, "± 0.1"))``
        """
        unknown = [key for key in said if key not in DIMENSIONS and key not in OPTIONS]
        if unknown:
            raise EntryError(f"There is no size and no choice called {', '.join(unknown)}.")
        options = {key: str(value) for key, value in said.items() if key in OPTIONS}
        sizes = {key: value for key, value in said.items() if key in DIMENSIONS}
        dims = {key: {"statements": [_statement(value, source)]} for key, value in sizes.items()}
        made = cls.model_validate({"name": name, "dims": dims, "options": options})
        if wrong := problems(made):
            raise EntryError("; ".join(f"{p.pointer}: {p.detail}" for p in wrong))
        return made


def _statement(said: Said, source: str) -> dict[str, object]:
    value, pm = said if isinstance(said, tuple) else (said, None)
    return {
        "id": "s1",
        "source": source,
        "takes": [{"typed": str(value)}],
        "pm": None if pm is None else str(pm).replace("±", "").replace("+/-", "").strip(),
    }
