"""What is to be bought for a plan, by section of the shop, and what it costs."""

import json
import math
from collections.abc import Iterator
from dataclasses import dataclass

from bathys.build.cutting import KERF, cut_list
from bathys.build.holes import holes_of
from bathys.build.making import tote_cuts
from bathys.build.pipes import fitting_counts, pipe_pieces
from bathys.evaluation import Evaluation
from bathys.kinds import model_named
from bathys.parts.containers import Container, containers
from bathys.plan.base import Headed
from bathys.plan.model import Plan
from bathys.plan.pipes import Run
from bathys.plan.shell import Shell
from bathys.plan.vessel import Vessel
from bathys.quality.survival import bridge_of
from bathys.shelf import (
    SECTIONS,
    PriceList,
    ShelfItem,
    container_item,
    fitting_item,
    medium_item,
    pipe_item,
    plain_item,
)

__all__ = ["VESSEL", "ShoppingLine", "ShoppingList", "made_of", "shopping_list"]

_MEDIA_SPARE = 1.05  # bought over what fills the bed (common practice) [-]
_CLIP = 1.0  # pipe between two clips (common practice) [m]
_JOINTS_A_LITRE = (
    (0.022, 320.0), (0.028, 210.0), (0.035, 130.0), (0.050, 95.0), (0.064, 63.0), (0.092, 42.0),
    (0.116, 32.0), (math.inf, 11.0),
)  # fmt: skip
"""Outside width of pipe [m], and joints that a litre of solvent cement does up to it (common
practice)."""
_NOT_CEMENTED = ("Flexible hose", "Low-density irrigation line")
_JOINTS_A_FITTING = 2.0  # sockets of one, on average of elbows and tees
_SIZES = ("length", "width", "diameter", "height")
VESSEL = "vessel"
"""What the key of a vessel begins with that is none of the containers that ship."""
_ALIKE = 5e-4  # sizes that are as good as the same [m]


@dataclass(frozen=True, slots=True)
class ShoppingLine:
    """One thing on the list.

    Attributes
    ----------
    item : ShelfItem
        The thing
    needed : float
        How much the plan takes: pieces, [m] or [m³]
    owned : float
        How much of it is at hand
    buys : float
        How much is bought; of pipe, whole stock lengths
    stocks : int or None
        Stock lengths that are bought; of pipe only
    cost : float or None
        For all that is bought; none if it has no price
    parts : tuple of str
        Ids of what it is for; none where it is for the whole plan
    """

    item: ShelfItem
    needed: float
    owned: float
    buys: float
    stocks: int | None
    cost: float | None
    parts: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class ShoppingList:
    """All that is bought for a plan.

    Attributes
    ----------
    lines : tuple of ShoppingLine
        By section, in the order of ``shelf.SECTIONS``
    currency : str
        What prices are in
    """

    lines: tuple[ShoppingLine, ...]
    currency: str

    @property
    def total(self) -> float:
        """Of what has a price [-]."""
        return sum(line.cost or 0.0 for line in self.lines)

    @property
    def without_price(self) -> tuple[ShoppingLine, ...]:
        """What is bought and has no price."""
        return tuple(line for line in self.lines if line.cost is None)

    def total_of(self, section: str) -> float:
        """Of one section.

        Parameters
        ----------
        section : str
            One of ``shelf.SECTIONS``

        Returns
        -------
        float
            Of what has a price, [-]
        """
        return sum(line.cost or 0.0 for line in self.lines if line.item.section == section)


def made_of(shell: Shell) -> Container | None:
    """The container whose sizes a shell has.

    Parameters
    ----------
    shell : Shell
        The shell

    Returns
    -------
    Container or None
        None if no container that ships has them
    """
    return next((c for c in containers() if _is_alike(shell, c)), None)


def _is_alike(shell: Shell, made: Container) -> bool:
    model = model_named("shells", made.shape["kind"])
    if type(shell) is not model:
        return False
    other = model.model_validate_json(json.dumps(made.shape))
    ours, theirs = shell.model_dump(), other.model_dump()
    return all(
        abs(value - theirs[field]) < _ALIKE if isinstance(value, float) else value == theirs[field]
        for field, value in ours.items()
    )


def shopping_list(found: Evaluation, stock: float, prices: PriceList | None = None) -> ShoppingList:
    """What is to be bought for a plan.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan
    stock : float
        Length in which pipe is sold, [m]
    prices : PriceList, optional
        The builder's prices and what is at hand

    Returns
    -------
    ShoppingList
        The list. What fish eat, seeds, food for bacteria, stands and tools are not on it

    Raises
    ------
    BadStock
        If nothing can be cut from such a length
    """
    known = prices if prices is not None else PriceList.empty()
    amounts: dict[str, tuple[ShelfItem, float, list[str]]] = {}
    for item, amount, part in _needs(found):
        before = amounts.setdefault(item.key, (item, 0.0, []))
        parts = before[2] if part is None or part in before[2] else [*before[2], part]
        amounts[item.key] = (item, before[1] + amount, parts)
    lines = [_line(item, amount, parts, known, None) for item, amount, parts in amounts.values()]
    for need in pipe_pieces(found):
        parts = list(dict.fromkeys(p.name.rpartition(" ")[0] for p in need.pieces))
        if need.is_by_bore:
            name = f"Hose or pipe, {need.bore * 1000.0:.0f} mm inside"
            item = plain_item("Pipe and hose", "hose", name, "length")
            lines.append(_line(item, need.length, parts, known, None))
        else:
            item = pipe_item(need.standard, need.size)
            at_hand = known.offcuts.get(item.key, ())
            count = len(cut_list(need.pieces, stock, KERF, at_hand).stocks)
            lines.append(_line(item, count * stock, parts, known, stock))
    order = {section: n for n, section in enumerate(SECTIONS)}
    lines.sort(key=lambda line: (order[line.item.section], line.item.name))
    return ShoppingList(tuple(lines), known.currency)


def _line(
    item: ShelfItem, needed: float, parts: list[str], known: PriceList, stock: float | None
) -> ShoppingLine:
    owned, price = known.owned(item.key), known.of(item.key)
    buys = max(needed - owned, 0.0)
    stocks = None
    if stock is not None:
        stocks = math.ceil(buys / stock - 1e-9)
        buys = stocks * stock
    elif item.measure == "each":
        buys = float(math.ceil(buys - 1e-9))
    cost = 0.0 if buys <= 0.0 else None if price is None else price * buys
    return ShoppingLine(item, needed, owned, buys, stocks, cost, tuple(parts))


def _needs(found: Evaluation) -> Iterator[tuple[ShelfItem, float, str | None]]:
    """Each thing but pipe, how much of it, and what for."""
    plan = found.plan
    of_totes = set()
    for cut in tote_cuts(plan):
        for number, vessel in enumerate(cut.vessels):
            of_totes.add(vessel.id)
            yield container_item(cut.tote), float(number == 0), vessel.id
    for vessel in plan.vessels:
        yield from _of_vessel(vessel, vessel.id in of_totes)
    for part in _machines(plan):
        yield plain_item("Pumps and air", "machine", part.name), float(_count(part)), part.id
    bridge = bridge_of(found)
    if bridge is not None:
        name = f"Battery, 12 V, {bridge.lead:.0f} Ah lead-acid or {bridge.lithium:.0f} Ah lithium"
        yield plain_item("Pumps and air", "battery", name), 1.0, None
    joints = 0.0
    for row in fitting_counts(found):
        size = row.size or f"{row.bore * 1000.0:.0f} mm inside"
        yield fitting_item(row.kind, row.name, size), float(row.count), None
    for hole in holes_of(found):
        size = _named(hole.run)
        name = f"{hole.by.name.capitalize()} for {size} pipe"
        item = plain_item("Wall fittings", "wall", name)
        yield item, 1.0, hole.vessel.id
    clips = 0
    for run in plan.runs:
        clips += math.floor(found.runs[run.id].length / _CLIP)
        if run.bore.size is not None and run.bore.size.standard not in _NOT_CEMENTED:
            sockets = _JOINTS_A_FITTING * (sum(f.count for f in run.fittings) + 1)
            joints += sockets / next(n for d, n in _JOINTS_A_LITRE if run.bore.outside <= d)
    if clips:
        yield plain_item("Sundries", "sundry", "Pipe clip"), float(clips), None
    if joints:
        yield plain_item("Sundries", "sundry", "Solvent cement", "volume"), joints / 1000.0, None


def _of_vessel(vessel: Vessel, is_of_tote: bool) -> Iterator[tuple[ShelfItem, float, str | None]]:
    """The vessel itself, unless it is cut from a tote, and what is put into it."""
    made = made_of(vessel.shape)
    if is_of_tote:
        pass
    elif made is not None:
        yield container_item(made), 1.0, vessel.id
    else:
        shape = vessel.shape
        sizes = (getattr(shape, field, None) for field in _SIZES)
        told = " × ".join(f"{size * 1000.0:.0f}" for size in sizes if size is not None)
        name = f"{shape.CHOICE.capitalize()}, {told} mm"
        yield plain_item("Vessels", VESSEL, name), 1.0, vessel.id
    if vessel.media is not None:
        shape, media = vessel.shape, vessel.media
        heap = shape.holds(media.top) - shape.holds(media.bottom)
        yield medium_item(media.kind), _MEDIA_SPARE * heap, vessel.id
    if vessel.carriers is not None:
        yield medium_item(vessel.carriers.kind), vessel.carriers.volume, vessel.id


def _machines(plan: Plan) -> Iterator[Headed]:
    yield from plan.pumps
    yield from plan.air_pumps
    yield from plan.air
    yield from plan.appliances


def _count(part: Headed) -> int:
    return int(getattr(part, "count", 1) or 1)


def _named(run: Run) -> str:
    size = run.bore.size
    return size.nominal if size is not None else f"{run.bore.inside * 1000.0:.0f} mm"
