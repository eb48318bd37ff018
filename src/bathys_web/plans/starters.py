"""Plans to start from."""

from functools import cache
from pathlib import Path

from bathys.pipeline import assess
from bathys.plan import Plan, load_plan
from bathys.simulation import simulate

__all__ = ["starter", "warm_engine"]

_FOLDER = Path(__file__).parent / "starter_plans"


@cache
def starter(name: str) -> Plan:
    """A plan that ships with the application.

    Raises
    ------
    KeyError
        If there is none of that name
    """
    path = {p.stem: p for p in _FOLDER.glob("*.json")}[name]
    return load_plan(path.read_bytes())


def warm_engine() -> None:
    """Work one plan out and follow it a little, so that tables, caches and compiled code stand
    before the first visitor comes."""
    assess(starter("stacked-pair"))
    simulate(starter("stacked-pair"), 0.05)
