"""What is asked for and what is known: briefs, scenarios, recipes, knowledge, own numbers."""
