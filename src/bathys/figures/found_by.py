"""How a figure is found where no arithmetic gives it."""

__all__ = ["AT_REST", "BALANCED", "BY_LAYER", "BY_LEVEL", "FOLLOWED"]

AT_REST = "letting all the water drain to where it rests"
BALANCED = "solving the balance of the whole plan"
BY_LAYER = "adding up its shell, layer by layer"
BY_LEVEL = "adding up the time from level to level"
FOLLOWED = "following the plan through time"
