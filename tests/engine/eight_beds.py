"""Eight siphon beds on one pump beside a tank with its filters, for timing the simulation."""

from typing import Any

from bathys.plan import Plan, plan_from_data

__all__ = ["split_flow_beds"]

_STANDARD = "ASTM D1785 Schedule 40"


def _bore(size: str) -> dict[str, str]:
    return {"kind": "standard", "standard": _STANDARD, "nominal": size}


def _box(length: float, width: float, height: float) -> dict[str, Any]:
    return {"kind": "box", "length": length, "width": width, "height": height}


def split_flow_beds(beds: int = 8, chamber: float = 0.053) -> Plan:
    """A split-flow layout with a small fast chamber between tank and sump.

    Parameters
    ----------
    beds : int
        How many siphon beds, no two quite alike
    chamber : float
        Side of the square chamber that the tank's whole flow passes, [m]
    """
    plan: dict[str, Any] = {
        "format": "bathys-plan",
        "version": 1,
        "name": f"{beds} beds",
        "vessels": [
            {
                "id": "S0",
                "name": "sump",
                "job": "sump",
                "floor_height": -0.8,
                "water_depth": 0.7,
                "shape": _box(3.0, 1.2 + 0.2 * beds, 0.8),
                "ports": [{"name": "in", "height": 0.78}],
            },
            {
                "id": "T1",
                "name": "tank",
                "job": "fish_tank",
                "floor_height": 0.6,
                "shape": _box(2.0, 1.5, 0.9),
                "ports": [{"name": "inlet", "height": 0.88}, {"name": "side", "height": 0.75}],
            },
            {
                "id": "C1",
                "name": "chamber",
                "job": "biofilter",
                "floor_height": 0.5,
                "shape": _box(chamber, chamber, 0.8),
                "ports": [{"name": "inlet", "height": 0.7}, {"name": "side", "height": 0.4}],
            },
        ],
        "pumps": [
            {
                "id": "P1",
                "name": "pump",
                "stands_in": "S0",
                "inlet_height": 0.03,
                "power": 60.0,
                "curve": {"kind": "label", "max_head": 4.5, "max_flow": 6e-4 + 2.4e-4 * beds},
            }
        ],
        "runs": [
            {
                "id": "RT",
                "name": "tank",
                "from": "J0",
                "to": "T1.inlet",
                "bore": _bore("1 in"),
                "level_length": 2.0,
                "valve": {"kind": "ball", "angle": 30.0},
            },
            {
                "id": "D1",
                "name": "tank drain",
                "from": "T1.side",
                "to": "C1.inlet",
                "bore": _bore("2 in"),
                "level_length": 0.5,
            },
            {
                "id": "D2",
                "name": "chamber drain",
                "from": "C1.side",
                "to": "S0.in",
                "bore": _bore("2 in"),
                "level_length": 1.0,
            },
            {
                "id": "M0",
                "name": "manifold",
                "from": "P1.out",
                "to": "J0",
                "level_length": 1.0,
                "bore": {"kind": "inside", "diameter": 0.06},
            },
        ],
        "siphons": [],
        "junctions": [{"id": "J0", "name": "tee", "height": 1.0}],
    }
    place = "J0"
    for k in range(1, beds + 1):
        plan["vessels"].append(
            {
                "id": f"B{k}",
                "name": f"bed {k}",
                "job": "grow_bed",
                "floor_height": 0.3,
                "shape": _box(1.1 + 0.02 * k, 1.1, 0.35),
                "ports": [{"name": "inlet", "height": 0.4}],
                "media": {"kind": "gravel", "top": 0.3, "void_fraction": 0.4},
            }
        )
        plan["vessels"][0]["ports"].append({"name": f"bed{k}", "height": 0.76})
        plan["junctions"].append({"id": f"J{k}", "name": f"tee {k}", "height": 1.0})
        plan["siphons"].append(
            {
                "id": f"X{k}",
                "name": f"siphon {k}",
                "stands_in": f"B{k}",
                "standpipe_bore": _bore("1 in"),
                "rim_height": 0.26,
                "bell_bore": _bore("2 1/2 in"),
                "slot_height": 0.03,
                "slot_area": 0.0016,
                "air_tubes": [{"bore": 0.012, "mouth_height": 0.04}],
            }
        )
        plan["runs"] += [
            {
                "id": f"M{k}",
                "name": "manifold",
                "from": place,
                "to": f"J{k}",
                "level_length": 0.8,
                "bore": {"kind": "inside", "diameter": 0.06},
            },
            {
                "id": f"R{k}",
                "name": "branch",
                "from": f"J{k}",
                "to": f"B{k}.inlet",
                "bore": _bore("3/4 in"),
                "level_length": 0.5,
                "valve": {"kind": "ball", "angle": 46.0 + 0.2 * (k % 3)},
            },
            {
                "id": f"D{k}0",
                "name": "tail",
                "from": f"X{k}.tail",
                "to": f"S0.bed{k}",
                "bore": _bore("1 in"),
                "level_length": 0.2,
                "fittings": [{"kind": "elbow_90", "count": 2}],
            },
        ]
        place = f"J{k}"
    return plan_from_data(plan)
