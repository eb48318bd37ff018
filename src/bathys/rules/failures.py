"""Words for what may fail."""

__all__ = ["BROKEN", "FAILURES"]

BROKEN: dict[str, str] = {
    "spills": "{name} runs over",
    "air": "{name} runs dry",
    "starved": "no water reaches {name}",
}
"""What goes wrong before anything fails, in words."""

FAILURES: dict[str, str] = {
    "blocked": "{name} clogs",
    "shut": "{name} is shut by mistake",
    "dead": "{name} stops for good",
    "never_starts": "{name} never starts",
    "never_breaks": "{name} never stops",
    "stuck_open": "the check valve of {name} sticks open in a power cut",
    "burst": "the pipe comes off {name}",
    "slips_out": "the end of {name} slips out of its vessel",
    "half_blocked": "{name} is half blocked: its filter, or the holes at its end",
    "stuck_float": "{name} sticks open",
}
"""What failed, in words."""
