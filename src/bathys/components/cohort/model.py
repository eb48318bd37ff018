"""Fish of one age in a tank."""

from dataclasses import replace
from typing import TYPE_CHECKING, Annotated, Literal, Self, TypeAlias

from pydantic import Field, model_validator

from bathys.parts.species import SPECIES, Species
from bathys.plan.own_limits import FishLimits
from bathys.plan.quantities import Mass, Opening
from bathys.plan.stock import Stock

__all__ = ["MODEL", "Cohort"]

if TYPE_CHECKING:
    AnySpecies: TypeAlias = str
else:
    AnySpecies = Literal[tuple(SPECIES)]

_Fish = Annotated[int, Field(ge=1, le=100_000, json_schema_extra={"quantity": "count"})]


class Cohort(Stock):
    """So many fish of about one size."""

    kind: Literal["cohort"] = "cohort"
    species: AnySpecies = Field(title="Fish", description="Check which the local law allows.")
    count: _Fish = Field(title="How many")
    mean_mass: Annotated[Mass, Field(gt=0.0, le=100.0)] = Field(title="Each weighs now")
    harvest_mass: Annotated[Mass, Field(gt=0.0, le=100.0)] = Field(title="Each at harvest")
    eats: Annotated[Opening, Field(gt=0.0, le=0.2)] | None = Field(
        default=None,
        title="Feed a day",
        description="Of what they weigh; none for what such fish eat.",
    )
    protein: Annotated[Opening, Field(ge=0.1, le=0.7)] = Field(
        default=0.36, title="Protein in the feed"
    )
    home_grown: Opening = Field(
        default=0.0,
        title="Grown at home",
        description="Share of the feed that need not be bought: duckweed, larvae, worms.",
    )
    own: FishLimits = FishLimits()

    @model_validator(mode="after")
    def _range_of_water(self) -> Self:
        if self.stands.coldest >= self.stands.warmest:
            raise ValueError("the coldest water they stand must be colder than the warmest")
        return self

    @property
    def stands(self) -> Species:
        """What such fish stand and eat, but for the builder's own limits."""
        usual = SPECIES[self.species]
        own = {k: v for k, v in self.own.model_dump().items() if v is not None}
        return replace(usual, **own) if own else usual

    @property
    def share_fed(self) -> float:
        """Feed a day over what they weigh [-]."""
        return self.eats if self.eats is not None else self.stands.eats

    @property
    def mass(self) -> float:
        return self.count * self.mean_mass

    @property
    def mass_at_harvest(self) -> float:
        return self.count * self.harvest_mass

    @property
    def mass_each(self) -> float:
        return self.mean_mass

    @property
    def harvest_each(self) -> float:
        return self.harvest_mass

    @property
    def feed(self) -> float:
        return self.share_fed * self.mass

    @property
    def feed_grown(self) -> float:
        return self.home_grown * self.feed

    @property
    def protein_share(self) -> float:
        return self.protein


MODEL = Cohort
