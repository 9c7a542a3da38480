"""The looks that ship with Oak Lens. To add one: add an entry; controls, validation, the picture of all looks and tests follow."""

from dataclasses import dataclass

from .backdrops import Backdrop
from .corrections import Correction
from .look import Look
from .mounts import Mount
from .shadows import Shadow

NO_BORDER = Mount(border=0.0)
NO_SHADOW = Shadow(opacity=0.0)
ON_TABLE = Shadow(opacity=0.5, distance=0.012, softness=0.014, second=True)


@dataclass(frozen=True, slots=True)
class ShippedLook:
    id: str
    look: Look


def _shipped(
    id: str, name: str, help: str, mount: Mount, shadow: Shadow, backdrop: Backdrop, correction: Correction | None = None
) -> ShippedLook:
    return ShippedLook(id, Look(name=name, help=help, mount=mount, shadow=shadow, backdrop=backdrop, correction=correction or Correction()))


BUILTIN = (
    _shipped("bare", "Bare", "The photo alone over a dim copy of itself", NO_BORDER, NO_SHADOW, Backdrop(brightness=0.6, blur=0.06)),
    _shipped(
        "paper-border", "Paper border", "A narrow warm border and a soft shadow", Mount(), Shadow(), Backdrop()
    ),
    _shipped(
        "gallery", "Gallery", "A wide mat in a dark wooden frame on a plaster wall",
        Mount(border=0.016, colour="#3b2c20", mat=0.055, mat_colour="#f4f0e6"),
        Shadow(opacity=0.55, light_from=340, distance=0.022, softness=0.024, second=True),
        Backdrop(kind="surface", surface="plaster", brightness=1.0, saturation=1.0),
    ),
    _shipped(
        "instant-card", "Instant card", "A card with a caption line, as it falls out of a camera",
        Mount(border=0.026, foot=0.085, colour="#f7f3ea", radius=0.006, paper="under", paper_strength=0.25),
        ON_TABLE,
        Backdrop(kind="surface", surface="oak", brightness=0.95, saturation=1.0),
        Correction(contrast=-0.08, shadows=0.15, warmth=0.12, saturation=0.92),
    ),
    _shipped(
        "deckle", "Deckle print", "An old print with an uneven edge, in sepia, on linen",
        Mount(border=0.022, colour="#efe4cd", edge="deckle", paper="over", paper_strength=0.35),
        ON_TABLE,
        Backdrop(kind="surface", surface="linen", brightness=0.85, saturation=0.8),
        Correction(tone="sepia", tone_amount=0.9, contrast=-0.05, vignette=0.3, grain=0.3),
    ),
    _shipped(
        "scrapbook", "Scrapbook", "Taped by its corners onto kraft paper",
        Mount(border=0.012, colour="#fbf8f0", tape="corners", paper="under", paper_strength=0.3),
        Shadow(opacity=0.4, distance=0.006, softness=0.008),
        Backdrop(kind="surface", surface="kraft", brightness=0.95, saturation=1.0),
    ),
    _shipped(
        "pinboard", "Pinboard", "A strip of tape at the top, on cork",
        Mount(border=0.014, colour="#ffffff", tape="top", tape_colour="#cfe0d6"),
        Shadow(opacity=0.5, light_from=20, distance=0.016, softness=0.012, second=True),
        Backdrop(kind="surface", surface="cork", brightness=0.9, saturation=1.0),
    ),
    _shipped(
        "slate", "Black border", "A thin dark border and a strong light from the right, on slate",
        Mount(border=0.008, colour="#15171a", mat=0.0),
        Shadow(opacity=0.7, light_from=60, distance=0.028, softness=0.02),
        Backdrop(kind="surface", surface="slate", brightness=0.8, saturation=1.0),
        Correction(contrast=0.15, sharpness=0.25),
    ),
    _shipped(
        "rounded", "Rounded", "Large round corners floating over a dusk gradient",
        Mount(border=0.0, radius=0.045),
        Shadow(opacity=0.45, light_from=0, distance=0.03, softness=0.045, colour="#141a2a"),
        Backdrop(kind="gradient", colour="#26324a", second_colour="#d09a6a", angle=180),
    ),
    _shipped(
        "newsprint", "Newsprint", "Black and white with grain and contrast, on plain grey",
        Mount(border=0.01, colour="#e9e7e2", paper="over", paper_strength=0.5),
        Shadow(opacity=0.35, distance=0.012, softness=0.01),
        Backdrop(kind="colour", colour="#77746e"),
        Correction(tone="mono", contrast=0.3, grain=0.55, grain_size=0.005),
    ),
    _shipped(
        "blueprint", "Blueprint", "Deep blue, for plans and instruments",
        Mount(border=0.01, colour="#dfe9ef"),
        Shadow(opacity=0.5, distance=0.014, softness=0.02),
        Backdrop(kind="gradient", gradient="radial", colour="#3d6a8f", second_colour="#12283d"),
        Correction(tone="cyan", contrast=0.12),
    ),
    _shipped(
        "lamplight", "Lamplight", "A lamp stands in the scene: every shadow points away from it",
        Mount(border=0.016, colour="#f3e7cf"),
        Shadow(opacity=0.6, light="position", light_x=-0.32, light_y=-0.42, light_height=0.7, distance=0.05, softness=0.022),
        Backdrop(kind="surface", surface="walnut", brightness=0.75, saturation=1.0, tint="#c58a3a", tint_amount=0.15),
        Correction(warmth=0.3, vignette=0.35, vignette_reach=0.8),
    ),
    _shipped(
        "night-felt", "Night felt", "No border, a pale glow instead of a shadow, on dark felt",
        Mount(border=0.0, radius=0.004),
        Shadow(opacity=0.5, distance=0.0, softness=0.035, spread=0.006, colour="#9fc4d8"),
        Backdrop(kind="surface", surface="felt", brightness=0.5, saturation=0.8, tint="#1d2b3d", tint_amount=0.6),
    ),
)  # fmt: skip

SHIPPED = {entry.id: entry.look for entry in BUILTIN}
