"""The least there is: a sump, a pump, one vessel over it, and a drain back."""

from typing import Any

__all__ = ["one_vessel"]


def one_vessel() -> dict[str, Any]:
    """A sump whose pump feeds one settler, full to its outlet, that runs back by a side outlet."""
    return {
        "format": "bathys-plan",
        "version": 1,
        "name": "settler",
        "vessels": [
            {
                "id": "S1",
                "name": "Sump",
                "job": "sump",
                "floor_height": -2.0,
                "water_depth": 0.5,
                "shape": {"kind": "box", "length": 3.0, "width": 3.0, "height": 0.9},
                "ports": [{"name": "back", "height": 0.85}],
            },
            {
                "id": "C1",
                "name": "Settler",
                "job": "settler",
                "floor_height": 0.0,
                "shape": {"kind": "cylinder", "diameter": 0.58, "height": 0.9},
                "ports": [{"name": "inlet", "height": 0.88}, {"name": "outlet", "height": 0.7}],
            },
        ],
        "pumps": [
            {
                "id": "P1",
                "name": "Pump",
                "stands_in": "S1",
                "inlet_height": 0.05,
                "curve": {"kind": "label", "max_flow": 0.001, "max_head": 6.0},
                "power": 60.0,
            }
        ],
        "runs": [
            {
                "id": "R1",
                "name": "Riser",
                "from": "P1.out",
                "to": "C1.inlet",
                "level_length": 1.0,
                "bore": {"kind": "inside", "diameter": 0.03},
            },
            {
                "id": "R2",
                "name": "Outlet",
                "from": "C1.outlet",
                "to": "S1.back",
                "level_length": 0.5,
                "bore": {"kind": "inside", "diameter": 0.0525},
            },
        ],
    }
