"""Valve settings for wanted flows, in the ways in which a fixed pump can meet them.

A fixed pump, all wanted flows and an open valve at the outlet that needs most head cannot all
hold at once: one of them gives.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from bathys.edits.editing import Edit, apply_edits
from bathys.edits.valves import has_lever, throttle
from bathys.halving import greatest, least
from bathys.network import Balance, NotSolved, curve_of_pump
from bathys.network.layout import Layout, layout_of
from bathys.parts.rounding import handle
from bathys.physics.pump_curve import hydraulic_power
from bathys.plan.model import Plan
from bathys.plan.naming import named
from bathys.plan.pipes import Run
from bathys.plan.pumps import Pump
from bathys.sizing.header import set_header, wanted_drains
from bathys.sizing.throttling import head_margins, valve_angle

__all__ = [
    "MODES",
    "Mode",
    "Setting",
    "Settings",
    "balance_valves",
    "modes_for",
    "wanted_flows",
]

Mode = Literal["exact", "proportional", "slowed", "bypassed", "header"]

MODES: dict[Mode, str] = {
    "exact": "every valve turned; the pump as it is",
    "proportional": "the neediest outlet wide open, all flows the same share of those wanted",
    "slowed": "the pump turned down until the neediest outlet is wide open",
    "bypassed": "the surplus led back through the bypass, the neediest outlet wide open",
    "header": "drains that share one flow, the neediest wide open",
}
"""Each mode and what gives in it."""

_HALVINGS = 40
_LEAST_DIAL = 0.2
_ENOUGH = 1e-4  # head short by less is none [m]
_LEVEL = 1e-3  # heights apart by less are one [m]


@dataclass(frozen=True, slots=True)
class Setting:
    """What to do at one outlet.

    Attributes
    ----------
    run : str
        Id of the run that ends there
    wanted, flow : float
        Flow wanted and flow it will get, [m³/s]
    angle : float
        Handle angle from open, [°]
    spare : float
        Head its valve takes, [m]
    has_valve : bool
        Whether it has a ball valve to turn; else one must be fitted
    """

    run: str
    wanted: float
    flow: float
    angle: float
    spare: float
    has_valve: bool


@dataclass(frozen=True, slots=True)
class Settings:
    """Valve settings of a plan, or why there are none.

    Attributes
    ----------
    mode : str
        What gives
    rows : tuple of Setting
        One an outlet
    refusal : str
        Why it cannot be done; empty if it can. Slots name ``figures``
    figures : dict
        Figures for the slots
    share : float
        Flow over flow wanted, [-]
    dial : float or None
        Dial to set the pump to, [-]
    burnt : float
        Watts the valves burn, [W]
    edits : tuple of Edit
        The change to the plan
    note : str
        What else the builder should know, with slots
    """

    mode: Mode
    rows: tuple[Setting, ...] = ()
    refusal: str = ""
    figures: dict[str, float] | None = None
    share: float = 1.0
    dial: float | None = None
    burnt: float = 0.0
    edits: tuple[Edit, ...] = ()
    note: str = ""


def wanted_flows(plan: Plan, layout: Layout) -> dict[str, float]:
    """Flow wanted of each run under pressure that ends in a vessel, where one is given [m³/s].

    Parameters
    ----------
    plan : Plan
        The plan
    layout : Layout
        The plan compiled

    Returns
    -------
    dict of str to float
        The flow by the run's id, [m³/s]
    """
    return {
        r.id: r.wanted_flow
        for r in plan.runs
        if r.id in layout.pressure and r.wanted_flow is not None and plan.port(r.end) is not None
    }


def balance_valves(now: Balance, mode: Mode, flows: dict[str, float] | None = None) -> Settings:
    """Valve settings for the wanted flows of a plan.

    Parameters
    ----------
    now : Balance
        The plan as it stands
    mode : str
        What gives, a key of ``MODES``
    flows : dict, optional
        Flow wanted by run instead of what the plan says, [m³/s]

    Returns
    -------
    Settings
        Settings, or a refusal with its reason
    """
    wanted = flows or (
        wanted_drains(now.plan, now.layout)
        if mode == "header"
        else wanted_flows(now.plan, now.layout)
    )
    if not wanted:
        return Settings(
            mode, refusal="Say first what flow is wanted: set it on the runs that end in a vessel."
        )
    try:
        return _MODES[mode](now, wanted)
    except NotSolved as error:
        return Settings(mode, refusal=f"The wanted flows cannot be led there: {error}.")


def _spare(now: Balance, layout: Layout, wanted: dict[str, float]) -> dict[str, float]:
    return head_margins(layout, now.levels, wanted).heads


def _short(now: Balance, mode: Mode, spare: dict[str, float]) -> Settings:
    worst = min(spare, key=lambda r: spare[r])
    name = named(now.plan.part(worst))
    return Settings(
        mode,
        refusal=f"{name} falls "
        "{short:head} short of its wanted flow with its valve wide "
        "open. It takes a stronger pump, a wider pipe, or less lift.",
        figures={"short": -spare[worst]},
    )


def _exact(now: Balance, wanted: dict[str, float]) -> Settings:
    spare = _spare(now, now.layout, wanted)
    if min(spare.values()) < -_ENOUGH:
        return _short(now, "exact", spare)
    return _settings(now, "exact", now.layout, wanted, wanted, spare)


def _proportional(now: Balance, wanted: dict[str, float]) -> Settings:
    def fits(share: float) -> bool:
        flows = {r: share * q for r, q in wanted.items()}
        return min(_spare(now, now.layout, flows).values()) >= 0.0

    most = 4.0
    if not fits(0.02):
        return _short(now, "proportional", _spare(now, now.layout, wanted))
    share = greatest(fits, 0.02, most, _HALVINGS)
    flows = {r: share * q for r, q in wanted.items()}
    return _settings(
        now, "proportional", now.layout, wanted, flows, _spare(now, now.layout, flows), share=share
    )


def _slowed(now: Balance, wanted: dict[str, float]) -> Settings:
    pump = _only_pump(now.plan)
    if pump is None:
        return Settings("slowed", refusal="Only a plan with one pump can be slowed for its valves.")
    if pump.dial_turns == "intake":
        return Settings(
            "slowed", refusal="The dial of this pump narrows its intake; it slows none."
        )

    def layout_at(dial: float) -> Layout:
        plan = apply_edits(now.plan, [Edit(f"pumps.{pump.id}.dial", dial)])
        return layout_of(plan, now.layout.water)

    def fits(dial: float) -> bool:
        return min(_spare(now, layout_at(dial), wanted).values()) >= 0.0

    if not fits(1.0):
        return _short(now, "slowed", _spare(now, layout_at(1.0), wanted))
    dial = least(fits, _LEAST_DIAL, 1.0, _HALVINGS)
    layout = layout_at(dial)
    extra = (Edit(f"pumps.{pump.id}.dial", dial),)
    return _settings(
        now, "slowed", layout, wanted, wanted, _spare(now, layout, wanted), dial=dial, edits=extra
    )


def _bypassed(now: Balance, wanted: dict[str, float]) -> Settings:
    plan = now.plan
    pumped = {p.stands_in for p in plan.pumps}
    bypass = next(
        (r for r in now.layout.pressure_runs if r.target in pumped and r.id not in wanted),
        None,
    )
    if bypass is None:
        return Settings(
            "bypassed",
            refusal="There is no bypass yet: draw a run from a tee on the "
            "main back to the pump’s vessel.",
        )

    def flows_at(back: float) -> dict[str, float]:
        return {**wanted, bypass.id: back}

    def fits(back: float) -> bool:
        spare = _spare(now, now.layout, flows_at(back))
        return min(spare[r] for r in wanted) >= 0.0

    if not fits(1e-6):
        return _short(now, "bypassed", _spare(now, now.layout, wanted))
    back = greatest(fits, 1e-6, 0.1, _HALVINGS)
    spare = _spare(now, now.layout, flows_at(back))
    if spare[bypass.id] < 0.0:
        return Settings(
            "bypassed",
            refusal=f"{named(bypass)} is too narrow for the "
            "{back:flow} that must "
            "go back; fit it wider.",
            figures={"back": back},
        )
    return _settings(now, "bypassed", now.layout, flows_at(back), flows_at(back), spare)


def modes_for(now: Balance) -> tuple[Mode, ...]:
    """The ways that a plan's wanted flows can be met in: of pumped outlets, of drains that share
    inflow to them, or of both.

    Parameters
    ----------
    now : Balance
        The balance

    Returns
    -------
    tuple of Mode
        The ways, the first the usual one
    """
    ways: list[Mode] = []
    if wanted_flows(now.plan, now.layout) or not wanted_drains(now.plan, now.layout):
        ways += ["exact", "proportional", "slowed", "bypassed"]
    if wanted_drains(now.plan, now.layout):
        ways.append("header")
    return tuple(ways)


def _header(now: Balance, wanted: dict[str, float]) -> Settings:
    found = set_header(now, wanted)
    if not found.is_settled:
        names = ", ".join(named(now.plan.part(r)) for r in wanted)
        return Settings(
            "header",
            refusal=f"No setting of their valves shares the water so between {names}: "
            "one of them hardly runs by itself. Let its end lie lower, or its pipe be wider.",
        )
    rows = tuple(
        Setting(
            id_,
            wanted[id_],
            found.flows[id_],
            handle(angle),
            found.spare[id_],
            has_lever(now.plan.part(id_)),
        )
        for id_, angle in found.angles.items()
    )
    return Settings(
        "header",
        rows,
        share=found.share,
        edits=found.edits,
        figures={
            "share": found.share,
            "least": found.least,
            "most": found.most,
            "fall": found.fall,
            "apart": found.apart,
        },
        note="The flow is {share:percent} of all that is wanted, and is shared equally. With every "
        "valve open each would get {least:percent} to {most:percent} of its share."
        + _why_uneven(found.fall, found.apart),
    )


def _why_uneven(fall: float, apart: float) -> str:
    """What to build otherwise, so that a header shares by itself."""
    if max(fall, apart) < _LEVEL:
        return (
            " The pipes begin at one height and end at one height; their lengths, their fittings "
            "and unequal wants make the difference."
        )
    return (
        " The pipes begin {fall:length} apart in height and end {apart:length} apart. A header "
        "that lies level, with ends at one height, shares evenly by itself."
    )


def _only_pump(plan: Plan) -> Pump | None:
    return plan.pumps[0] if len(plan.pumps) == 1 else None


def _settings(
    now: Balance,
    mode: Mode,
    layout: Layout,
    wanted: dict[str, float],
    flows: dict[str, float],
    spare: dict[str, float],
    share: float = 1.0,
    dial: float | None = None,
    edits: tuple[Edit, ...] = (),
) -> Settings:
    rows, burnt = [], 0.0
    for id_, flow in flows.items():
        run: Run = now.plan.part(id_)
        head = max(spare[id_], 0.0)
        angle = handle(valve_angle(run, flow, head))
        rows.append(Setting(id_, wanted[id_], flow, angle, head, has_lever(run)))
        burnt += flow * head
    turned = tuple(Edit(f"runs.{row.run}.valve", throttle(row.angle)) for row in rows)
    return Settings(
        mode,
        tuple(rows),
        share=share,
        dial=dial,
        burnt=_watts(layout, now, burnt),
        edits=(*edits, *turned),
    )


def _watts(layout: Layout, now: Balance, moved: float) -> float:
    """Electrical watts behind a head times a flow burnt in valves [m⁴/s], at each pump's own
    wire-to-water efficiency now."""
    useful = drawn = 0.0
    for pump in layout.plan.pumps:
        flow = now.pump_flows[pump.id]
        head = curve_of_pump(pump).head(flow)[0]
        useful += hydraulic_power(max(flow, 0.0), max(head, 0.0), layout.water.density)
        drawn += pump.power * pump.speed**3
    return hydraulic_power(moved, 1.0, layout.water.density) * drawn / useful if useful else 0.0


_MODES: dict[Mode, Callable[[Balance, dict[str, float]], Settings]] = {
    "exact": _exact,
    "proportional": _proportional,
    "slowed": _slowed,
    "bypassed": _bypassed,
    "header": _header,
}
