"""Curves of the car, one subject a file; how one is declared: `chart`."""

from . import clearance, dampers, preload, side_view, springs
from .chart import Chart, Drawn, charts, draw

__all__ = [
    "Chart",
    "Drawn",
    "charts",
    "clearance",
    "dampers",
    "draw",
    "preload",
    "side_view",
    "springs",
]
