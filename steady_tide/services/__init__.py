"""What several routes, commands and jobs share: the crew's kit, kept plans, days."""
