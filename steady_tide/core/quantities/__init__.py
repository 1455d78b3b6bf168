"""Quantities that everything else counts in, and the errors of the core."""
