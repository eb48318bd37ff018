"""A chart of streams as ribbons: as wide as what goes, from the left to the right."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

__all__ = ["Bar", "Ribbon", "RibbonChart", "ribbon_chart"]

_WIDE, _TALL, _BAR, _GAP, _TOP = 640.0, 260.0, 10.0, 14.0, 8.0
_NAMES = 150.0  # room for names at the right


@dataclass(frozen=True, slots=True)
class Bar:
    """Where streams meet.

    Attributes
    ----------
    name : str
        Its name
    x, y, tall : float
        Its place and height, [px]
    amount : float
        What goes through, [any]
    is_last : bool
        Whether nothing goes on from it
    """

    name: str
    x: float
    y: float
    tall: float
    amount: float
    is_last: bool


@dataclass(frozen=True, slots=True)
class Ribbon:
    """One stream.

    Attributes
    ----------
    start, end : str
        Names of the bars
    path : str
        Its outline, as an SVG path
    """

    start: str
    end: str
    path: str


@dataclass(frozen=True, slots=True)
class RibbonChart:
    """Bars and the ribbons between them.

    Attributes
    ----------
    width, height : float
        Of the picture, [px]
    bars : tuple of Bar
        From the left on
    ribbons : tuple of Ribbon
        In the order of the streams
    """

    width: float
    height: float
    bars: tuple[Bar, ...]
    ribbons: tuple[Ribbon, ...]


def ribbon_chart(streams: Sequence[tuple[str, str, float]]) -> RibbonChart:
    """Lay out streams.

    Parameters
    ----------
    streams : sequence of (str, str, float)
        From, to, and how much, [any]; without a ring

    Returns
    -------
    RibbonChart
        Bars in columns, each as far right as its longest way from the first, ends all at the right
    """
    column = _columns(streams)
    amounts = {
        n: max(sum(q for a, _, q in streams if a == n), sum(q for _, b, q in streams if b == n))
        for n in column
    }
    most = max(column.values(), default=0)
    by_column = [[n for n in column if column[n] == k] for k in range(most + 1)]
    room = _TALL - _GAP * max(len(names) - 1 for names in by_column)
    scale = room / max(*(sum(amounts[n] for n in names) for names in by_column), 1e-9)
    step = (_WIDE - _NAMES - _BAR) / max(most, 1)
    starts = {a for a, _, _ in streams}
    bars: dict[str, Bar] = {}
    for k, names in enumerate(by_column):
        y = _TOP
        for name in names:
            tall = round(scale * amounts[name], 1)
            bars[name] = Bar(name, round(step * k, 1), y, tall, amounts[name], name not in starts)
            y = round(y + tall + _GAP, 1)
    height = max((b.y + b.tall for b in bars.values()), default=0.0) + _TOP
    return RibbonChart(_WIDE, height, tuple(bars.values()), tuple(_ribbons(streams, bars, scale)))


def _columns(streams: Sequence[tuple[str, str, float]]) -> dict[str, int]:
    column: dict[str, int] = {}
    for start, end, _ in streams:
        column.setdefault(start, 0)
        column.setdefault(end, 0)
    for _ in column:
        for start, end, _amount in streams:
            column[end] = max(column[end], column[start] + 1)
    starts = {a for a, _, _ in streams}
    most = max(column.values(), default=0)
    return {n: most if n not in starts else k for n, k in column.items()}


def _ribbons(
    streams: Sequence[tuple[str, str, float]], bars: Mapping[str, Bar], scale: float
) -> list[Ribbon]:
    out = {name: bar.y for name, bar in bars.items()}
    into = dict(out)
    rows = []
    for start, end, amount in streams:
        tall = scale * amount
        x0, x1 = bars[start].x + _BAR, bars[end].x
        y0, y1 = out[start], into[end]
        out[start] += tall
        into[end] += tall
        mid = 0.5 * (x0 + x1)
        rows.append(
            Ribbon(
                start,
                end,
                f"M {x0:.1f} {y0:.1f} C {mid:.1f} {y0:.1f} {mid:.1f} {y1:.1f} {x1:.1f} {y1:.1f} "
                f"V {y1 + tall:.1f} C {mid:.1f} {y1 + tall:.1f} {mid:.1f} {y0 + tall:.1f} "
                f"{x0:.1f} {y0 + tall:.1f} Z",
            )
        )
    return rows
