"""Wrap-around templates at true scale: what is drilled round a pipe or a ring, unrolled."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from bathys.build import Drilled, drilled_of
from bathys.plan.model import Plan

__all__ = ["Mark", "Paper", "TemplatePage", "WrapTemplate", "pages_of", "templates_of"]

Paper = Literal["A4", "Letter"]

ROOM: dict[Paper, tuple[float, float]] = {"A4": (0.180, 0.200), "Letter": (0.186, 0.185)}
"""Width and height that a template has on a page, under its title and check bar [m]."""

_OVER = 0.012  # paper over the highest hole [m]
_LAP = 0.015  # that one strip laps over the next [m]
_MOST_PAGES = 24


@dataclass(frozen=True, slots=True)
class Mark:
    """A hole or a slot on the unrolled piece.

    Attributes
    ----------
    x, y : float
        Its middle from the left end and over the lower edge, [m]
    width, height : float
        Its size; of a round hole its diameter twice, [m]
    is_round : bool
        Whether it is drilled, else cut
    """

    x: float
    y: float
    width: float
    height: float
    is_round: bool


@dataclass(frozen=True, slots=True)
class WrapTemplate:
    """A piece, unrolled.

    Attributes
    ----------
    drilled : Drilled
        The piece
    marks : tuple of Mark
        All that is drilled or cut, row by row
    height : float
        Of the paper, [m]
    """

    drilled: Drilled
    marks: tuple[Mark, ...]
    height: float


@dataclass(frozen=True, slots=True)
class TemplatePage:
    """A strip of a template that fits on a page.

    Attributes
    ----------
    template : WrapTemplate
        Of which
    number, count : int
        Which of how many strips
    start, width, height : float
        Where it begins round the piece, how wide and how high it is, [m]
    bottom : float
        Height over the lower edge at which it begins, [m]
    marks : tuple of Mark
        What is on it, from its own lower left corner, [m]
    """

    template: WrapTemplate
    number: int
    count: int
    start: float
    width: float
    height: float
    bottom: float
    marks: tuple[Mark, ...]


def templates_of(plan: Plan) -> tuple[WrapTemplate, ...]:
    """A template for everything that is drilled round about.

    Parameters
    ----------
    plan : Plan
        The plan

    Returns
    -------
    tuple of WrapTemplate
        In the order of the plan; every other row is set half a pitch on
    """
    return tuple(_template(d) for d in drilled_of(plan))


def _template(drilled: Drilled) -> WrapTemplate:
    marks = []
    for number, row in enumerate(drilled.rows):
        pitch = drilled.around / row.count
        off = 0.25 * pitch if number % 2 == 0 else 0.75 * pitch
        marks += [
            Mark(off + k * pitch, row.height, row.diameter, row.diameter, True)
            for k in range(row.count)
        ]
    if drilled.slots:
        pitch = drilled.around / drilled.slots
        marks += [
            Mark(
                (k + 0.5) * pitch,
                0.5 * drilled.slot_height,
                drilled.slot_width,
                drilled.slot_height,
                False,
            )
            for k in range(drilled.slots)
        ]
    return WrapTemplate(drilled, tuple(marks), drilled.top + _OVER)


def pages_of(template: WrapTemplate, paper: Paper) -> tuple[TemplatePage, ...]:
    """A template in strips that fit on a page, each lapping over the next.

    Parameters
    ----------
    template : WrapTemplate
        The template
    paper : Paper
        The paper

    Returns
    -------
    tuple of TemplatePage
        From left to right. A high template begins under its lowest hole; one that takes more than
        24 pages repeats, so one pitch of it is given
    """
    wide, tall = ROOM[paper]
    around = template.drilled.around
    bottom = 0.0
    if template.height > tall:
        lowest = min(m.y - 0.5 * m.height for m in template.marks)
        bottom = max(lowest - _OVER, 0.0)
    count = math.ceil(max(around - _LAP, 1e-6) / (wide - _LAP))
    if count > _MOST_PAGES:
        count = 1
    return tuple(_strips(template, count, wide, bottom, min(template.height - bottom, tall)))


def _strips(
    template: WrapTemplate, count: int, wide: float, bottom: float, tall: float
) -> Iterator[TemplatePage]:
    around = template.drilled.around
    for number in range(count):
        start = number * (wide - _LAP)
        width = min(wide, around - start)
        marks = tuple(
            Mark(m.x - start, m.y - bottom, m.width, m.height, m.is_round)
            for m in template.marks
            if -0.5 * m.width <= m.x - start <= width + 0.5 * m.width
        )
        yield TemplatePage(template, number + 1, count, start, width, tall, bottom, marks)
