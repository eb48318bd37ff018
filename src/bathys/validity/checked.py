"""What was checked by computation: against what, and how near it must come."""

from dataclasses import dataclass

__all__ = ["CHECKED", "Checked"]


@dataclass(frozen=True, slots=True)
class Checked:
    """A check that is part of the tests.

    Attributes
    ----------
    subject : str
        What is worked out
    against : str
        What it is held against
    bound : str
        How near it must come
    """

    subject: str
    against: str
    bound: str


CHECKED = (
    Checked("Density and viscosity of water", "IAPWS-95 and the 2008 viscosity release", "0.1%"),
    Checked("Friction in pipes", "Moody’s chart (1944), read from memory", "2%"),
    Checked("Pumped flows of twelve example layouts", "EPANET 2.2", "0.5%"),
    Checked("Flow in part-full drains", "Chow’s table", "0.6%"),
    Checked("The mouth of a side outlet", "inlet formulas of FHWA HDS-5 (2012)", "10%"),
    Checked("Fill and drain times of siphon beds", "a stiff integrator (LSODA) at 1e-9", "0.05%"),
    Checked("Water kept by any simulated layout", "its own balance", "1 in 1,000,000,000"),
    Checked("What water carries", "EPANET’s quality engine, and closed forms", "0.5%"),
    Checked("How fast a grain falls", "spheres by published drag laws", "as published"),
    Checked("Oxygen that water holds", "the table of Standard Methods (memory)", "0.002 mg/L"),
    Checked("Harmful share of ammonia", "the table of Emerson 1975 (memory)", "1%"),
    Checked("Evaporation: saturated vapour", "IAPWS-IF97", "0.5%"),
    Checked("A plan fitted to readings", "210 hidden figures of simulated layouts", "80% in band"),
    Checked("Alarms", "30 quiet simulated days; each simulated failure", "no false one; an hour"),
)
"""Of the published laws behind the figures."""
