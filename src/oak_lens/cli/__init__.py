"""The command line over documents as files."""
