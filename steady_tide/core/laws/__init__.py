"""What an operator takes for granted, as laws that every plan is held to: on briefs that nobody wrote."""
