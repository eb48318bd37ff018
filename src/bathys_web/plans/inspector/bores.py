"""Bores as they are typed."""

from typing import Any

from bathys.edits import EditRefused
from bathys.parts.bores import PipeSize, pipe_sizes, standards
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
        wanted = (
            _size(text.strip().upper())
            if text.strip()[:2].upper() == "DN"
            else read(text, "length", own)
        )
    except UnreadableQuantity:
        raise EditRefused(f"“{text}” is no size of {standard}; there is {offered}.") from None
    size = _size_near(standard, wanted)
    if size is not None:
        return size.nominal
    others = [name for name in standards() if name != standard and _size_near(name, wanted)]
    if others:
        listed = " and ".join(filter(None, (", ".join(others[:-1]), others[-1])))
        raise EditRefused(
            f"{standard} has no “{text}”. It is a size of {listed}: choose that beside the box. "
            f"{standard} has {offered}."
        )
    raise EditRefused(f"{standard} has no “{text}”; there is {offered}.")


def _size_near(standard: str, wanted: float) -> PipeSize | None:
    """The size of a standard that was meant by so many metres."""
    sizes = pipe_sizes(standard)
    return next((s for s in sizes if abs(_size(s.nominal) - wanted) < _SAME_SIZE), None)


def _size(nominal: str) -> float:
    """What a nominal size is called by [m]: DN40 by 40 mm."""
    return read(
        nominal.removeprefix("DN") + " mm" if nominal.startswith("DN") else nominal, "length"
    )
