"""The job's rules and computation: pure functions and frozen models, without input or output."""
