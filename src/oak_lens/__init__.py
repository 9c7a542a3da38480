"""Oak Lens: moving film from still photographs."""

__version__ = "0.1.0"
