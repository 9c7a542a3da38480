"""The surfaces that backdrops can show: a table, a wall, a cloth. Their textures are computed; see `paint.surfaces`."""

SURFACES = (
    ("oak", "Oak table"),
    ("walnut", "Walnut table"),
    ("linen", "Linen cloth"),
    ("slate", "Slate"),
    ("felt", "Felt"),
    ("cork", "Cork"),
    ("kraft", "Kraft paper"),
    ("plaster", "Plaster wall"),
)
"""(id, label); `Backdrop.surface` is typed with the same ids."""
