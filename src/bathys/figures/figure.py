"""A figure never stands bare: it is made by a formula that can say what it did.

The formula's own function makes the value, so that the explanation cannot drift from it, and by
moving each input a little it tells which of them drives the figure most.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

__all__ = ["Driver", "Figure", "Formula", "Input", "SourceKind", "drivers_of"]

SourceKind = Literal["published", "common practice", "derived", "set by the builder"]
_NUDGE = 0.01


@dataclass(frozen=True, slots=True)
class Input:
    """A number that went into a figure.

    Attributes
    ----------
    label : str
        Its name
    value : float
        In the engine's unit
    quantity : str
        Its quantity
    """

    label: str
    value: float
    quantity: str


@dataclass(frozen=True, slots=True)
class Formula:
    """How a kind of figure is made.

    Attributes
    ----------
    label : str
        The figure's name for people
    quantity : str
        Its quantity
    equation : str
        How it is made, for people
    source : str
        Where the equation comes from
    kind : str
        How far to trust the source
    compute : callable or None
        The equation itself, taking the inputs in their order; none where the figure is ``found``
    found : str
        How the figure is found where no arithmetic on its inputs gives it: what is solved, followed
        or added up
    worked : str
        The equation to be filled with a plan's own numbers, ``{0}`` for the first input; ``+`` for
        the sum of all of them
    """

    label: str
    quantity: str
    equation: str
    source: str
    kind: SourceKind = "derived"
    compute: Callable[..., float] | None = None
    worked: str = ""
    found: str = ""

    def __post_init__(self) -> None:
        if (self.compute is None) != bool(self.found):
            raise ValueError(f"{self.label}: say what makes it, or how it is found")

    def of(
        self,
        key: str,
        place: str,
        inputs: Sequence[Input],
        compare: str = "",
        compare_with: Mapping[str, float | str] | None = None,
        value: float | None = None,
        headline: bool = False,
        label: str = "",
    ) -> "Figure":
        """A figure made by this formula, in the unit of its quantity [SI].

        Parameters
        ----------
        key : str
            Stable name, such as ``P1.flow``
        place : str
            Id of the part it is about
        inputs : sequence of Input
            What goes in, in the order of the equation's function
        compare : str
            What it is compared with, with slots ``{name:quantity}``
        compare_with : mapping, optional
            Figures for the slots
        value : float, optional
            The value, where the formula has no function of its own
        headline : bool
            Whether it belongs at the head of the page
        label : str
            Its name, if another than the formula's

        Returns
        -------
        Figure
            The figure
        """
        if self.compute is not None:
            value = self.compute(*(i.value for i in inputs))
        return Figure(
            key,
            place,
            label or self.label,
            value,
            self.quantity,
            compare,
            dict(compare_with or {}),
            tuple(inputs),
            self,
            headline,
        )


@dataclass(frozen=True, slots=True)
class Figure:
    """One figure of an evaluation.

    Attributes
    ----------
    key : str
        Stable name, such as ``P1.flow``
    place : str
        Id of the part it is about
    label : str
        Its name for people
    value : float or None
        In the engine's unit; none where there is no such figure
    quantity : str
        Its quantity
    compare : str
        What it is compared with, with slots ``{name:quantity}``
    compare_with : mapping
        Figures for the slots
    inputs : tuple of Input
        What went into it
    formula : Formula
        How it was made
    headline : bool
        Whether it belongs at the head of the page
    """

    key: str
    place: str
    label: str
    value: float | None
    quantity: str
    compare: str
    compare_with: Mapping[str, float | str] = field(default_factory=dict)
    inputs: tuple[Input, ...] = ()
    formula: Formula = field(default_factory=lambda: Formula("", "", "", "", found="nothing"))
    headline: bool = False

    @property
    def equation(self) -> str:
        """How it was made."""
        return self.formula.equation

    @property
    def worked(self) -> tuple[str, dict[str, float]]:
        """The equation with this plan's numbers in it, as a sentence with slots and the figures
        for them; empty where there is none."""
        slots = [f"{{input{n}:{i.quantity}}}" for n, i in enumerate(self.inputs)]
        words = " + ".join(slots) if self.formula.worked == "+" else self.formula.worked
        if not slots or self.value is None:
            return "", {}
        for number, slot in enumerate(slots):
            words = words.replace(f"{{{number}}}", slot)
        figures = {f"input{n}": i.value for n, i in enumerate(self.inputs)}
        figures["value"] = self.value
        return f"{words} = {{value:{self.quantity}}}" if words else "", figures

    @property
    def source(self) -> str:
        """Where the equation comes from."""
        return self.formula.source

    @property
    def kind(self) -> SourceKind:
        """How far to trust the source."""
        return self.formula.kind


@dataclass(frozen=True, slots=True)
class Driver:
    """What moves a figure.

    Attributes
    ----------
    label : str
        The input, or the change to the plan, with slots ``{name:quantity}``
    effect : float
        Change of the figure over the figure, for one percent more of the input or for the change
    figures : mapping
        Figures for the slots
    """

    label: str
    effect: float
    figures: Mapping[str, float | str] = field(default_factory=dict)


def drivers_of(figure: Figure, most: int = 3) -> tuple[Driver, ...]:
    """The inputs that drive a figure most, by moving each by one percent.

    Parameters
    ----------
    figure : Figure
        A figure whose formula has a function
    most : int
        How many, [-]

    Returns
    -------
    tuple of Driver
        Strongest first; none for a figure that comes out of the balance, or is 0
    """
    compute = figure.formula.compute
    if compute is None or not figure.value:
        return ()
    values = [i.value for i in figure.inputs]
    rows = []
    for place, one in enumerate(figure.inputs):
        moved = [*values]
        moved[place] = one.value * (1.0 + _NUDGE)
        effect = compute(*moved) / figure.value - 1.0
        if abs(effect) > 1e-9:
            rows.append(Driver("{input:words}", effect, {"input": one.label}))
    return tuple(sorted(rows, key=lambda d: -abs(d.effect))[:most])
