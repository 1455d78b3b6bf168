"""The simulator: a plan's frame before it is filmed. Arrays in, arrays out; no files, no clock; what is random is seeded."""
