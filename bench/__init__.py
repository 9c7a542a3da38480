"""Measures the figures of `docs/quality.md`: `./oak bench [--json] [--only NAME …]`."""
