"""Plan files as data that a test can spoil."""

import json
from pathlib import Path
from typing import Any

from bathys.plan import GROUPS, from_file

__all__ = ["lists_of"]


def lists_of(path: Path) -> dict[str, Any]:
    """What a plan file says, its parts in one list for each kind of job."""
    data: dict[str, Any] = from_file(json.loads(path.read_text()))
    return {**data, **{group: data.get(group, []) for group in GROUPS}}
