"""What becomes of a day's plans outside: charge, cards and heat, presets, the order of the day, what to pack."""
