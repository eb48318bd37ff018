"""A float valve on a pipe of fresh water."""

from typing import Literal

from bathys.plan.supply import TopUp

__all__ = ["MODEL", "FloatValve"]


class FloatValve(TopUp):
    """A float valve that lets fresh water in when the level is low."""

    kind: Literal["float_valve"] = "float_valve"


MODEL = FloatValve
