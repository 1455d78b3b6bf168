"""Cameras as people bring them: the mode map, pasted tables, clips, and sheets that are filled up with estimates."""
