"""What the boxes of the inspector call what may be chosen."""

from bathys.parts.fouling import FOULING
from bathys.parts.species import SPECIES

__all__ = ["CHOICE_NAMES", "DAYS", "KINDS", "SWITCH_NAMES", "YES_NO"]

CHOICE_NAMES = {
    "open": "not decided",
    **{key: film.name for key, film in FOULING.items()},
    "bare": "bare",
    "insulated": "insulated",
    "dug_in": "dug in",
    "metric": "metric",
    **{key: row.called for key, row in SPECIES.items()},
    "us": "US",
    "flush": "flush with the wall",
    "inward": "standing inward",
    "unknown": "not known: counted as slowed",
    "speed": "slows the pump",
    "intake": "narrows its intake",
    "fixed": "fixed, or weighed down",
    "heavy": "loose, of PVC or ABS, which sink",
    "light": "loose, of PE or PP, which float",
    "notch": "V-notches",
    "slot": "slots with a level edge",
    "rim": "the vessel’s rim",
    "top_off": "its foot: a tank",
    "upside_down": "its top, turned over: a tray",
    "minute": "to the minute",
    "quarter": "by quarters of an hour",
}
KINDS = {"tee": "tee", "wye": "wye", "plain": "plain, of no loss", "outfall": "outfall, outside"}
SWITCH_NAMES = {
    "shape": "Shape",
    "curve": "Curve from",
    "valve": "Valve",
    "ends_in": "Ends in",
    "filter": "Filter on it",
    "valve_clock": "Valve opens by",
    "false_cone": "Cone set in",
    "baffles": "Baffles",
    "settler": "Built as a settler",
    "carriers": "Carriers in it",
    "crop": "What grows in it",
    "sleeve": "Sleeve about it",
    "screen": "Screen on top",
    "switch": "Switched by",
    "media": "Filled with",
    "siphons": "Built as",
    "outlets": "Built as",
}
YES_NO = (("yes", "yes"), ("no", "no"))
DAYS = {
    "mon": "Monday",
    "tue": "Tuesday",
    "wed": "Wednesday",
    "thu": "Thursday",
    "fri": "Friday",
    "sat": "Saturday",
    "sun": "Sunday",
}
