"""Outside devices and services: what is asked of them, and how."""
