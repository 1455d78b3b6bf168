"""Steady Tide: the setting sheet for the next shot, priced in stops."""

__version__ = "0.3.0"
