"""Codecs and files: reading pictures, keeping pyramids, writing films. Imports the core, never the services."""
