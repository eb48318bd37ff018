"""The inspector: boxes made from the plan's own field types, so that a new part brings its own.

Public: :class:`Row`, :func:`rows_of`, :func:`site_rows`, :func:`find_row`, :func:`shown_value`,
:func:`apply_row`.
"""

from bathys_web.plans.inspector.reading import apply_row
from bathys_web.plans.inspector.row import Row
from bathys_web.plans.inspector.rows import find_row, rows_of, site_rows
from bathys_web.plans.inspector.shown import shown_value

__all__ = ["Row", "apply_row", "find_row", "rows_of", "shown_value", "site_rows"]
