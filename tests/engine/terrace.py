"""A terrace of any number of beds on one manifold, for timing: three runs a bed."""

from typing import Any

from bathys.plan import Plan, plan_from_data

__all__ = ["terrace"]

_STANDARD = "ASTM D1785 Schedule 40"
_WIDE = {"kind": "inside", "diameter": 0.16}


def _bore(size: str) -> dict[str, str]:
    return {"kind": "standard", "standard": _STANDARD, "nominal": size}


def terrace(beds: int) -> Plan:
    """Three runs a bed: a piece of the manifold, its own branch, and its drain to the sump."""
    plan: dict[str, Any] = {
        "format": "bathys-plan",
        "version": 1,
        "name": f"terrace of {beds}",
        "vessels": [
            {
                "id": "S0",
                "name": "sump",
                "job": "sump",
                "floor_height": -0.6,
                "water_depth": 0.5,
                "ports": [],
                "shape": {"kind": "box", "length": 4.0, "width": 2.0, "height": 0.8},
            }
        ],
        "pumps": [
            {
                "id": "P1",
                "name": "pump",
                "stands_in": "S0",
                "inlet_height": 0.05,
                "power": 40.0 * beds,
                "curve": {"kind": "label", "max_flow": 4e-4 * beds, "max_head": 4.0},
            }
        ],
        "runs": [],
        "outlets": [],
        "junctions": [],
    }
    place = "P1.out"
    for k in range(beds):
        plan["vessels"].append(
            {
                "id": f"B{k}",
                "name": f"bed {k}",
                "job": "raft",
                "floor_height": 0.5 + 0.01 * (k % 7),
                "shape": {"kind": "box", "length": 1.2, "width": 1.0, "height": 0.35},
                "ports": [{"name": "inlet", "height": 0.4}],
            }
        )
        plan["vessels"][0]["ports"].append({"name": f"in{k}", "height": 0.75})
        plan["junctions"].append({"id": f"J{k}", "name": f"tee {k}", "height": 1.1})
        plan["outlets"].append(
            {
                "id": f"O{k}",
                "name": "standpipe",
                "kind": "standpipe",
                "stands_in": f"B{k}",
                "bore": _bore("1 1/2 in"),
                "rim_height": 0.28,
            }
        )
        plan["runs"] += [
            {
                "id": f"M{k}",
                "name": "manifold",
                "from": place,
                "to": f"J{k}",
                "bore": _WIDE,
                "level_length": 1.3,
            },
            {
                "id": f"R{k}",
                "name": "branch",
                "from": f"J{k}",
                "to": f"B{k}.inlet",
                "bore": _bore("3/4 in"),
                "level_length": 0.5,
                "fittings": [{"kind": "elbow_90", "count": 2}],
                "valve": {"kind": "ball", "angle": 20.0 + k % 30},
            },
            {
                "id": f"D{k}",
                "name": "drain",
                "from": f"O{k}.out",
                "to": f"S0.in{k}",
                "bore": _bore("1 1/2 in"),
                "level_length": 1.5,
            },
        ]
        place = f"J{k}"
    return plan_from_data(plan)
