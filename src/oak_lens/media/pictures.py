"""Reading a picture file: checked, oriented, colour-managed to sRGB."""

import io
import re
import threading
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

import numpy as np
import simplejpeg
from numpy.typing import NDArray
from PIL import ExifTags, Image, ImageCms, UnidentifiedImageError
from pillow_heif import register_heif_opener

from ..core.errors import Fault, InvalidPicture

Image.init()  # Registers every format that ships with Pillow; naming one that is not registered would fail.
register_heif_opener()

FORMATS = ("JPEG", "PNG", "WEBP", "TIFF", "HEIF", "AVIF")
LARGEST_BYTES = 300 << 20
LARGEST_PIXELS = 200_000_000
LONGEST_SIDE_PX = 30_000

Image.MAX_IMAGE_PIXELS = None  # Our own limit is checked before any pixel is decoded, with a sentence.

_srgb_lock = threading.local()


@dataclass(frozen=True, slots=True)
class PictureFacts:
    """What a file says of its picture. Size in pixels as displayed; `captured` ISO 8601 without zone."""

    format: str
    width: int
    height: int
    captured: str | None
    description: str


def picture_facts(path: Path) -> PictureFacts:
    """Facts of a file, after a check that it is a picture of a known format within the limits; decodes no pixels.

    Raises InvalidPicture with a sentence that says what is wrong.
    """
    size = path.stat().st_size
    if size == 0:
        raise InvalidPicture([Fault("picture.empty", "", "The file is empty.")])
    if size > LARGEST_BYTES:
        raise InvalidPicture([Fault("picture.bytes", "", f"The file is larger than {LARGEST_BYTES >> 20} MB.")])
    with path.open("rb") as stream, _opened(stream) as image:
        width, height = image.size
        exif = _exif(image)
        if exif.get(ExifTags.Base.Orientation, 1) in (5, 6, 7, 8):
            width, height = height, width
        return PictureFacts(image.format or "", width, height, _captured(exif), _description(exif))


def read_picture(path: Path) -> NDArray[np.uint8]:
    """(h, w, 4) uint8 premultiplied sRGB, upright. Raises InvalidPicture, also for a truncated file."""
    with path.open("rb") as stream, _opened(stream) as image:
        return _jpeg(path, image) if _is_plain_jpeg(image) else _array(_decoded(image))


def read_half(path: Path) -> NDArray[np.uint8] | None:
    """The same at half the width and height, made by the decoder itself, which costs a third of decoding and reducing; None for files of
    which it makes none: all but JPEGs of even size without a colour conversion. It lies where a Lanczos reduction lies, to a hundredth of
    a pixel. Raises InvalidPicture."""
    with path.open("rb") as stream, _opened(stream) as image:
        return _jpeg(path, image, 2) if _is_plain_jpeg(image) and not any(side % 2 for side in image.size) else None


def _is_plain_jpeg(image: Image.Image) -> bool:
    """Whether the file is a JPEG in three colours that need no conversion: most photographs."""
    if image.format != "JPEG" or image.mode != "RGB":
        return False
    profile = image.info.get("icc_profile")
    if not profile:
        return True
    try:
        return _changes_nothing(_transform(profile, "RGB"))
    except (ImageCms.PyCMSError, ValueError, OSError):
        return True


def _jpeg(path: Path, image: Image.Image, shrink: int = 1) -> NDArray[np.uint8]:
    """Decoded straight into four channels, by the same library and settings as Pillow's, without its copies; `shrink` times smaller."""
    orientation = _exif(image).get(ExifTags.Base.Orientation, 1)
    least = tuple(-(-side // shrink) for side in image.size)
    try:
        pixels = simplejpeg.decode_jpeg(path.read_bytes(), colorspace="RGBA", min_height=least[1], min_width=least[0], strict=True)
    except ValueError as error:
        raise InvalidPicture(
            [Fault("picture.damaged", "", f"The file is damaged or cut off: its pixels cannot be read ({_brief(error)}).")]
        ) from None
    if orientation in (5, 6, 7, 8):
        pixels = pixels.transpose(1, 0, 2)
    flips = {2: (1, -1), 3: (-1, -1), 4: (-1, 1), 6: (1, -1), 7: (-1, -1), 8: (-1, 1)}.get(orientation)
    return np.ascontiguousarray(pixels[:: flips[0], :: flips[1]] if flips else pixels)


def write_thumbnail(path: Path, target: Path, longest_px: int = 480) -> None:
    """A JPEG at most `longest_px` on a side, transparency on paper. Raises InvalidPicture."""
    with path.open("rb") as stream, _opened(stream) as image:
        share = 1.5 * longest_px / max(image.size)
        image.draft("RGB", (max(1, round(image.width * share)), max(1, round(image.height * share))))
        picture = _decoded(image, reduce_to=longest_px * 2)
        save_thumbnail(picture, target, longest_px)


def save_thumbnail(picture: Image.Image, target: Path, longest_px: int = 480) -> None:
    """The picture as a small JPEG."""
    picture.thumbnail((longest_px, longest_px), Image.Resampling.LANCZOS, reducing_gap=3.0)
    if picture.mode == "RGBA":
        paper = Image.new("RGB", picture.size, (232, 225, 211))
        paper.paste(picture, mask=picture.getchannel("A"))
        picture = paper
    picture.save(target, "JPEG", quality=86)


def _opened(stream: BinaryIO) -> Image.Image:
    try:
        image = Image.open(stream, formats=FORMATS)
    except UnidentifiedImageError:
        raise InvalidPicture(
            [Fault("picture.format", "", "This is not a picture we can read. JPEG, PNG, WebP, TIFF, HEIC and AVIF are welcome.")]
        ) from None
    except Exception as error:  # Codecs raise anything on hostile headers.
        raise InvalidPicture([Fault("picture.damaged", "", f"The file is damaged: its header cannot be read ({_brief(error)}).")]) from None
    width, height = image.size
    if width * height > LARGEST_PIXELS or max(width, height) > LONGEST_SIDE_PX:
        raise InvalidPicture(
            [
                Fault(
                    "picture.pixels",
                    "",
                    f"The picture is {width} x {height} pixels; at most {LARGEST_PIXELS // 1_000_000} megapixels and {LONGEST_SIDE_PX} on a side can be used. Reduce it first.",
                )
            ]
        )
    if min(width, height) < 1:
        raise InvalidPicture([Fault("picture.empty", "", "The picture has no pixels.")])
    return image


def _decoded(image: Image.Image, reduce_to: int | None = None) -> Image.Image:
    """RGB or RGBA (not premultiplied) sRGB, upright."""
    try:
        image.load()
        orientation = _exif(image).get(ExifTags.Base.Orientation, 1)
        profile = image.info.get("icc_profile")
        if reduce_to and max(image.size) > 2 * reduce_to:
            image = image.reduce(max(image.size) // reduce_to) if image.mode in ("RGB", "L", "RGBA") else image
        picture = _plain(image)
        if profile:
            picture = _to_srgb(picture, profile)
        picture = _as_rgb(picture)
        turn = _TRANSPOSE.get(orientation)
        return picture.transpose(turn) if turn is not None else picture
    except InvalidPicture:
        raise
    except Exception as error:  # Codecs raise anything on hostile data.
        raise InvalidPicture(
            [Fault("picture.damaged", "", f"The file is damaged or cut off: its pixels cannot be read ({_brief(error)}).")]
        ) from None


_TRANSPOSE = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}


def _plain(image: Image.Image) -> Image.Image:
    """8 bits a channel, without a palette; transparency kept."""
    if image.mode in ("I;16", "I;16B", "I;16L", "I", "F"):
        values = np.asarray(image).astype(np.float64)
        if image.mode == "F":
            values = values * (255.0 if values.max(initial=0.0) <= 1.0 else 1.0)
        else:
            values = values / 257.0
        return Image.fromarray(np.clip(np.rint(values), 0, 255).astype(np.uint8))
    if image.mode == "P":
        return image.convert("RGBA" if "transparency" in image.info else "RGB")
    if image.mode == "1":
        return image.convert("L")
    if image.mode in ("RGB", "L") and "transparency" in image.info:
        return image.convert("RGBA")
    if image.mode in ("PA", "La", "RGBa"):
        return image.convert("RGBA")
    return image


def _to_srgb(picture: Image.Image, profile: bytes) -> Image.Image:
    """Colours of an embedded profile as sRGB (relative colorimetric); a broken or unfitting profile is passed over."""
    alpha = picture.getchannel("A") if picture.mode in ("RGBA", "LA") else None
    colours = picture.convert("RGB") if picture.mode == "RGBA" else picture.convert("L") if picture.mode == "LA" else picture
    try:
        transform = _transform(profile, colours.mode)
        if colours.mode == "RGB" and _changes_nothing(transform):
            return picture
        converted = ImageCms.applyTransform(colours, transform)
    except (ImageCms.PyCMSError, ValueError, OSError):
        return picture
    if converted is None:
        return picture
    if alpha is not None:
        converted = converted.convert("RGB")
        converted.putalpha(alpha)
    return converted


def _transform(profile: bytes, mode: str) -> ImageCms.ImageCmsTransform:
    """From a profile to sRGB, relative colorimetric with black point compensation."""
    if not hasattr(_srgb_lock, "profile"):
        _srgb_lock.profile = ImageCms.createProfile("sRGB")
    return ImageCms.buildTransform(
        ImageCms.ImageCmsProfile(io.BytesIO(profile)),
        _srgb_lock.profile,
        mode,
        "L" if mode == "L" else "RGB",
        renderingIntent=ImageCms.Intent.RELATIVE_COLORIMETRIC,
        flags=ImageCms.Flags.BLACKPOINTCOMPENSATION,
    )


def _changes_nothing(transform: ImageCms.ImageCmsTransform) -> bool:
    """Whether a transform leaves a lattice of colours where they are: most profiles are sRGB by another name."""
    steps = np.arange(0, 256, 17, dtype=np.uint8)
    lattice = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(64, 64, 3)
    result = ImageCms.applyTransform(Image.fromarray(lattice), transform)
    return result is not None and int(np.abs(np.asarray(result).astype(int) - lattice).max()) <= 1


def _as_rgb(picture: Image.Image) -> Image.Image:
    if picture.mode in ("RGB", "RGBA"):
        return picture
    return picture.convert("RGBA" if picture.mode == "LA" else "RGB")


BAND_ROWS = 512


def _array(picture: Image.Image) -> NDArray[np.uint8]:
    """(h, w, 4) premultiplied, band by band: a large picture must not stand in memory three times."""
    pixels = np.empty((picture.height, picture.width, 4), np.uint8)
    for top in range(0, picture.height, BAND_ROWS):
        bottom = min(top + BAND_ROWS, picture.height)
        band = picture.crop((0, top, picture.width, bottom))
        pixels[top:bottom] = np.asarray(band.convert("RGBA") if band.mode == "RGB" else band.convert("RGBa"))
    return pixels


def _exif(image: Image.Image) -> Image.Exif:
    try:
        return image.getexif()
    except Exception:  # A broken tag block costs the tags, not the picture.
        return Image.Exif()


def _captured(exif: Image.Exif) -> str | None:
    try:
        value = exif.get_ifd(ExifTags.IFD.Exif).get(ExifTags.Base.DateTimeOriginal) or exif.get(ExifTags.Base.DateTime)
    except Exception:
        return None
    match = re.match(r"^(\d{4})[:-](\d{2})[:-](\d{2})[ T](\d{2}):(\d{2}):(\d{2})", str(value or ""))
    if not match or match.group(2) == "00":
        return None
    year, month, day, hour, minute, second = match.groups()
    return f"{year}-{month}-{day}T{hour}:{minute}:{second}"


def _description(exif: Image.Exif) -> str:
    value = exif.get(ExifTags.Base.ImageDescription)
    return str(value).replace("\x00", "").strip()[:2000] if value else ""


def _brief(error: Exception) -> str:
    return (str(error) or type(error).__name__).split("\n")[0][:120]


__all__ = ["FORMATS", "LARGEST_BYTES", "LARGEST_PIXELS", "PictureFacts", "picture_facts", "read_picture", "write_thumbnail"]
