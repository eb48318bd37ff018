"""Where metres land in the picture."""

from bathys.plan.model import Plan
from bathys.vessels import spans_of

__all__ = ["Frame"]

NARROW, WIDE = 760.0, 1240.0
HEIGHT = 470.0
LEFT, RIGHT, TOP, BOTTOM = 78.0, 112.0, 34.0, 34.0
_FEW = 3  # so many vessels fit the narrow picture


class Frame:
    """Places of a plan in its picture.

    Parameters
    ----------
    plan : Plan
        The plan
    like : Plan, optional
        A plan whose scale and edges are kept
    """

    low: float
    high: float
    left: float
    is_wide: bool
    up: float
    across: float
    width: float

    def __init__(self, plan: Plan, like: Plan | None = None) -> None:
        self.plan = plan
        self.spans = spans_of(plan)
        self.pumps_at: dict[str, float] = {}  # filled in by what draws them
        if like is not None:
            other = Frame(like)
            self.low, self.high, self.left = other.low, other.high, other.left
            self.is_wide, self.up, self.across = other.is_wide, other.up, other.across
            self.width = other.width
            return
        floors = [v.floor_height for v in plan.vessels]
        tops = [v.floor_height + v.shape.height for v in plan.vessels]
        ends = [e for r in plan.runs for p in (r.start, r.end) if (e := plan.elevation(p))]
        self.low = min([0.0, *floors, *ends]) - 0.12
        self.high = max([*tops, *ends]) + 0.22
        self.left = min(a for a, _ in self.spans.values())
        right = max(b for _, b in self.spans.values())
        self.is_wide = len(plan.vessels) > _FEW
        most = WIDE if self.is_wide else NARROW
        across = (most - LEFT - RIGHT) / max(right - self.left, 0.1)
        self.up = (HEIGHT - TOP - BOTTOM) / (self.high - self.low)
        self.across = min(across, self.up)
        self.width = round(LEFT + (right - self.left) * self.across + RIGHT, 1)

    def x(self, along: float) -> float:
        """Of a place from the left [m]."""
        return round(LEFT + (along - self.left) * self.across, 1)

    def y(self, elevation: float) -> float:
        """Of a height over the datum [m]."""
        return round(HEIGHT - BOTTOM - (elevation - self.low) * self.up, 1)

    def tall(self, length: float) -> float:
        """Of an upright length [m]."""
        return round(length * self.up, 1)

    def wide(self, length: float) -> float:
        """Of a level length [m]."""
        return round(length * self.across, 1)

    def middle(self, vessel: str) -> float:
        """Middle of a vessel in the picture [px]."""
        left, right = self.spans[vessel]
        return self.x(0.5 * (left + right))

    def edges(self, vessel: str) -> tuple[float, float]:
        """Left and right wall of a vessel in the picture [px]."""
        left, right = self.spans[vessel]
        return self.x(left), self.x(right)
