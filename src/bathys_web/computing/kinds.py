"""The kinds of computation, by name."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Protocol

from bathys.plan import Plan

__all__ = ["IsWanted", "Kind", "computation", "kind_of"]


class IsWanted(Protocol):
    """Told the share of the way [-], answers whether to go on."""

    def __call__(self, share: float) -> bool:
        """Whether to go on."""
        ...

    def show(self, so_far: Any) -> None:
        """Let whoever waits see what is found so far."""
        ...


Compute = Callable[[Plan, Mapping[str, Any], IsWanted], Any]


@dataclass(frozen=True)
class Kind:
    """A kind of computation.

    Attributes
    ----------
    name : str
        Its name in the table
    compute : callable
        From a plan, what else was asked as plain data, and whether it is still wanted, to the
        result; a new process can unpickle it
    is_long : callable
        Whether it is known to take more than a few seconds
    """

    name: str
    compute: Compute
    is_long: Callable[[Plan, Mapping[str, Any]], bool]


_KINDS: dict[str, Kind] = {}


def computation(
    name: str, is_long: Callable[[Plan, Mapping[str, Any]], bool] = lambda plan, words: False
) -> Callable[[Compute], Compute]:
    """Register a kind of computation.

    Parameters
    ----------
    name : str
        Its name
    is_long : callable
        Whether a plan and an ask are known to take long

    Returns
    -------
    callable
        The decorator
    """

    def keep(compute: Compute) -> Compute:
        _KINDS[name] = Kind(name, compute, is_long)
        return compute

    return keep


def kind_of(name: str) -> Kind:
    """The kind of this name.

    Parameters
    ----------
    name : str
        Its name

    Returns
    -------
    Kind
        The kind
    """
    return _KINDS[name]
