"""Starting and stopping: the private PostgreSQL cluster and the server."""
