"""Keep or drop a builder's own container."""

from collections.abc import Mapping
from typing import Any

from django.contrib.auth.models import User
from django.core.exceptions import PermissionDenied

from bathys.parts.containers import Container
from bathys.units import System
from bathys_web.plans.measured import Measured
from bathys_web.plans.models import OwnContainer

__all__ = ["BadContainer", "drop_container", "keep_container", "own_containers_of"]

_MOST = 100


class BadContainer(ValueError):
    """What was typed is no container.

    Attributes
    ----------
    errors : dict of str
        Sentence by field
    """

    def __init__(self, errors: dict[str, str]) -> None:
        super().__init__("; ".join(errors.values()))
        self.errors = errors


def own_containers_of(user: User) -> tuple[Container, ...]:
    """A builder's own containers.

    Parameters
    ----------
    user : User
        Whose

    Returns
    -------
    tuple of Container
        By their names
    """
    return tuple(c.as_container() for c in OwnContainer.objects.filter(owner=user))


def keep_container(user: User, typed: Mapping[str, Any], units: System) -> OwnContainer:
    """Keep a container; one of the same name is replaced.

    Parameters
    ----------
    user : User
        Who asks
    typed : mapping of str to str
        ``name``, ``across``, ``width`` and ``tall`` as typed
    units : System
        The reader's units

    Returns
    -------
    OwnContainer
        The container as stored

    Raises
    ------
    BadContainer
        With a sentence for each field
    """
    name = str(typed.get("name", "")).strip()
    measured = Measured.of(typed, units)
    errors = dict(measured.errors)
    if not 1 <= len(name) <= 80:
        errors["name"] = "Give it a name of up to 80 letters."
    elif not name.isprintable():
        errors["name"] = "It holds a letter that cannot be kept; type it again."
    if measured.shape is None and not measured.errors:
        errors |= {"across": "Type its diameter or its length.", "tall": "Type its height."}
    known = OwnContainer.objects.filter(owner=user)
    if not errors and known.exclude(name=name).count() >= _MOST:
        errors["name"] = f"There are {_MOST} already; delete one first."
    if errors or measured.shape is None:
        raise BadContainer(errors)
    values = {"shape": measured.shape, "litres": measured.litres}
    return OwnContainer.objects.update_or_create(owner=user, name=name, defaults=values)[0]


def drop_container(container: OwnContainer, user: User) -> None:
    """Drop a container; plans that were made with it stay as they are.

    Parameters
    ----------
    container : OwnContainer
        The container
    user : User
        Who asks

    Raises
    ------
    PermissionDenied
        If it is not theirs
    """
    if container.owner_id != user.pk:
        raise PermissionDenied
    container.delete()
