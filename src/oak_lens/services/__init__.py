"""Use cases over ports: what people do with projects, pictures and exports. Ownership is checked here."""
