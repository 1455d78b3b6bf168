"""English for codes and quantities: the one place where sentences are made."""
