"""Which kinds of parts there are, and where what the engine knows of each stands."""

from functools import cache, reduce
from importlib import import_module
from importlib.metadata import entry_points
from operator import or_
from types import ModuleType
from typing import Annotated, Any, get_args

from pydantic import BaseModel, Discriminator, Tag

__all__ = [
    "COMPONENTS",
    "facet",
    "facets",
    "kind_named",
    "kind_of",
    "kinds_of",
    "model_named",
    "models_of",
    "union_of",
]

BUILT_IN = (
    "bathys.components.bell",
    "bathys.components.loop",
    "bathys.components.standpipe",
    "bathys.components.lift",
    "bathys.components.holes",
    "bathys.components.weir",
    "bathys.components.dip_tube",
    "bathys.components.float_valve",
    "bathys.components.hand_top_up",
    "bathys.components.transfer",
    "bathys.components.exchange",
    "bathys.components.purge",
    "bathys.components.mineraliser",
    "bathys.components.cohort",
    "bathys.components.air_stone",
    "bathys.components.air_pump",
    "bathys.components.appliance",
    "bathys.components.shells.box",
    "bathys.components.shells.cylinder",
    "bathys.components.shells.cone",
    "bathys.components.shells.dish",
    "bathys.components.shells.tote",
    "bathys.components.shells.measured",
    "bathys.components.shells.tapered",
    "bathys.components.shells.tub",
    "bathys.components.shells.half_drum",
    "bathys.components.shells.trough",
    "bathys.components.shells.glass",
    "bathys.components.shells.lined",
    "bathys.components.fittings",
    "bathys.components.valves.ball",
    "bathys.components.valves.gate",
    "bathys.components.settlers.radial",
    "bathys.components.settlers.swirl",
    "bathys.components.settlers.baffled",
    "bathys.components.settlers.funnel",
    "bathys.components.filters.brush",
    "bathys.components.filters.netting",
    "bathys.components.filters.matting",
    "bathys.components.filters.fibre",
    "bathys.components.filters.sock",
    "bathys.components.filters.canister",
    "bathys.components.filters.foam",
    "bathys.components.filters.screen",
    "bathys.components.filters.static_bed",
    "bathys.components.ends.spray",
    "bathys.components.ends.ring",
    "bathys.components.ends.fan",
    "bathys.components.ends.turned_up",
    "bathys.components.ends.splash",
    "bathys.components.ends.diffuser",
    "bathys.components.ends.venturi",
    "bathys.components.curves.label",
    "bathys.components.curves.points",
    "bathys.components.curves.airlift",
    "bathys.components.switches.timer",
    "bathys.components.switches.spells",
    "bathys.components.switches.float_switch",
    "bathys.components.switches.built_in_float",
)

COMPONENTS = (*BUILT_IN, *(e.value for e in entry_points(group="bathys.components")))
"""The packages of all kinds, those of the entry point ``bathys.components`` last. A kind that has
little to tell is a single file with its model."""


@cache
def facets(name: str) -> dict[type[Any], ModuleType]:
    """The modules that answer one question, by the model of their kind.

    Parameters
    ----------
    name : str
        Of the module in each kind's package, such as ``steady``

    Returns
    -------
    dict
        Kinds without such a module left out, in the order of :data:`COMPONENTS`
    """
    found: dict[type[Any], ModuleType] = {}
    for package in COMPONENTS:
        home = import_module(package)
        is_file = not hasattr(home, "__path__")
        model = (home if is_file else import_module(f"{package}.model")).MODEL
        if is_file:
            if name == "model":
                found[model] = home
            continue
        try:
            found[model] = import_module(f"{package}.{name}")
        except ModuleNotFoundError as error:
            if error.name != f"{package}.{name}":
                raise
    return found


def facet(part: BaseModel, name: str) -> Any:
    """What one kind's package answers to a question.

    Parameters
    ----------
    part : BaseModel
        The part
    name : str
        Its name

    Returns
    -------
    object
        What the kind's package has under this name

    Raises
    ------
    KeyError
        If it has no such module
    """
    return facets(name)[type(part)]


def kind_named(kind: str, name: str) -> Any:
    """As :func:`facet`, of a kind by what it is called in a plan file.

    Parameters
    ----------
    kind : str
        What the kind is called in a plan file
    name : str
        Its name

    Returns
    -------
    object
        What the kind's package has under this name
    """
    return next(module for model, module in facets(name).items() if kind_of(model) == kind)


def models_of(group: str) -> tuple[Any, ...]:
    """The models of the kinds that stand in one place: one of the plan's lists, or a field.

    Parameters
    ----------
    group : str
        Name of the plan's list, or of the field

    Returns
    -------
    tuple of object
        The models, in the order of the registry
    """
    return tuple(m for m in facets("model") if group == m.GROUP)


def kinds_of(model: type[BaseModel]) -> tuple[str, ...]:
    """What the kinds of one model are called in a plan file: mostly one.

    Parameters
    ----------
    model : type
        The model of the kind

    Returns
    -------
    tuple of str
        Their names
    """
    return get_args(model.model_fields["kind"].annotation)


def kind_of(model: type[BaseModel]) -> str:
    """What the kind of a model is called in a plan file, the first if there are several.

    Parameters
    ----------
    model : type
        The model of the kind

    Returns
    -------
    str
        Its name
    """
    return kinds_of(model)[0]


def model_named(group: str, kind: str) -> Any:
    """The model of a kind that stands in one place; none if there is no such kind.

    Parameters
    ----------
    group : str
        Name of the plan's list, or of the field
    kind : str
        What the kind is called in a plan file

    Returns
    -------
    object
        The model, or none
    """
    return next((m for m in models_of(group) if kind in kinds_of(m)), None)


def union_of(group: str, usual: str | None = None) -> Any:
    """The type of a part of one of the plan's lists, told apart by its kind.

    Parameters
    ----------
    group : str
        The list
    usual : str, optional
        The kind of a part that names none; such a part is else refused

    Returns
    -------
    object
        The union, or the one model where there is no other kind
    """
    models = models_of(group)
    if len(models) == 1:
        return models[0]
    tags = {k: kind_of(m) for m in models for k in kinds_of(m)}

    def tag(value: Any) -> Any:
        kind = value.get("kind", usual) if isinstance(value, dict) else getattr(value, "kind", None)
        return tags.get(kind, kind) if isinstance(kind, str) else kind

    tagged: list[Any] = [Annotated[m, Tag(kind_of(m))] for m in models]
    return Annotated[reduce(or_, tagged), Discriminator(tag)]
