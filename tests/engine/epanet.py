"""EPANET, through ``wntr``: the outside reference for flows and duties."""

import math
from pathlib import Path

import wntr

from bathys.network import Network

__all__ = ["epanet_flow", "epanet_flows", "power_law_points"]

_REFERENCE_VISCOSITY = 1.022e-6  # [m²/s], what EPANET's relative viscosity of 1 means

Points = list[tuple[float, float]]


def power_law_points(max_flow: float, max_head: float) -> Points:
    """Three points of a label's parabola, through which EPANET fits the same parabola."""
    return [(s * max_flow, max_head * (1.0 - s**2)) for s in (0.0, 0.5, 0.9)]


def _model(viscosity: float) -> wntr.network.WaterNetworkModel:
    model = wntr.network.WaterNetworkModel()
    model.options.hydraulic.headloss = "D-W"
    model.options.hydraulic.viscosity = viscosity / _REFERENCE_VISCOSITY
    model.options.hydraulic.accuracy = 1e-8
    model.options.hydraulic.trials = 400
    model.options.hydraulic.inpfile_units = "LPS"
    model.options.time.duration = 0
    return model


def _run(model: wntr.network.WaterNetworkModel, folder: Path) -> dict[str, float]:
    results = wntr.sim.EpanetSimulator(model).run_sim(file_prefix=str(folder / "run"))
    return {name: float(results.link["flowrate"][name].iloc[0]) for name in model.link_name_list}


def epanet_flow(
    curve: Points,
    lift: float,
    length: float,
    bore: float,
    roughness: float,
    loss: float,
    viscosity: float,
    folder: Path,
) -> float:
    """Flow [m³/s] of a pump curve [m³/s, m] over a lift [m] through one pipe [m]."""
    model = _model(viscosity)
    model.add_curve("pump", "HEAD", curve)
    model.add_reservoir("tank", base_head=0.0)
    model.add_junction("foot", base_demand=0.0, elevation=0.0)
    model.add_reservoir("outlet", base_head=lift)
    model.add_pump("P", "tank", "foot", "HEAD", "pump")
    model.add_pipe("R", "foot", "outlet", length, bore, roughness, loss)
    return _run(model, folder)["R"]


def epanet_flows(network: Network, curves: dict[str, Points], folder: Path) -> dict[str, float]:
    """Flows [m³/s] of a network whose lines have one bore each, by link.

    One-way links become pipes with a check valve.
    """
    lines = [k for k in network.links if k.line is not None]
    model = _model(lines[0].line.viscosity)  # type: ignore[union-attr]
    for node, head in network.known_heads.items():
        model.add_reservoir(node, base_head=head)
    for node in {n for k in network.links for n in (k.start, k.end)} - set(network.known_heads):
        model.add_junction(node, base_demand=0.0, elevation=0.0)
    for link in network.links:
        if link.line is None:
            model.add_curve(f"curve {link.id}".replace(" ", "_"), "HEAD", curves[link.id])
            name = f"curve {link.id}".replace(" ", "_")
            model.add_pump(link.id, link.start, link.end, "HEAD", name)
            continue
        pipe = next(p for p in link.line.pieces if p.length > 0.0)
        losses = sum(p.loss for p in link.line.pieces if math.isfinite(p.loss))
        model.add_pipe(
            link.id,
            link.start,
            link.end,
            pipe.length,
            pipe.area_bore,
            pipe.roughness,
            losses,
            check_valve=link.one_way,
        )
    return _run(model, folder)
