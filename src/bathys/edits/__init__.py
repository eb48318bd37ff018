"""From one plan to the next. Public: :class:`Edit`, :func:`apply_edits`, :class:`EditRefused`, what
sets one field, what trades one kind for another, and what is done to whole parts."""

from bathys.edits.adding import ADDABLE, add_part, free_id
from bathys.edits.containers import use_container
from bathys.edits.duplicating import duplicate_part
from bathys.edits.editing import (
    Change,
    Edit,
    EditRefused,
    apply_edits,
    set_fitting_count,
    set_value,
)
from bathys.edits.joining import Joins, add_joined, joins_for
from bathys.edits.operations import move_along, raise_part, remove_part
from bathys.edits.own_parts import own_parts_for, use_own_part
from bathys.edits.rerouting import connect, lead_elsewhere
from bathys.edits.switching import SWITCHES, switch_kind
from bathys.edits.volumes import set_volume

__all__ = [
    "ADDABLE",
    "SWITCHES",
    "Change",
    "Edit",
    "EditRefused",
    "Joins",
    "add_joined",
    "add_part",
    "apply_edits",
    "connect",
    "duplicate_part",
    "free_id",
    "joins_for",
    "lead_elsewhere",
    "move_along",
    "own_parts_for",
    "raise_part",
    "remove_part",
    "set_fitting_count",
    "set_value",
    "set_volume",
    "switch_kind",
    "use_container",
    "use_own_part",
]
