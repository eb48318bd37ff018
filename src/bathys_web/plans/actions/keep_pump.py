"""Keep or drop a builder's own pump."""

import json
from typing import Any

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied
from pydantic import ValidationError

from bathys.edits import EditRefused
from bathys.kinds import model_named
from bathys.units import System, UnreadableQuantity, read
from bathys_web.plans.inspector.lines import LINES
from bathys_web.plans.models import OwnPump

__all__ = ["BadPump", "drop_pump", "keep_pump"]

_FIELDS = (("max_flow", "flow"), ("max_head", "head"), ("power", "power"))
_MOST, _LONGEST = 200, 4000
_LIMITS = {"max_flow": 1.0, "max_head": 100.0, "power": 1e5}


class BadPump(ValueError):
    """What was typed is no pump.

    Attributes
    ----------
    errors : dict of str
        Sentence by field
    """

    def __init__(self, errors: dict[str, str]) -> None:
        super().__init__("; ".join(errors.values()))
        self.errors = errors


def keep_pump(user: User, typed: dict[str, str], units: System) -> OwnPump:
    """Keep a pump; one of the same name is replaced.

    Parameters
    ----------
    user : User
        Who asks
    typed : dict of str to str
        What was typed, by field
    units : System
        The reader's units

    Returns
    -------
    OwnPump
        The pump as stored

    Raises
    ------
    BadPump
        With a sentence for each field
    """
    errors: dict[str, str] = {}
    name = typed.get("name", "").strip()
    if not 1 <= len(name) <= 80:
        errors["name"] = "Give it a name of up to 80 letters."
    elif not name.isprintable():
        errors["name"] = "It holds a letter that cannot be kept; type it again."
    points = _points(typed.get("points", ""), units, errors)
    values: dict[str, Any] = {"exponent": 2.0, "points": points}
    told = [("power", "power")] if typed.get("points", "").strip() else _FIELDS
    for field, quantity in told:
        try:
            values[field] = read(typed.get(field, ""), quantity, units)
        except UnreadableQuantity as error:
            errors[field] = str(error)
            continue
        if not 1e-7 < values[field] <= _LIMITS[field]:
            errors[field] = "That is not the size of a pump."
    if points:
        values["max_flow"], values["max_head"] = points[-1][0], points[0][1]
    if not errors and OwnPump.objects.filter(owner=user).count() >= _MOST:
        errors["name"] = f"There are {_MOST} already; delete one first."
    if errors:
        raise BadPump(errors)
    return OwnPump.objects.update_or_create(owner=user, name=name, defaults=values)[0]


def _points(text: str, units: System, errors: dict[str, str]) -> list[tuple[float, float]]:
    """Points of a curve as typed; empty where none are, or where they are no curve."""
    if not text.strip():
        return []
    try:
        rows = LINES["points"].parse(text[:_LONGEST], units)
        curve = model_named("curves", "points").model_validate_json(
            json.dumps({"kind": "points", "points": rows})
        )
    except EditRefused as refused:
        errors["points"] = str(refused)
    except ValidationError as wrong:
        said = str(wrong.errors()[0]["msg"]).removeprefix("Value error, ")
        own = wrong.errors()[0]["type"] == "value_error"
        errors["points"] = (
            f"{said[0].upper()}{said[1:]}."
            if own
            else "Give two points or more, none beyond the size of a pump."
        )
    else:
        return [(p.flow, p.head) for p in curve.points]
    return []


def drop_pump(pump: OwnPump, user: User) -> None:
    """Drop a pump.

    Parameters
    ----------
    pump : OwnPump
        The pump
    user : User
        Who asks

    Raises
    ------
    PermissionDenied
        If it is not theirs
    """
    if pump.owner_id != user.pk:
        raise PermissionDenied
    pump.delete()
