"""Inside diameters of pipes by standard and nominal size.

Schedule 40 and 80 come from ``fluids`` (bores at ASTM D1785's least wall; made pipe averages
1–3 % less, memory, which moves a siphon's start flow by 2–8 %). All other sizes stand in
``pipe_sizes.csv``, each row with its standard: least walls of EN ISO 1452-2 (memory); AS/NZS 1477
outside diameters (memory) with the wall PN·D/(2 · 11 MPa + PN) of its class; AS/NZS 1260, EN 1329
and EN 1455 waste pipe (memory, good to about a millimetre); irrigation line and hose, which are
sold by inside diameter (common practice).
"""

import csv
from dataclasses import dataclass
from functools import cache
from importlib.resources import files

from fluids.piping import nearest_pipe  # its NPS is typed int, but takes 0.75 as documented

__all__ = ["PipeSize", "bore_of", "pipe_sizes", "standards"]

_INCH_SIZES = {
    "1/2 in": 0.5, "3/4 in": 0.75, "1 in": 1.0, "1 1/4 in": 1.25, "1 1/2 in": 1.5,
    "2 in": 2.0, "2 1/2 in": 2.5, "3 in": 3.0, "4 in": 4.0, "6 in": 6.0,
}  # fmt: skip
_INCH_STANDARDS = {"ASTM D1785 Schedule 40": "40D1785", "ASTM D1785 Schedule 80": "80D1785"}


@dataclass(frozen=True, slots=True)
class PipeSize:
    """One size of pipe as sold.

    Attributes
    ----------
    standard : str
        Standard it is made to
    nominal : str
        Size as it is asked for in a shop
    outside_diameter : float
        Outside diameter, [m]
    bore : float
        Inside diameter, [m]
    """

    standard: str
    nominal: str
    outside_diameter: float
    bore: float

    @property
    def as_data(self) -> dict[str, str]:
        """The bore of such a pipe as a plan has it."""
        return {"kind": "standard", "standard": self.standard, "nominal": self.nominal}


@cache
def _table() -> dict[str, dict[str, PipeSize]]:
    table: dict[str, dict[str, PipeSize]] = {}
    for standard, schedule in _INCH_STANDARDS.items():
        for nominal, inches in _INCH_SIZES.items():
            _, bore, outside, _ = nearest_pipe(NPS=inches, schedule=schedule)  # type: ignore[arg-type]
            size = PipeSize(standard, nominal, float(outside), float(bore))
            table.setdefault(standard, {})[nominal] = size
    source = files("bathys.parts").joinpath("pipe_sizes.csv")
    for row in csv.DictReader(source.read_text().splitlines()):
        outside = float(row["outside_mm"]) / 1000.0
        bore = outside - 2.0 * float(row["wall_mm"]) / 1000.0
        size = PipeSize(row["standard"], row["nominal"], outside, bore)
        table.setdefault(size.standard, {})[size.nominal] = size
    return table


def standards() -> list[str]:
    """Names of the pipe standards carried.

    Returns
    -------
    list of str
        Their names
    """
    return list(_table())


def pipe_sizes(standard: str) -> list[PipeSize]:
    """Sizes carried of one standard, smallest first.

    Parameters
    ----------
    standard : str
        A name out of :func:`standards`

    Returns
    -------
    list of PipeSize
        Its sizes

    Raises
    ------
    KeyError
        If the standard is not carried
    """
    return list(_table()[standard].values())


def bore_of(standard: str, nominal: str) -> float:
    """Inside diameter of one size.

    Parameters
    ----------
    standard : str
        A name out of :func:`standards`
    nominal : str
        Nominal size as in :func:`pipe_sizes`

    Returns
    -------
    float
        Inside diameter, [m]

    Raises
    ------
    KeyError
        If the standard or the size is not carried

    Examples
    --------
    >>> round(bore_of("ASTM D1785 Schedule 40", "3/4 in") * 1000, 1)
    20.9
    """
    return _table()[standard][nominal].bore
