"""Simulated outside things, behind the interfaces that real ones would have."""
