"""What an instrument can measure, where, and in which units it may send."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from bathys.evaluation import Evaluation
from bathys.units.table import QUANTITIES, TYPED, Unit

__all__ = ["CHANNEL_KINDS", "Channel", "ChannelKind", "unit_labels", "unit_named", "usual_channels"]

_STILL = 1e-7  # [m³/s]
_MOST_BEDS = 4  # of which a usual set of instruments has a level


@dataclass(frozen=True, slots=True)
class ChannelKind:
    """Something that an instrument can measure.

    Attributes
    ----------
    key, title : str
        Its name in the data, and for people
    quantity : str
        What it is, as a key of the units
    usual : str
        Label of the unit that boards send it in unless told otherwise
    least, most : float
        What cannot be beyond, in SI
    spread : float
        Standard spread of one reading, [as it] (assumed)
    parts : callable
        From the numbers of a plan to the ids of the parts it can be measured at
    """

    key: str
    title: str
    quantity: str
    usual: str
    least: float
    most: float
    spread: float
    parts: Callable[[Evaluation], Iterator[str]]


@dataclass(frozen=True, slots=True)
class Channel:
    """One thing that one board measures.

    Attributes
    ----------
    key : str
        Its name
    kind : str
        A key of :data:`CHANNEL_KINDS`
    part : str
        Id of the part
    mark : float
        Of a float contact: how high over the vessel's floor it closes, [m]
    """

    key: str
    kind: str
    part: str
    mark: float = 0.0


def _vessels(found: Evaluation) -> Iterator[str]:
    yield from (v.id for v in found.plan.vessels)


def _tanks(found: Evaluation) -> Iterator[str]:
    yield from (v.id for v in found.plan.vessels if v.use.keeps_fish)


def _pumps(found: Evaluation) -> Iterator[str]:
    yield from (p.id for p in found.plan.pumps)


def _outlets(found: Evaluation) -> Iterator[str]:
    for duty in found.duties.values():
        yield from (d.run for d in duty.deliveries if d.flow > _STILL)


CHANNEL_KINDS: dict[str, ChannelKind] = {
    kind.key: kind
    for kind in (
        ChannelKind("level", "Water level", "length", "mm", -0.5, 10.0, 0.003, _vessels),
        ChannelKind("below", "Water under the rim", "length", "mm", -0.5, 10.0, 0.005, _vessels),
        ChannelKind("contact", "Float contact", "ratio", "", 0.0, 1.0, 0.1, _vessels),
        ChannelKind("flow", "Flow", "flow", "L/h", 0.0, 0.1, 5e-6, _outlets),
        ChannelKind("watts", "Power", "power", "W", 0.0, 1e5, 0.5, _pumps),
        ChannelKind("temperature", "Temperature", "temperature", "°C", -5.0, 50.0, 0.2, _tanks),
        ChannelKind("oxygen", "Oxygen", "dissolved", "mg/L", 0.0, 30.0, 0.3, _tanks),
        ChannelKind("ph", "pH", "ratio", "", 2.0, 12.0, 0.1, _tanks),
    )
}
"""By their names, in the order in which they are offered."""


def _units(kind: str) -> dict[str, Unit]:
    quantity = CHANNEL_KINDS[kind].quantity
    known = {unit.label: unit for unit in TYPED.get(quantity, {}).values()}
    return known or {u.label: u for u in QUANTITIES[quantity].shown.values()}


def unit_labels(kind: str) -> tuple[str, ...]:
    """Units in which a kind may be sent.

    Parameters
    ----------
    kind : str
        A key of :data:`CHANNEL_KINDS`

    Returns
    -------
    tuple of str
        Their labels, the usual one first
    """
    labels = list(_units(kind))
    return tuple(sorted(labels, key=lambda label: label != CHANNEL_KINDS[kind].usual))


def unit_named(kind: str, label: str) -> Unit:
    """A unit by its label.

    Parameters
    ----------
    kind : str
        A key of :data:`CHANNEL_KINDS`
    label : str
        One of :func:`unit_labels`

    Returns
    -------
    Unit
        The unit

    Raises
    ------
    KeyError
        If the kind is not sent in it
    """
    return _units(kind)[label]


def usual_channels(found: Evaluation) -> tuple[Channel, ...]:
    """What a usual set of instruments measures on a plan: the levels of the vessels that pumps
    stand in, of fish tanks and of the first siphon beds, the watts and the greatest flow of each
    pump, and temperature, oxygen and pH of the first fish tank.

    Parameters
    ----------
    found : Evaluation
        The numbers of the plan

    Returns
    -------
    tuple of Channel
        Each named by its kind and part
    """
    plan, wanted = found.plan, list[tuple[str, str]]()
    beds = [bed.bed.id for bed in found.beds][:_MOST_BEDS]
    tanks = list(_tanks(found))
    levels = [*(p.stands_in for p in plan.pumps), *tanks, *beds]
    wanted += [("level", vessel) for vessel in dict.fromkeys(levels)]
    wanted += [("watts", pump) for pump in _pumps(found)]
    for duty in found.duties.values():
        strong = max(duty.deliveries, key=lambda d: d.flow, default=None)
        if strong is not None and strong.flow > _STILL:
            wanted.append(("flow", strong.run))
    wanted += [(kind, tank) for tank in tanks[:1] for kind in ("temperature", "oxygen", "ph")]
    return tuple(Channel(f"{kind}-{part}", kind, part) for kind, part in wanted)
