"""Keep or drop a builder's own pump."""

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys.units import System, UnreadableQuantity, read
from bathys_web.plans.models import OwnPump

__all__ = ["BadPump", "drop_pump", "keep_pump"]

_FIELDS = (("max_flow", "flow"), ("max_head", "head"), ("power", "power"))
_MOST = 200
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
    values = {"exponent": 2.0}
    for field, quantity in _FIELDS:
        try:
            values[field] = read(typed.get(field, ""), quantity, units)
        except UnreadableQuantity as error:
            errors[field] = str(error)
            continue
        if not 1e-7 < values[field] <= _LIMITS[field]:
            errors[field] = "That is not the size of a pump."
    if not errors and OwnPump.objects.filter(owner=user).count() >= _MOST:
        errors["name"] = f"There are {_MOST} already; delete one first."
    if errors:
        raise BadPump(errors)
    return OwnPump.objects.update_or_create(owner=user, name=name, defaults=values)[0]


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
