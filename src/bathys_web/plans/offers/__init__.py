"""Changes the engine can work out for a plan, by name: what each would do, and how to make it.

A new kind of offer is one function and one line of ``OFFERS``.
"""

from bathys_web.plans.benches.siphon import take_siphon
from bathys_web.plans.benches.tweaking import take_tweak, tweak_list
from bathys_web.plans.offers.findings import (
    late_list,
    late_remedies_list,
    remedies_list,
    take_late_remedy,
    take_remedy,
)
from bathys_web.plans.offers.kinds import List, Take
from bathys_web.plans.offers.parts import change_part
from bathys_web.plans.offers.sizes import (
    bores_list,
    gains_list,
    pumps_list,
    take_bore,
    take_gain,
    take_pump,
    take_valves,
    valves_list,
)

__all__ = ["LISTS", "OFFERS"]

LISTS: dict[str, List] = {
    "remedies": remedies_list, "gains": gains_list, "valves": valves_list, "pumps": pumps_list,
    "bores": bores_list, "late": late_list, "late_remedies": late_remedies_list,
    "tweak": tweak_list,
}  # fmt: skip
OFFERS: dict[str, Take] = {
    "remedies": take_remedy, "gains": take_gain, "valves": take_valves, "pumps": take_pump,
    "bores": take_bore, "late_remedies": take_late_remedy, "change": change_part,
    "siphon": take_siphon, "tweak": take_tweak,
}  # fmt: skip
