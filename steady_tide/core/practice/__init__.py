"""Practice for those who want to carry it in the head: questions made by the engine, and when each is asked again."""
