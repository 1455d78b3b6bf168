"""The demo crew, its shoots and its shots: invented, and loaded once into a new database."""
