"""Measuring what a sheet estimates: noise from a grey card, glass from two frames."""
