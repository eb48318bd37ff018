"""What all parts of a plan are made of: frozen, strict, unknown fields refused."""

from pydantic import BaseModel, ConfigDict

__all__ = ["Part"]


class Part(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", strict=True, populate_by_name=True)
