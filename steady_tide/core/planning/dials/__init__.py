"""Every dial, defined once."""
