"""One's own numbers: found in takes, ladders and notes, and laid over what is typical through one door."""
