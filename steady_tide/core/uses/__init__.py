"""What people usually film, and how a camera is set up for it once."""
