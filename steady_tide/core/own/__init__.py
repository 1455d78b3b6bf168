"""One's own numbers: found in takes, ladders and notes, and applied over what is typical through one door."""
