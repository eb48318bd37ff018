"""What is usually built, for parts that come without figures of their own."""

from typing import Any

__all__ = ["INCH", "Data", "common_fields", "inch_pipe"]

Data = dict[str, Any]

INCH: Data = {"kind": "standard", "standard": "ASTM D1785 Schedule 40", "nominal": "1 in"}
"""The pipe that most small systems are plumbed in."""


def inch_pipe(nominal: str) -> Data:
    """Another size of the same pipe.

    Parameters
    ----------
    nominal : str
        Nominal size of the standpipe or tube

    Returns
    -------
    Data
        The bore, as plan data
    """
    return {**INCH, "nominal": nominal}


def common_fields(old: Any) -> Data:
    """What a way out keeps whatever it is traded for.

    Parameters
    ----------
    old : object
        What stood there

    Returns
    -------
    Data
        Fields, as plan data
    """
    return {"id": old.id, "name": old.name, "note": old.note, "stands_in": old.stands_in}
