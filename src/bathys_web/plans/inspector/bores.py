"""Bores as they are typed."""

from typing import Any

from bathys.edits import EditRefused
from bathys.parts.bores import pipe_sizes, standards
from bathys.units import System, UnreadableQuantity, read

__all__ = ["read_bore"]

_SAME_SIZE = 0.0005  # typed sizes that lie nearer than this are one [m]


def read_bore(standard: str, text: str, units: System) -> dict[str, Any]:
    """A bore from a standard and a typed size.

    Parameters
    ----------
    standard : str
        A pipe standard, or ``inside`` for an inside diameter
    text : str
        The size as typed: ``3/4 in``, ``25 mm``
    units : {"metric", "us"}
        What a bare number of an inside diameter means

    Returns
    -------
    dict
        The bore as plan data

    Raises
    ------
    EditRefused
        If the standard has no such size, naming those it has, or the size cannot be read
    """
    if standard == "inside":
        try:
            return {"kind": "inside", "diameter": read(text, "length", units)}
        except UnreadableQuantity as error:
            raise EditRefused(str(error)) from None
    if standard not in standards():
        raise EditRefused(f"There is no table for “{standard}”.")
    return {"kind": "standard", "standard": standard, "nominal": _nominal(standard, text)}


def _nominal(standard: str, text: str) -> str:
    sizes = pipe_sizes(standard)
    own: Any = "us" if sizes[0].nominal.endswith("in") else "metric"
    offered = ", ".join(size.nominal for size in sizes)
    try:
        wanted = read(text, "length", own)
    except UnreadableQuantity:
        raise EditRefused(f"“{text}” is no size of {standard}; there is {offered}.") from None
    for size in sizes:
        if abs(read(size.nominal, "length") - wanted) < _SAME_SIZE:
            return size.nominal
    raise EditRefused(f"{standard} has no “{text}”; there is {offered}.")
