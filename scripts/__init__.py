"""Scripts for whoever changes the project."""
