"""Long work, taken from the job queue on the database by workers on this machine and on others."""
