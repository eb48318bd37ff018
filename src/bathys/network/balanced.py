"""A plan in balance: every flow, level and share of time."""

from dataclasses import dataclass

from bathys.network.layout import Layout
from bathys.network.rest import AtRest
from bathys.plan.model import Plan

__all__ = ["Balance"]


@dataclass(frozen=True)
class Balance:
    """Flows and levels of a plan that hold, pumps running.

    Attributes
    ----------
    layout : Layout
        The plan compiled
    flows : dict
        Flow of each run while its pump runs, [m³/s]
    pump_flows : dict
        Flow of each pump while it runs, [m³/s]
    shares : dict
        Share of the time each pump runs, [-]
    heads : dict
        Head of each junction and pump outlet under pressure, [m]
    levels : dict
        Level of each vessel and gravity junction over the datum, [m]
    at_rest : AtRest
        Where all water stands with every pump off
    swings : dict
        What siphon beds take from and give to a vessel: lowest and highest level, [m]
    spills : dict
        Flow over the rim of each vessel that runs over, [m³/s]
    gains : dict
        What a vessel of given level gets more than it gives, [m³/s]
    closing : dict
        By vessel, the one that takes up what its loop's other vessels hold
    blocked : frozenset of str
        Runs in which a one-way end keeps water from running backwards
    pipe_volume : float
        Water in the pumped runs that falls back when the pumps stop, [m³]
    feeds : dict
        The pump whose time counts for a pumped run, where only one is tied to it
    """

    layout: Layout
    flows: dict[str, float]
    pump_flows: dict[str, float]
    shares: dict[str, float]
    heads: dict[str, float]
    levels: dict[str, float]
    at_rest: AtRest
    swings: dict[str, tuple[float, float]]
    spills: dict[str, float]
    gains: dict[str, float]
    closing: dict[str, str]
    blocked: frozenset[str]
    pipe_volume: float
    feeds: dict[str, str]

    @property
    def plan(self) -> Plan:
        """The plan."""
        return self.layout.plan

    @property
    def rest_levels(self) -> dict[str, float]:
        """Level of each vessel with every pump off [m]."""
        return self.at_rest.levels

    def inflow(self, vessel: str) -> float:
        """Everything that comes to a vessel, pumps running [m³/s]."""
        arriving = [r for r in self.plan.runs if r.target == vessel]
        leaving = [r for r in self.plan.runs if r.source == vessel]
        return sum(max(self.flows[r.id], 0.0) for r in arriving) + sum(
            max(-self.flows[r.id], 0.0) for r in leaving
        )
