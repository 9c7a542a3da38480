"""What `./oak start` runs: the database cluster, the worker processes, the web server, and their end."""
