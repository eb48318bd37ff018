"""The build sheet as a page shows it, and as it is set on paper: one source for both."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any, Self

import segno
from django.contrib.staticfiles import finders
from django.template.loader import render_to_string

from bathys.documents import (
    StandingProblem,
    Table,
    TemplatePage,
    build_tables,
    cell_text,
    order_of_work,
    pages_of,
    standing_problems,
    templates_of,
)
from bathys.documents.templates import Paper
from bathys.drawing import draw_side_view
from bathys.drawing.drilling import board_pictures, drilling_pictures
from bathys.drawing.ground_plan import draw_ground_plan
from bathys.drawing.isometric import isometric_svg
from bathys.drawing.sheet import svg_file
from bathys.drawing.stations import stations_of
from bathys.pipeline import Assessment
from bathys.rules import cautions_for
from bathys.shelf import PriceList, money
from bathys.units import System, show

__all__ = ["PAPERS", "Stamp", "faults_of", "pdf_of", "set_on_paper", "sheet_context", "shown_table"]

PAPERS: dict[Paper, str] = {"A4": "210mm 297mm", "Letter": "8.5in 11in"}
"""Papers, with their sizes."""

_MM = 1000.0
_LABELLED = ("vessels", "runs", "pumps", "siphons", "outlets")


@dataclass(frozen=True, slots=True)
class Stamp:
    """What every sheet carries.

    Attributes
    ----------
    plan, revision : str
        Name of the plan and number of its revision
    made : str
        When the revision was made
    content, engine : str
        Beginnings of the names of its content and of the engine
    address : str
        Of the plan's page for a phone; empty if none is set
    """

    plan: str
    revision: int
    made: str
    content: str
    engine: str
    address: str

    @property
    def words(self) -> str:
        """In a line."""
        return (
            f"{self.plan}, revision {self.revision} of {self.made} UTC; content {self.content}, "
            f"engine {self.engine}"
        )

    @property
    def as_data(self) -> dict[str, Any]:
        """As plain data."""
        return asdict(self)

    @classmethod
    def from_data(cls, data: Mapping[str, Any]) -> Self:
        """From what :attr:`as_data` gave.

        Parameters
        ----------
        data : mapping of str to object
            Plain data

        Returns
        -------
        Stamp
            The stamp
        """
        return cls(**data)


def faults_of(found: Assessment, units: System, of_time: int) -> list[StandingProblem]:
    """Problems of a plan, each with a name by which it is acknowledged.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of the plan
    units : System
        The reader's units
    of_time : int
        How many more there are once time is followed

    Returns
    -------
    list of StandingProblem
        Each
    """
    plan = found.evaluation.plan
    faults = [*standing_problems(plan, found.findings, units)]
    if of_time > 0:
        more = "1 more problem" if of_time == 1 else f"{of_time} more problems"
        words = f"Power cuts, cycles or failures show {more}; the plan tells which."
        faults.append(StandingProblem("time", words))
    return faults


def sheet_context(
    found: Assessment,
    units: System,
    stock: float,
    prices: PriceList,
    stamp: Stamp,
    faults: Sequence[StandingProblem] = (),
    done: Sequence[str] = (),
) -> dict[str, Any]:
    """Everything on the sheet.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of the plan
    units : System
        The reader's units
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList
        What things cost
    stamp : Stamp
        What the sheet carries
    faults : sequence of StandingProblem
        Problems that were acknowledged, with name and sentence
    done : sequence of str
        Names of the steps that are done

    Returns
    -------
    dict of str to object
        Variables of the templates
    """
    evaluation = found.evaluation
    plan = evaluation.plan
    steps = order_of_work(evaluation, units)
    return {
        "stamp": stamp,
        "faults": faults,
        "steps": [{"step": s, "is_done": s.key in done} for s in steps],
        "hours": f"{sum(s.hours for s in steps):.0f}",
        "tables": [
            shown_table(t, prices.currency, units)
            for t in build_tables(evaluation, stock, prices, units)
        ],
        "cautions": cautions_for(plan.brief),
        "plan": plan,
    }


def shown_table(table: Table, currency: str, units: System) -> dict[str, Any]:
    """A table as pages and sheets show it.

    Parameters
    ----------
    table : Table
        The table
    currency : str
        Of its total
    units : System
        The reader's units

    Returns
    -------
    dict of str to object
        The ``table``, its ``rows`` in words with their heads, its ``total`` and how many columns
        that ``span``
    """
    total = ""
    if table.total is not None:
        cells = (row[table.total] for row in table.rows)
        total = money(sum(getattr(c, "value", 0.0) for c in cells), currency)
    return {
        "table": table,
        "rows": [
            [(h, cell_text(c, units)) for h, c in zip(table.heads, row, strict=True)]
            for row in table.rows
        ],
        "total": total,
        "span": len(table.heads) - 1,
    }


def pdf_of(
    found: Assessment,
    units: System,
    stock: float,
    prices: PriceList,
    stamp: Stamp,
    paper: Paper,
    faults: Sequence[StandingProblem] = (),
) -> bytes:
    """The sheet as PDF, with pictures, templates at true scale and labels.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of the plan
    units : System
        The reader's units
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList
        What things cost
    stamp : Stamp
        What every page carries
    paper : Paper
        The paper
    faults : sequence of StandingProblem
        Problems that were acknowledged

    Returns
    -------
    bytes
        A PDF file
    """
    evaluation = found.evaluation
    plan = evaluation.plan
    picture = draw_ground_plan(evaluation, units)
    ground = render_to_string(
        "plans/ground_file.svg", {"picture": picture, "plan": plan, "bar": picture.bar_words}
    )
    scene = draw_side_view(evaluation, stations_of(plan), units)
    side = svg_file(scene, plan.name, has_halo=False)
    context = {
        **sheet_context(found, units, stock, prices, stamp, faults),
        "side": side[side.index("<svg") :],
        "ground": ground[ground.index("<svg") :],
        "stands": isometric_svg(evaluation),
        "drilled": (*drilling_pictures(evaluation, units), *board_pictures(evaluation, units)),
        "pages": [_strip(page, units) for t in templates_of(plan) for page in pages_of(t, paper)],
        "labels": _labels(found, stamp),
    }
    return set_on_paper("plans/paper/sheet.html", context, paper)


def set_on_paper(template: str, context: Mapping[str, Any], paper: Paper) -> bytes:
    """A document as PDF.

    Parameters
    ----------
    template : str
        Its template
    context : mapping of str to object
        What it is filled with
    paper : Paper
        The paper

    Returns
    -------
    bytes
        A PDF file
    """
    from weasyprint import HTML, URLFetcher  # noqa: PLC0415 - slow to load, and only workers set

    face = finders.find("vendor/fonts/atkinson-hyperlegible-next-latin-wght-normal.woff2")
    html = render_to_string(template, {**context, "paper": PAPERS[paper], "face": face})
    fetcher = URLFetcher(allowed_protocols=("file", "data"))
    found_pdf: bytes = HTML(string=html, url_fetcher=fetcher).write_pdf()
    return found_pdf


def _strip(page: TemplatePage, units: System) -> dict[str, Any]:
    """A strip of a template in millimetres, from its upper left corner."""
    drilled = page.template.drilled
    return {
        "page": page,
        "title": f"{drilled.part} {drilled.name}",
        "foot": drilled.foot,
        "around": show(drilled.around, "length", units),
        "bottom": show(page.bottom, "length", units) if page.bottom > 0.0 else "",
        "width": round(page.width * _MM, 3),
        "height": round(page.height * _MM, 3),
        "marks": [
            {
                "x": round(m.x * _MM, 3),
                "y": round((page.height - m.y) * _MM, 3),
                "left": round((m.x - 0.5 * m.width) * _MM, 3),
                "top": round((page.height - m.y - 0.5 * m.height) * _MM, 3),
                "width": round(m.width * _MM, 3),
                "height": round(m.height * _MM, 3),
                "radius": round(0.5 * m.width * _MM, 3),
                "is_round": m.is_round,
                "drill": show(m.width, "length", units),
            }
            for m in page.marks
        ],
        "drills": sorted({show(m.width, "length", units) for m in page.marks if m.is_round}),
    }


def _labels(found: Assessment, stamp: Stamp) -> list[dict[str, str]]:
    """A label for every part that is met in the yard."""
    plan = found.evaluation.plan
    rows = []
    for station in stations_of(plan):
        if station.group not in _LABELLED:
            continue
        code = ""
        if stamp.address:
            at = f"{stamp.address}?part={station.id}&of={stamp.revision}"
            made = segno.make(at, error="m", micro=False)
            code = made.svg_inline(scale=2, border=1, dark="#000", light=None)
        rows.append({"id": station.id, "name": station.name, "code": code})
    return rows
