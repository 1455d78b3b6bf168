"""Optics, noise, motion and endurance: published models, one a module."""
