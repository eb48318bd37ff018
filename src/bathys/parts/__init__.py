"""Tables of real parts: bores, fittings, valves, wall films, media.

Public: :mod:`bores`, :mod:`bells`, :mod:`fittings`, :mod:`valves`, :mod:`fouling`, :mod:`media`.
"""
