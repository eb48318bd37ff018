"""Where each vessel is drilled: its sides seen from outside, to scale, with what is measured."""

from collections.abc import Iterable
from dataclasses import dataclass
from html import escape

from bathys.build import FLOOR, SITE, Hole, RaftBoards, Wall, holes_of, raft_boards, walls_of
from bathys.drawing.stations import labels_of
from bathys.evaluation import Evaluation
from bathys.plan.vessel import Vessel
from bathys.plan.wall_hole import SIDES
from bathys.units import System, show_tape

__all__ = ["DrillingPicture", "board_pictures", "drilling_pictures"]

_WIDE, _TALL = 400.0, 230.0  # of a side at most [px]
_ROW_WIDE = 900.0  # of sides beside each other [px]
_LEFT, _RIGHT, _TOP, _FOOT, _GAP = 74.0, 92.0, 34.0, 50.0, 26.0
_ROW, _COLUMN = 13.0, 62.0  # between figures that would lie on each other
_INK, _WATER, _WALL, _QUIET = "#22313a", "#2f7f9b", "#e8eef0", "#5b6b73"
_SIDE_WORDS = {
    "near": "near side, from outside",
    "right": "right side, from outside",
    "far": "far side, from outside",
    "left": "left side, from outside",
    FLOOR: "floor, from above",
}


@dataclass(frozen=True, slots=True)
class DrillingPicture:
    """A vessel's sides with their holes.

    Attributes
    ----------
    vessel : str
        Id of the vessel
    title : str
        Its label and its name
    svg : str
        An SVG document
    is_board : bool
        Whether it is of a raft board, not of a vessel
    """

    vessel: str
    title: str
    svg: str
    is_board: bool = False

    @property
    def name(self) -> str:
        """Its name in an address."""
        return f"{self.vessel}-board" if self.is_board else self.vessel


def drilling_pictures(found: Evaluation, units: System) -> tuple[DrillingPicture, ...]:
    """A picture for each vessel that is drilled.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    tuple of DrillingPicture
        In the plan's order; each hole once, measured from the left corner and from the floor
    """
    drilled: dict[str, list[Hole]] = {}
    for hole in holes_of(found):
        drilled.setdefault(hole.vessel.id, []).append(hole)
    labels = labels_of(found.plan)
    pictures = []
    for id_, holes in drilled.items():
        vessel = found.plan.vessel(id_)
        title = f"{labels[id_]} {vessel.name}"
        pictures.append(DrillingPicture(id_, title, _svg(found, vessel, holes, title, units)))
    return tuple(pictures)


def board_pictures(found: Evaluation, units: System) -> tuple[DrillingPicture, ...]:
    """A picture for each kind of raft board.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    units : System
        The reader's units

    Returns
    -------
    tuple of DrillingPicture
        Of rafts whose crop is told: a board with its holes, the first measured from both edges
    """
    labels = labels_of(found.plan)
    return tuple(
        DrillingPicture(
            row.vessel.id,
            f"{labels[row.vessel.id]} {row.vessel.name}: one of {row.count} boards",
            _board(row, units),
            is_board=True,
        )
        for row in raft_boards(found.plan)
        if row.sites
    )


def _board(row: RaftBoards, units: System) -> str:
    by = min(_WIDE / row.length, _TALL / row.width)
    wide, tall = row.length * by, row.width * by
    base = _TOP + tall

    def tape(length: float) -> str:
        return show_tape(length, units)

    first_x, first_y = row.places[0]
    drawn = [
        _words(_LEFT + 0.5 * wide, 14.0, "from above", "middle", bold=True),
        _words(_LEFT + 0.5 * wide, 27.0, f"{tape(row.length)} by {tape(row.width)}", "middle"),
        f'<rect x="{_LEFT}" y="{_TOP}" width="{wide:.1f}" height="{tall:.1f}" fill="{_WALL}" '
        f'stroke="{_INK}" stroke-width="1.6"/>',
        *(
            f'<circle cx="{_LEFT + x * by:.1f}" cy="{base - y * by:.1f}" '
            f'r="{max(0.5 * SITE * by, 1.5):.1f}" fill="#fff" stroke="{_INK}"/>'
            for x, y in row.places
        ),
        _words(_LEFT + first_x * by, base + 16.0, tape(first_x), "middle"),
        _words(_LEFT - 8.0, base - first_y * by + 4.0, tape(first_y), "end"),
        _words(
            _LEFT + 0.5 * wide,
            base + 34.0,
            f"{row.sites} holes, {tape(row.spacing)} from middle to middle",
            "middle",
            _QUIET,
        ),
    ]
    width, height = _LEFT + wide + 24.0, base + 44.0
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:.0f} {height:.0f}" '
        f'width="{width:.0f}" height="{height:.0f}" font-family="sans-serif" font-size="11" '
        f'role="img"><title>Holes of a raft board</title>'
        f'<rect width="100%" height="100%" fill="#fff"/>{"".join(drawn)}</svg>'
    )


def _svg(found: Evaluation, vessel: Vessel, holes: list[Hole], title: str, units: System) -> str:
    walls = walls_of(vessel.shape)
    sides = [s for s in (*SIDES, FLOOR) if any(h.side == s for h in holes)]
    tall = {s: _deep(vessel) if s == FLOOR else vessel.shape.height for s in sides}
    by = min(min(_WIDE / walls[s].width, _TALL / tall[s]) for s in sides)
    drawn, left, top, foot, width = [], 0.0, 0.0, 0.0, 0.0
    for side in sides:
        wide = _LEFT + max(walls[side].width * by, _COLUMN) + _RIGHT
        if left and left + wide > _ROW_WIDE:
            left, top = 0.0, foot + _GAP
        picture = _Side(found, vessel, walls[side], side, by, units, (left + _LEFT, top))
        drawn += picture.lines([h for h in holes if h.side == side])
        width = max(width, left + wide)
        left += wide + _GAP
        foot = max(foot, picture.foot)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {width:.0f} {foot:.0f}" '
        f'width="{width:.0f}" height="{foot:.0f}" font-family="sans-serif" font-size="11" '
        f'role="img"><title>Where {escape(title)} is drilled</title>'
        f'<rect width="100%" height="100%" fill="#fff"/>{"".join(drawn)}</svg>'
    )


def _deep(vessel: Vessel) -> float:
    """How deep a floor is in its picture: as wide as the side beside it [m]."""
    return walls_of(vessel.shape)["right"].width if _is_square(vessel) else _across(vessel)


def _across(vessel: Vessel) -> float:
    return walls_of(vessel.shape)[FLOOR].width


def _is_square(vessel: Vessel) -> bool:
    return walls_of(vessel.shape)["near"].has_corners


class _Side:
    """One side of a vessel, drawn from its upper left corner."""

    def __init__(
        self,
        found: Evaluation,
        vessel: Vessel,
        wall: Wall,
        side: str,
        by: float,
        units: System,
        at: tuple[float, float],
    ) -> None:
        self.found, self.vessel, self.wall, self.side = found, vessel, wall, side
        self.by, self.units, (self.left, self.top) = by, units, at
        self.tall = _deep(vessel) if side == FLOOR else float(vessel.shape.height)
        self.base = self.top + _TOP + self.tall * by
        self.foot = self.base + _FOOT

    def lines(self, holes: list[Hole]) -> list[str]:
        """All of it as SVG."""
        right = self.left + self.wall.width * self.by
        drawn = [
            _words(
                0.5 * (self.left + right),
                self.top + 14.0,
                _SIDE_WORDS[self.side],
                "middle",
                bold=True,
            ),
            _words(0.5 * (self.left + right), self.top + 27.0, self._size(), "middle"),
            f'<rect x="{self.left:.1f}" y="{self.top + _TOP:.1f}" width="{right - self.left:.1f}" '
            f'height="{self.base - self.top - _TOP:.1f}" fill="{_WALL}" stroke="{_INK}" '
            f'stroke-width="1.6"{_round(self, right)}/>',
        ]
        if self.side != FLOOR:
            drawn += self._waters(right)
        for hole in holes:
            x, y = self._place(hole)
            radius = max(0.5 * hole.wide * self.by, 2.0)
            drawn.append(
                f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{radius:.1f}" fill="#fff" '
                f'stroke="{_INK}" stroke-width="1.3"/>'
                f'<path d="M{x - 5:.1f} {y:.1f}h10M{x:.1f} {y - 5:.1f}v10" stroke="{_INK}" '
                'stroke-width=".8"/>'
            )
        drawn += self._under(holes)
        if self.side != FLOOR:
            drawn += self._beside(holes)
        return drawn

    def _size(self) -> str:
        tall, wide = (show_tape(size, self.units) for size in (self.tall, self.wall.width))
        if self.side == FLOOR:
            return f"{wide} by {tall}"
        round_ = "" if self.wall.has_corners else " round the wall"
        return f"{wide}{round_}, {tall} high"

    def _place(self, hole: Hole) -> tuple[float, float]:
        over = 0.5 * self.tall if self.side == FLOOR else hole.height
        return self.left + hole.across * self.by, self.base - over * self.by

    def _waters(self, right: float) -> list[str]:
        levels, floor = self.found.vessels[self.vessel.id].levels, self.vessel.floor_height
        drawn = []
        for name, level in (("high", levels.high - floor), ("low", levels.low - floor)):
            if not 0.0 < level < self.tall or (name == "low" and levels.high - levels.low < 0.02):
                continue
            y = self.base - level * self.by
            drawn.append(
                f'<path d="M{self.left:.1f} {y:.1f}H{right:.1f}" stroke="{_WATER}" '
                'stroke-width="1" stroke-dasharray="6 3"/>'
            )
            words = f"{name} {show_tape(level, self.units)}"
            drawn.append(_words(right + 4.0, y + 4.0, words, "start", _WATER))
        return drawn

    def _under(self, holes: Iterable[Hole]) -> list[str]:
        """From the left corner, and what is drilled; one under the other where they are close."""
        drawn, rows = [], list[float]()
        for hole in sorted(holes, key=lambda h: h.across):
            x, y = self._place(hole)
            row = next((n for n, end in enumerate(rows) if x - 0.5 * _COLUMN > end), len(rows))
            if row == len(rows):
                rows.append(0.0)
            rows[row] = x + 0.5 * _COLUMN
            foot = self.base + 16.0 + 2.0 * _ROW * row
            drawn.append(
                f'<path d="M{x:.1f} {y + 6:.1f}V{foot - 10:.1f}" stroke="{_QUIET}" '
                'stroke-width=".6" stroke-dasharray="2 2"/>'
            )
            size = "by its fitting" if hole.diameter is None else f"⌀ {_tape(hole.diameter, self)}"
            drawn.append(_words(x, foot, _tape(hole.across, self), "middle"))
            drawn.append(_words(x, foot + _ROW, size, "middle", _QUIET))
            self.foot = max(self.foot, foot + _ROW + 8.0)
        return drawn

    def _beside(self, holes: Iterable[Hole]) -> list[str]:
        """Heights over the floor, to the left."""
        drawn, last = [], self.base + 20.0
        told = set[str]()
        for hole in sorted(holes, key=lambda h: h.height):
            words = _tape(hole.height, self)
            if words in told:
                continue
            told.add(words)
            x, y = self._place(hole)
            at = min(y + 4.0, last - _ROW)
            last = at
            drawn.append(
                f'<path d="M{self.left - 8:.1f} {at - 4:.1f}L{self.left:.1f} {y:.1f}'
                f'H{x - 6:.1f}" fill="none" stroke="{_QUIET}" stroke-width=".6" '
                'stroke-dasharray="2 2"/>'
            )
            drawn.append(_words(self.left - 10.0, at, words, "end"))
        return drawn


def _round(side: _Side, right: float) -> str:
    """The floor of a round vessel is drawn round."""
    if side.side != FLOOR or _is_square(side.vessel):
        return ""
    return f' rx="{0.5 * (right - side.left):.1f}"'


def _tape(length: float, side: _Side) -> str:
    return show_tape(length, side.units)


def _words(
    x: float, y: float, text: str, anchor: str, ink: str = _INK, *, bold: bool = False
) -> str:
    weight = ' font-weight="bold"' if bold else ""
    return (
        f'<text x="{x:.1f}" y="{y:.1f}" text-anchor="{anchor}" fill="{ink}"{weight}>'
        f"{escape(text)}</text>"
    )
