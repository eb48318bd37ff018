"""Pumps."""

from typing import TYPE_CHECKING, ClassVar, Literal, TypeAlias

from pydantic import Field

from bathys.kinds import union_of
from bathys.plan.base import LeadsOn
from bathys.plan.curve import Curve
from bathys.plan.own_limits import PumpLimits
from bathys.plan.plugged_in import Circuit
from bathys.plan.quantities import (
    Dial,
    Height,
    Identifier,
    Power,
    Ratio,
    Wear,
)
from bathys.plan.switch import Band, Clock, Switch

__all__ = ["Pump"]

if TYPE_CHECKING:
    AnyCurve: TypeAlias = Curve
    AnySwitch: TypeAlias = Switch
else:
    AnyCurve, AnySwitch = union_of("curves"), union_of("switches")


class Pump(LeadsOn):
    """A pump standing in a vessel."""

    END: ClassVar[str] = "out"

    kind: Literal["pump"] = "pump"
    stands_in: Identifier
    inlet_height: Height = Field(
        title="Inlet height", description="Over the vessel's floor; it cannot pump below this."
    )
    curve: AnyCurve
    power: Power = Field(title="Power", description="Watts drawn, from the label or a meter.")
    circuit: Circuit = Field(
        default="", title="Circuit", description="Fuse or plug that it hangs on."
    )
    strainer_loss: Ratio = Field(
        default=0.0,
        title="Strainer loss K",
        description="On the run's bore: 0 clean, 5 and more when clogged.",
    )
    hangs: bool = Field(
        default=False,
        title="Hangs",
        description="On a cord or a hook, its inlet at the height above; else it stands.",
    )
    dial: Dial = Field(
        default=1.0, title="Dial", description="Share of full speed, or of its flow at no lift."
    )
    dial_turns: Literal["unknown", "speed", "intake"] = Field(
        default="unknown",
        title="What the dial does",
        description="One that slows it saves watts; one that narrows its intake saves hardly any.",
    )
    wear: Wear = Field(
        default=1.0, title="Wear", description="What it gives of its curve: 100 % new."
    )
    own: PumpLimits = PumpLimits()
    switch: AnySwitch | None = Field(default=None, title="Switched by")

    @property
    def clock(self) -> Clock | None:
        """Its turns, if it goes by the clock."""
        return self.switch.clock if self.switch is not None else None

    @property
    def share_a_year(self) -> float | None:
        """Share of the year that its clock lets it run; none without one [-]."""
        return self.switch.share_a_year if self.switch is not None else None

    @property
    def band(self) -> Band | None:
        """The levels that start and stop it, if it goes by the water."""
        return self.switch.band_over(self.inlet_height) if self.switch is not None else None

    @property
    def speed(self) -> float:
        """Share of its full speed that its dial sets [-]."""
        return 1.0 if self.dial_turns == "intake" else self.dial

    @property
    def intake_share(self) -> float:
        """Share of its flow at no lift that a dial on its intake leaves [-]."""
        return self.dial if self.dial_turns == "intake" else 1.0
