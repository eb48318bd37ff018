"""The side view: shells cut open, with the water, the pipes and the siphons in them.

It draws what the engine has worked out and works out nothing itself. Heights are to scale; widths
share that scale until a layout is too long for its picture, and then are drawn narrower alike.
"""

from bathys.drawing.draw import draw_side_view
from bathys.drawing.scene import Badge, Rect, Scene, Stroke, Text

__all__ = ["Badge", "Rect", "Scene", "Stroke", "Text", "draw_side_view"]
