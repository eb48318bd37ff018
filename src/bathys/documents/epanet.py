"""The pumped runs of a plan as an EPANET input file, at the levels of the balance."""

import math

from bathys.evaluation import Evaluation
from bathys.network.layout import pressure_network
from bathys.physics import GRAVITY

__all__ = ["NothingPumped", "pumped_inp"]

_LITRES = 1000.0
_REFERENCE_VISCOSITY = 1.022e-6  # [m²/s], what a relative viscosity of 1 means there
_POINTS = 24  # of a pump's curve


class NothingPumped(ValueError):
    """A plan without pumps, of which there is nothing to write."""


def pumped_inp(found: Evaluation) -> str:
    """Write them.

    Parameters
    ----------
    found : Evaluation
        The numbers of a plan

    Returns
    -------
    str
        An input file of EPANET 2.2: Darcy–Weisbach, litres a second. Vessels and outlets are
        reservoirs at the heads found; all that is no straight pipe is a minor loss of its run; a
        run that nothing can flow back in has a check valve

    Raises
    ------
    NothingPumped
        If no pump runs
    """
    now = found.balance
    network = pressure_network(now.layout, now.levels)
    if not any(link.pump is not None for link in network.links):
        raise NothingPumped("This plan has no pump.")
    names = _Names()
    viscosity = found.water.kinematic_viscosity / _REFERENCE_VISCOSITY
    nodes = {n for k in network.links for n in (k.start, k.end)} - set(network.known_heads)
    lines = ["[TITLE]", found.plan.name.replace("\n", " "), "", "[JUNCTIONS]"]
    lines += [f"{names.of(n)} 0 {network.demands.get(n, 0.0) * _LITRES:.9g}" for n in sorted(nodes)]
    lines += ["", "[RESERVOIRS]"]
    lines += [f"{names.of(n)} {head:.9g}" for n, head in network.known_heads.items()]
    pipes, pumps, curves = [], [], []
    for link in network.links:
        id_, ends = names.of(link.id), f"{names.of(link.start)} {names.of(link.end)}"
        if link.pump is not None:
            pumps.append(f"{id_} {ends} HEAD c{id_}")
            most = _most_flow(link.pump)
            for k in range(_POINTS):
                flow = most * k / (_POINTS - 1)
                head = link.pump.head(flow)[0]
                curves.append(f"c{id_} {flow * _LITRES:.9g} {head:.9g}")
            continue
        line = link.line
        if line is None or not line.pipes:
            continue
        pipe = line.pipes[0]
        loss = line.minor * 2.0 * GRAVITY * pipe.area**2
        status = "CV" if link.one_way else "CLOSED" if line.shut else "OPEN"
        pipes.append(
            f"{id_} {ends} {max(pipe.length, 1e-3):.9g} {pipe.area_bore * 1000.0:.9g} "
            f"{pipe.roughness * 1000.0:.9g} {loss if math.isfinite(loss) else 0.0:.9g} {status}"
        )
    lines += ["", "[PIPES]", *pipes, "", "[PUMPS]", *pumps, "", "[CURVES]", *curves]
    lines += [
        "",
        "[OPTIONS]",
        "UNITS LPS",
        "HEADLOSS D-W",
        f"VISCOSITY {viscosity:.9g}",
        "ACCURACY 1e-8",
        "TRIALS 400",
        "",
        "[TIMES]",
        "DURATION 0",
        "",
        "[END]",
        "",
    ]
    return "\n".join(lines)


def _most_flow(pump: object) -> float:
    """Flow at which a pump lifts nothing any more [m³/s]."""
    most = getattr(pump, "max_flow", None)
    if most is not None:
        return float(most)
    low, high = 0.0, 1.0
    for _ in range(80):
        middle = 0.5 * (low + high)
        if pump.head(middle)[0] > 0.0:  # type: ignore[attr-defined]
            low = middle
        else:
            high = middle
    return low


class _Names:
    """Names that EPANET takes: no spaces, no dots, none twice."""

    def __init__(self) -> None:
        self._known: dict[str, str] = {}

    def of(self, name: str) -> str:
        """A name as it is written."""
        if name not in self._known:
            plain = "".join(c if c.isascii() and c.isalnum() else "_" for c in name)[:28]
            while plain in self._known.values():
                plain = f"{plain[:26]}_{len(self._known)}"
            self._known[name] = plain
        return self._known[name]
