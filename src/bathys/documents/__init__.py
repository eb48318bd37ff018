"""Documents that leave the screen, all from one source: the build sheet as tables, an order of
work, spreadsheets, drawings to scale and a file for other programs.

Public: :func:`build_tables`, :func:`order_of_work`, :func:`workbook`, :func:`table_csv`,
:func:`templates_of`, :func:`templates_dxf`, :func:`ground_dxf`, :func:`pumped_inp`.
"""

from bathys.documents.build_sheet import SIDE_WORDS, build_tables
from bathys.documents.calendar import routine_ics, season_ics
from bathys.documents.changes import ChangedRow, KeptRows, changed_rows, kept_rows, moved_rows
from bathys.documents.dxf import ground_dxf, templates_dxf
from bathys.documents.epanet import NothingPumped, pumped_inp
from bathys.documents.making import stands as stands_table
from bathys.documents.order_of_work import Step, order_of_work
from bathys.documents.problems import StandingProblem, standing_problems, unacknowledged
from bathys.documents.season_report import DatedEntry, season_tables
from bathys.documents.spreadsheets import table_csv, workbook
from bathys.documents.tables import Amount, Cell, Table, cell_text
from bathys.documents.templates import TemplatePage, WrapTemplate, pages_of, templates_of

__all__ = [
    "SIDE_WORDS",
    "Amount",
    "Cell",
    "ChangedRow",
    "DatedEntry",
    "KeptRows",
    "NothingPumped",
    "StandingProblem",
    "Step",
    "Table",
    "TemplatePage",
    "WrapTemplate",
    "build_tables",
    "cell_text",
    "changed_rows",
    "ground_dxf",
    "kept_rows",
    "moved_rows",
    "order_of_work",
    "pages_of",
    "pumped_inp",
    "routine_ics",
    "season_ics",
    "season_tables",
    "standing_problems",
    "stands_table",
    "table_csv",
    "templates_dxf",
    "templates_of",
    "unacknowledged",
    "workbook",
]
