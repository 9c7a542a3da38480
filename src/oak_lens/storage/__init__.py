"""PostgreSQL through SQLModel, files by content, the queue. Implements the ports of `services`."""
