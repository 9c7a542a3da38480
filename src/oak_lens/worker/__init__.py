"""The queue's workers: tasks by name, each a call of a service."""
