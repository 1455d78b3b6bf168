"""What was filmed, kept and judged: takes, ladders, notes, and what they teach, in codes and quantities."""
