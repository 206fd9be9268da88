"""Starting things on one machine: the project's own PostgreSQL, the server, the demo."""
