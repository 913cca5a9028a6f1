"""Zesty Grid: plan, weigh, dye, read, fade and compare natural dye test grids."""

__version__ = "0.1.0"
