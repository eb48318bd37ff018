"""``bathys build``: what to level, drill, mark, cut and read."""

from collections.abc import Collection, Sequence
from contextlib import suppress
from dataclasses import asdict
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from bathys.build import (
    KERF,
    Packing,
    PipeNeed,
    bases_of,
    cut_list,
    fitting_counts,
    holes_of,
    marks_of,
    pipe_pieces,
    readings_of,
    shopping_list,
)
from bathys.commands.tables import table
from bathys.documents import (
    NothingPumped,
    StandingProblem,
    build_tables,
    cell_text,
    ground_dxf,
    order_of_work,
    pumped_inp,
    routine_ics,
    standing_problems,
    table_csv,
    templates_dxf,
    templates_of,
    unacknowledged,
    workbook,
)
from bathys.drawing import draw_side_view
from bathys.drawing.isometric import isometric_svg
from bathys.drawing.sheet import svg_file
from bathys.drawing.stations import stations_of
from bathys.engine import engine_name
from bathys.evaluation import Evaluation
from bathys.network import NotSolved
from bathys.pipeline import Assessment, assess_dynamic
from bathys.plan import document_hash, dump_plan
from bathys.routine import jobs_of
from bathys.shelf import PriceList
from bathys.simulation import NotSimulated
from bathys.units import System

__all__ = ["NotAcknowledged", "acknowledged_problems", "as_data", "as_text", "into_folder"]


class NotAcknowledged(Exception):
    """A problem stands that nobody acknowledged."""


def acknowledged_problems(
    found: Assessment, names: Collection[str], units: System
) -> tuple[StandingProblem, ...]:
    """Problems that stand, those with it that only time shows, if all are acknowledged.

    Parameters
    ----------
    found : Assessment
        Numbers and findings of the plan
    names : collection of str
        Names of the problems that are acknowledged
    units : System
        The reader's units

    Returns
    -------
    tuple of StandingProblem
        Those that stand

    Raises
    ------
    NotAcknowledged
        If one is not; its words tell which
    """
    findings = list(found.findings)
    with suppress(NotSimulated, NotSolved):
        findings += assess_dynamic(found).findings
    problems = standing_problems(found.evaluation.plan, findings, units)
    open_ = unacknowledged(problems, names)
    if open_:
        told = "".join(f"\n  {p.name}  {p.sentence}" for p in open_)
        more = " ".join(f"--acknowledge {p.name}" for p in open_)
        raise NotAcknowledged(
            f"No sheet is made while a problem stands:{told}\nIf you know better, add {more}"
        )
    return problems


def as_text(found: Evaluation, stock: float, prices: PriceList, units: System) -> str:
    """Every table of the build sheet, for a terminal.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList
        What things cost, and what is at hand
    units : System
        The reader's units

    Returns
    -------
    str
        Lines for a terminal

    Raises
    ------
    BadStock
        If nothing can be cut from such a length
    """
    lines = []
    for told in build_tables(found, stock, prices, units):
        rows = [[cell_text(cell, units) for cell in row] for row in told.rows]
        lines += [told.title, "", *table(told.heads, rows, len(told.heads)), told.note, ""]
    return "\n".join(lines).rstrip()


def into_folder(
    found: Evaluation,
    stock: float,
    prices: PriceList,
    units: System,
    folder: Path,
    problems: Sequence[StandingProblem] = (),
) -> str:
    """Write every file of the build sheet into a folder.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList
        What things cost, and what is at hand
    units : System
        The reader's units
    folder : Path
        Made if it is not there
    problems : sequence of StandingProblem
        Those that are acknowledged; they stand on the workbook and over the order of work

    Returns
    -------
    str
        Names of the files

    Raises
    ------
    BadStock
        If nothing can be cut from such a length
    OSError
        If the folder cannot be written to
    """
    plan = found.plan
    tables = build_tables(found, stock, prices, units)
    heading = f"{plan.name}; content {document_hash(plan)[:12]}, engine {engine_name()[:8]}"
    files: dict[str, str | bytes] = {f"{t.key}.csv": table_csv(t, units) for t in tables}
    files |= {
        "build.xlsx": workbook(tables, heading, units, problems),
        "ground.dxf": ground_dxf(plan),
        "plan.json": dump_plan(plan),
        "side-view.svg": svg_file(draw_side_view(found, stations_of(plan), units), plan.name),
        "as-it-stands.svg": isometric_svg(found),
        "order-of-work.txt": "".join(f"PROBLEM {p.name}: {p.sentence}\n" for p in problems)
        + "".join(
            f"[ ] {s.title} ({s.hours:g} h)\n    {s.text}\n"
            + (f"    {s.caution}\n" if s.caution else "")
            for s in order_of_work(found, units)
        ),
    }
    files["routine.ics"] = routine_ics(
        jobs_of(found), plan.name, document_hash(plan)[:12], datetime.now(UTC).date(), units
    )
    if templates_of(plan):
        files["templates.dxf"] = templates_dxf(plan)
    with suppress(NothingPumped):
        files["pumped.inp"] = pumped_inp(found)
    folder.mkdir(parents=True, exist_ok=True)
    for name, content in files.items():
        data = content.encode() if isinstance(content, str) else content
        (folder / name).write_bytes(data)
    return "\n".join(sorted(files))


def _packed(found: Evaluation, stock: float) -> list[tuple[PipeNeed, Packing | None]]:
    """Each size of pipe with its cut list; hose has none."""
    return [
        (need, None if need.is_by_bore else cut_list(need.pieces, stock, KERF))
        for need in pipe_pieces(found)
    ]


def as_data(found: Evaluation, stock: float, prices: PriceList) -> dict[str, Any]:
    """The same as JSON data, in SI units.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList
        What things cost, and what is at hand

    Returns
    -------
    dict of str to object
        JSON data

    Raises
    ------
    BadStock
        If nothing can be cut from such a length
    """
    bought = shopping_list(found, stock, prices)
    return {
        "bases": [
            {"vessel": r.vessel.id, "height": r.height, "dug": r.dug} for r in bases_of(found)
        ],
        "holes": [
            {
                "vessel": r.vessel.id,
                "run": r.run.id,
                "name": r.name,
                "height": r.height,
                "over_datum": r.over_datum,
                "pipe": r.pipe,
                "fitting": r.fitting,
                "drill": r.diameter,
                "side": r.side,
                "across": r.across,
                "in_floor": r.is_in_floor,
            }
            for r in holes_of(found)
        ],
        "marks": [
            {
                "vessel": r.vessel.id,
                "safe": r.safe,
                "low": r.low,
                "high": r.high,
                "at_rest": r.at_rest,
                "sludge": r.sludge,
            }
            for r in marks_of(found)
        ],
        "fittings": [asdict(r) for r in fitting_counts(found)],
        "pipes": [
            {
                "size": need.size,
                "standard": need.standard,
                "bore": need.bore,
                "length": need.length,
                "stocks": [asdict(s) for s in packing.stocks] if packing is not None else None,
                "least": packing.least if packing is not None else None,
            }
            for need, packing in _packed(found, stock)
        ],
        "readings": [asdict(r) for r in readings_of(found)],
        "shopping": [asdict(line) for line in bought.lines],
        "total": bought.total,
        "without_price": len(bought.without_price),
    }
