"""Keep or drop a part of a builder's own that is neither pump nor container."""

from collections.abc import Mapping

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys.shelf import OWN_PART_KINDS, BadOwnPart, ShelfPart, read_own_part
from bathys.units import System
from bathys_web.plans.models import OwnPart

__all__ = ["drop_own_part", "keep_own_part", "own_parts_of"]

_MOST = 300


def own_parts_of(user: User) -> tuple[ShelfPart, ...]:
    """Parts of a builder's own, but pumps and containers.

    Parameters
    ----------
    user : User
        Whose

    Returns
    -------
    tuple of ShelfPart
        By kind and name
    """
    return tuple(p.as_shelf_part() for p in OwnPart.objects.filter(owner=user))


def keep_own_part(user: User, kind: str, typed: Mapping[str, str], units: System) -> OwnPart:
    """Keep a part; one of the same kind and name is replaced.

    Parameters
    ----------
    user : User
        Who asks
    kind : str
        One of ``OWN_PART_KINDS``
    typed : mapping of str to str
        What was typed, by field
    units : System
        The reader's units

    Returns
    -------
    OwnPart
        The part as stored

    Raises
    ------
    BadOwnPart
        With a sentence for each field
    KeyError
        If there is no such kind
    """
    read = read_own_part(OWN_PART_KINDS[kind], typed, units)
    known = OwnPart.objects.filter(owner=user)
    if known.exclude(kind=kind, name=read.name).count() >= _MOST:
        raise BadOwnPart({"name": f"There are {_MOST} already; delete one first."})
    values = {"figures": dict(read.values)}
    return OwnPart.objects.update_or_create(owner=user, kind=kind, name=read.name, defaults=values)[
        0
    ]


def drop_own_part(part: OwnPart, user: User) -> None:
    """Drop a part; plans that were made with it stay as they are.

    Parameters
    ----------
    part : OwnPart
        The part
    user : User
        Who asks

    Raises
    ------
    PermissionDenied
        If it is not theirs
    """
    if part.owner_id != user.pk:
        raise PermissionDenied
    part.delete()
