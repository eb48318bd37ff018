"""One riser in EPANET, through ``wntr``: the outside reference for a pump's duty."""

from pathlib import Path

import wntr

__all__ = ["epanet_flow"]

_REFERENCE_VISCOSITY = 1.022e-6  # [m²/s], what EPANET's relative viscosity of 1 means


def epanet_flow(
    curve: list[tuple[float, float]], lift: float, length: float, bore: float, roughness: float,
    loss: float, viscosity: float, folder: Path,
) -> float:  # fmt: skip
    """Flow [m³/s] of a pump curve [m³/s, m] over a lift [m] through one pipe [m]."""
    model = wntr.network.WaterNetworkModel()
    model.options.hydraulic.headloss = "D-W"
    model.options.hydraulic.viscosity = viscosity / _REFERENCE_VISCOSITY
    model.options.hydraulic.accuracy = 1e-8
    model.options.hydraulic.inpfile_units = "LPS"
    model.options.time.duration = 0
    model.add_curve("pump", "HEAD", curve)
    model.add_reservoir("tank", base_head=0.0)
    model.add_junction("foot", base_demand=0.0, elevation=0.0)
    model.add_reservoir("outlet", base_head=lift)
    model.add_pump("P", "tank", "foot", "HEAD", "pump")
    model.add_pipe("R", "foot", "outlet", length, bore, roughness, loss)
    results = wntr.sim.EpanetSimulator(model).run_sim(file_prefix=str(folder / "run"))
    return float(results.link["flowrate"]["R"].iloc[0])
