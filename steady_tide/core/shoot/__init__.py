"""A shoot: its file, films, tracks and positions."""
