"""What the scene gives: light sources of a brief, resolved to one band."""
