"""A container of the builder's own, as it is typed: round, or with a width a box."""

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Self

from bathys.kinds import model_named
from bathys.units import System, UnreadableQuantity, read, show

__all__ = ["Measured"]

_LEAST, _WIDEST = 0.1, 5.0  # of a container [m]
_LONGEST = 40
_FIELDS = ("across", "width", "tall")


@dataclass(frozen=True, slots=True)
class Measured:
    """Sizes as typed, and the shell they make.

    Attributes
    ----------
    typed, errors : dict of str to str
        What was typed by field, and a sentence for each that cannot be read
    shape : dict or None
        The shell as plan data, [m]; none where something cannot be read or nothing was typed
    litres : float
        What it holds up to the rim, [L]
    """

    typed: dict[str, str]
    errors: dict[str, str]
    shape: dict[str, Any] | None
    litres: float

    @classmethod
    def of(cls, asked: Mapping[str, Any], units: System) -> Self:
        """From what a form says.

        Parameters
        ----------
        asked : mapping of str to str
            Fields ``across`` (diameter, or length), ``width`` (empty if it is round) and ``tall``
        units : System
            The reader's units

        Returns
        -------
        Measured
            The sizes
        """
        typed = {f: str(asked.get(f, "")).strip()[:_LONGEST] for f in _FIELDS}
        sizes, errors = dict[str, float](), dict[str, str]()
        if not any(typed.values()):
            return cls(typed, errors, None, 0.0)
        for field, text in typed.items():
            if field == "width" and not text:
                continue
            try:
                sizes[field] = read(text, "length", units)
            except UnreadableQuantity as error:
                errors[field] = str(error)
                continue
            if not _LEAST <= sizes[field] <= _WIDEST:
                errors[field] = (
                    f"It must be between {show(_LEAST, 'length', units)} and "
                    f"{show(_WIDEST, 'length', units)}."
                )
        if errors:
            return cls(typed, errors, None, 0.0)
        shape: dict[str, Any] = {
            "kind": "cylinder",
            "diameter": sizes["across"],
            "height": sizes["tall"],
        }
        if "width" in sizes:
            shape = {
                "kind": "box",
                "length": sizes["across"],
                "width": sizes["width"],
                "height": sizes["tall"],
            }
        shell = model_named("shells", shape["kind"]).model_validate_json(json.dumps(shape))
        return cls(typed, errors, shape, 1000.0 * float(shell.capacity))
