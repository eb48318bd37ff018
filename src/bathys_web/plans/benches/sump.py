"""A sump cut open: what it must have room for, stacked, and the marks to paint on it."""

from dataclasses import dataclass

from bathys.plan.vessel import Vessel
from bathys.scenarios.sump_capacity import SumpCapacity
from bathys.units import System, show
from bathys.wording.failures import CLAIMS

__all__ = ["ClaimBand", "SumpMark", "SumpPicture", "draw_sump"]


@dataclass(frozen=True, slots=True)
class SumpMark:
    """A mark on a sump's wall: where it is, where its words stand, and the words."""

    at: float
    words_at: float
    words: str
    look: str


@dataclass(frozen=True, slots=True)
class ClaimBand:
    """What one claim takes of a sump, stood on those before it, with its words at the left."""

    kind: str
    top: float
    tall: float
    words_at: float
    words: str
    is_over: bool


@dataclass(frozen=True, slots=True)
class SumpPicture:
    """A sump cut open, to scale in height: claims stacked in it, and marks to paint on it."""

    bands: tuple[ClaimBand, ...]
    marks: tuple[SumpMark, ...]
    floor: float
    rim: float
    left: float
    right: float
    width: float
    height: float

    @property
    def across(self) -> float:
        """From wall to wall."""
        return self.right - self.left


_WIDE, _TALL, _EDGE, _WORD_STEP = 680.0, 250.0, 18.0, 15.0
_LEFT, _RIGHT = 290.0, 470.0
_THIN = 1.0  # a band thinner than this is not worth a word


def draw_sump(vessel: Vessel, sump: SumpCapacity, units: System) -> SumpPicture:
    """A sump with its claims and marks.

    Parameters
    ----------
    vessel : Vessel
        The sump
    sump : SumpCapacity
        What it must hold
    units : str
        The system shown

    Returns
    -------
    SumpPicture
        What to draw; claims that do not fit stand out over the rim
    """
    tall = vessel.shape.height
    reach = max(tall, min(max(c.top for c in sump.claims), 1.6 * tall))

    def y(height: float) -> float:
        share = min(max(height, 0.0), reach) / reach
        return round(_TALL - _EDGE - share * (_TALL - 2.0 * _EDGE), 1)

    bands, below, last = [], 0.0, 1e9
    for claim in sump.claims:
        top, bottom = y(claim.top), y(below)
        if bottom - top >= _THIN:
            last = min(0.5 * (top + bottom) + 4.0, last - _WORD_STEP)
            words = f"{CLAIMS[claim.kind]} {show(claim.most, 'volume', units)}"
            bands.append(
                ClaimBand(
                    claim.kind,
                    top,
                    round(bottom - top, 1),
                    round(last, 1),
                    words,
                    claim.top > sump.most + 1e-6,
                )
            )
        below = claim.top
    rows = [
        ("highest", sump.most, "limit"),
        ("after a power cut", sump.power_off, "off"),
        ("usual high water", sump.normal_high, "usual"),
        ("usual low water", sump.normal_low, "usual"),
        ("lowest safe", sump.lowest_safe, "limit"),
    ]
    if sump.startup_low < sump.normal_low - 0.005:
        rows.append(("first start", sump.startup_low, "off"))
    marks, last = [], -100.0
    for name, height, look in sorted(rows, key=lambda r: -r[1]):
        last = max(y(height) + 4.0, last + _WORD_STEP)
        marks.append(SumpMark(y(height), last, f"{name} {show(height, 'length', units)}", look))
    return SumpPicture(tuple(bands), tuple(marks), y(0.0), y(tall), _LEFT, _RIGHT, _WIDE, _TALL)
