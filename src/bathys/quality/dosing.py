"""What to weigh for a wanted change of the water."""

from dataclasses import dataclass

from bathys.evaluation import Evaluation

__all__ = ["SUBSTANCES", "Substance", "dose_of", "loops_to_dose", "spoons_of"]


@dataclass(frozen=True, slots=True)
class Substance:
    """Something that is given to the water.

    Attributes
    ----------
    name : str
        What it is
    changes : str
        What it raises
    share : float
        Of that in it, by mass, [-]
    step : float
        A usual change, [g/m³]
    caution : str
        What to heed
    """

    name: str
    changes: str
    share: float
    step: float
    caution: str


SUBSTANCES: dict[str, Substance] = {
    "potassium_bicarbonate": Substance(
        "potassium bicarbonate",
        "alkalinity, as CaCO3",
        0.50,
        17.85,
        "Give it over a day; more than one degree at a time shocks fish.",
    ),
    "baking_soda": Substance(
        "baking soda",
        "alkalinity, as CaCO3",
        1.0 / 1.68,
        17.85,
        "Its sodium stays: plants do not take it up.",
    ),
    "salt": Substance(
        "salt without additives",
        "salt",
        1.0,
        1000.0,
        "It reaches the plants. Strawberries and beans suffer from 1 g/L on.",
    ),
    "iron": Substance(
        "chelated iron, 11 %",
        "iron",
        0.11,
        2.0,
        "Chelates come for different pH: take one that holds at yours.",
    ),
    "potassium_sulfate": Substance(
        "potassium sulfate", "potassium", 0.449, 10.0, "Dissolve it in a bucket first."
    ),
    "calcium_chloride": Substance(
        "calcium chloride, dihydrate", "calcium", 0.273, 10.0, "It warms the water it dissolves in."
    ),
    "urea": Substance(
        "urea", "nitrogen, before there are fish", 0.47, 1.0, "Never with fish in the water."
    ),
    "thiosulfate": Substance(
        "sodium thiosulfate",
        "chlorine that it takes out",
        1.0 / 7.0,
        1.0,
        "Chloramine leaves ammonia behind. Ask the water works what they give.",
    ),
}
"""By key; shares by molar mass, of thiosulfate 7 g for each gram of chlorine (common practice)."""


def dose_of(substance: Substance, change: float, volume: float) -> float:
    """What to weigh.

    Parameters
    ----------
    substance : Substance
        What is given
    change : float
        Wanted, [g/m³]
    volume : float
        Of the water, [m³]

    Returns
    -------
    float
        Mass, [kg]
    """
    return change * volume / substance.share / 1000.0


def loops_to_dose(found: Evaluation) -> dict[str, tuple[tuple[str, ...], float]]:
    """Waters that a dose goes into: each loop by itself.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    dict of str to (tuple of str, float)
        Ids of its vessels and its water, [m³], by the vessel that closes the loop
    """
    loops: dict[str, list[str]] = {}
    for vessel, closer in found.balance.closing.items():
        loops.setdefault(closer, []).append(vessel)
    return {
        closer: (tuple(members), sum(found.vessels[m].volume for m in members))
        for closer, members in loops.items()
    }


def spoons_of(dose: float, spoon: float) -> float:
    """How many spoons or caps a dose is.

    Parameters
    ----------
    dose : float
        What is to be given, [kg]
    spoon : float
        What one level spoon of it weighs, over 0, [kg]

    Returns
    -------
    float
        Count, to a half, [-]
    """
    return round(2.0 * dose / spoon) / 2.0
