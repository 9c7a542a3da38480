"""The web API: Flask blueprints, errors table, OpenAPI. Translates requests to services, nothing more."""
