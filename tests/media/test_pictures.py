"""A small zoo of picture files, good and bad, made here."""

import io
import struct
from collections.abc import Callable
from pathlib import Path

import cv2
import numpy as np
import pytest
from PIL import ExifTags, Image, ImageCms, ImageOps

from oak_lens.core.draw import Picture
from oak_lens.core.errors import InvalidPicture, MissingPicture
from oak_lens.core.paint import ByteCache, level_size, reduced_level
from oak_lens.media.pictures import picture_facts, read_half, read_picture, write_thumbnail
from oak_lens.media.pyramids import Pyramids, levels_in
from tests.conftest import picture

PIXELS = picture(120, 80, 3)[..., :3]


def saved(path: Path, image: Image.Image, **options: object) -> Path:
    image.save(path, **options)
    return path


@pytest.mark.parametrize(
    ("name", "options", "tolerance"),
    [
        ("a.jpg", {"quality": 95, "subsampling": 0}, 3),
        ("a.png", {}, 0),
        ("a.webp", {"lossless": True}, 0),
        ("a.tif", {"compression": "tiff_lzw"}, 0),
        ("a.heic", {"quality": 95}, 3),
        ("a.avif", {"quality": 95}, 3),
    ],
)
def test_every_welcome_format_reads(tmp_path: Path, name: str, options: dict[str, object], tolerance: int) -> None:
    path = saved(tmp_path / name, Image.fromarray(PIXELS), **options)
    facts = picture_facts(path)
    pixels = read_picture(path)
    assert (facts.width, facts.height) == (120, 80) and pixels.shape == (80, 120, 4) and (pixels[..., 3] == 255).all()
    assert np.abs(pixels[..., :3].astype(int) - PIXELS).mean() <= tolerance


def grey16() -> Image.Image:
    return Image.fromarray((np.linspace(0, 65535, 120 * 80).reshape(80, 120)).astype(np.uint16))


def palette_with_transparency() -> Image.Image:
    image = Image.fromarray(PIXELS).quantize(16)
    image.info["transparency"] = 0
    return image


MODES: dict[str, Callable[[], Image.Image]] = {
    "16-bit grey": grey16,
    "grey": lambda: Image.fromarray(PIXELS[..., 0]),
    "one bit": lambda: Image.fromarray(PIXELS).convert("1"),
    "palette": palette_with_transparency,
    "grey and alpha": lambda: Image.fromarray(PIXELS).convert("LA"),
}


@pytest.mark.parametrize("mode", MODES)
def test_every_mode_becomes_premultiplied_colour(tmp_path: Path, mode: str) -> None:
    pixels = read_picture(saved(tmp_path / "a.png", MODES[mode]()))
    assert pixels.shape == (80, 120, 4) and (pixels[..., :3] <= pixels[..., 3:]).all()
    if mode == "16-bit grey":
        assert pixels[0, 0, 0] == 0 and pixels[-1, -1, 0] == 255 and abs(int(pixels[40, 0, 0]) - 127) <= 2


def test_cmyk_reads_as_its_colours(tmp_path: Path) -> None:
    flat = Image.new("RGB", (40, 40), (200, 60, 30)).convert("CMYK")
    pixels = read_picture(saved(tmp_path / "a.tif", flat))
    assert np.abs(pixels[20, 20, :3].astype(int) - (200, 60, 30)).max() <= 4


@pytest.mark.parametrize("orientation", range(1, 9))
@pytest.mark.parametrize("subsampling", [0, 2])
def test_the_short_way_of_reading_a_jpeg_gives_what_the_long_one_gives(tmp_path: Path, orientation: int, subsampling: int) -> None:
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = orientation
    path = saved(tmp_path / "a.jpg", Image.fromarray(picture(203, 131)[..., :3]), exif=exif, quality=88, subsampling=subsampling)
    with Image.open(path) as image:
        upright = np.asarray(ImageOps.exif_transpose(image))
    assert (read_picture(path)[..., :3] == upright).all()


@pytest.mark.parametrize("orientation", range(1, 9))
def test_orientation_flags_are_honoured(tmp_path: Path, orientation: int) -> None:
    corner = np.zeros((60, 90, 3), np.uint8)
    corner[:20, :20] = 255
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = orientation
    exif[ExifTags.Base.ImageDescription] = "The dome"
    exif[ExifTags.Base.DateTime] = "2031:09:19 20:05:18"
    path = saved(tmp_path / "a.jpg", Image.fromarray(corner), exif=exif, quality=95)
    facts, pixels = picture_facts(path), read_picture(path)
    assert (facts.width, facts.height) == pixels.shape[1::-1] == ((90, 60) if orientation < 5 else (60, 90))
    assert facts.captured == "2031-09-19T20:05:18" and facts.description == "The dome"
    bright = {1: (0, 0), 2: (0, -1), 3: (-1, -1), 4: (-1, 0), 5: (0, 0), 6: (0, -1), 7: (-1, -1), 8: (-1, 0)}[orientation]
    assert pixels[bright][0] > 240 and pixels[..., 0].mean() < 40


def display_p3() -> bytes:
    """A minimal matrix profile with Display P3 primaries (adapted to D50) and the sRGB curve, after ICC.1:2010."""

    def s15(v: float) -> bytes:
        return struct.pack(">i", round(v * 65536))

    def xyz(*v: float) -> bytes:
        return b"XYZ \0\0\0\0" + b"".join(map(s15, v))

    curve = b"para\0\0\0\0" + struct.pack(">HH", 3, 0) + b"".join(map(s15, (2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)))
    text = b"desc\0\0\0\0" + struct.pack(">I", 3) + b"P3\0" + b"\0" * 79
    tags = {
        b"desc": text,
        b"wtpt": xyz(0.9642, 1.0, 0.8249),
        b"rXYZ": xyz(0.51512, 0.2412, -0.00105),
        b"gXYZ": xyz(0.29198, 0.69225, 0.04189),
        b"bXYZ": xyz(0.1571, 0.06657, 0.78407),
        b"rTRC": curve,
        b"gTRC": curve,
        b"bTRC": curve,
    }
    table, data, at = b"", b"", 128 + 4 + 12 * len(tags)
    for name, value in tags.items():
        value += b"\0" * (-len(value) % 4)
        table += name + struct.pack(">II", at + len(data), len(value))
        data += value
    body = struct.pack(">I", len(tags)) + table + data
    head = struct.pack(">I4sI4s4s4s", 128 + len(body), b"lcms", 0x02400000, b"mntr", b"RGB ", b"XYZ ") + b"\0" * 12 + b"acsp" + b"\0" * 28
    head += s15(0.9642) + s15(1.0) + s15(0.8249)
    return head + b"\0" * (128 - len(head)) + body


def test_a_wide_gamut_profile_is_converted(tmp_path: Path) -> None:
    profile = display_p3()
    ImageCms.ImageCmsProfile(io.BytesIO(profile))
    # (200, 100, 50) in Display P3 is (214, 95, 29) in sRGB, by the matrices of both spaces.
    pixels = read_picture(saved(tmp_path / "a.png", Image.new("RGB", (8, 8), (200, 100, 50)), icc_profile=profile))
    assert np.abs(pixels[4, 4, :3].astype(int) - p3_to_srgb((200, 100, 50))).max() <= 2
    same = read_picture(saved(tmp_path / "b.png", Image.new("RGB", (8, 8), (200, 100, 50)), icc_profile=b"broken"))
    assert tuple(same[4, 4]) == (200, 100, 50, 255)


def p3_to_srgb(colour: tuple[int, int, int]) -> np.ndarray:
    value = np.array(colour) / 255
    linear = np.where(value <= 0.04045, value / 12.92, ((value + 0.055) / 1.055) ** 2.4)
    matrix = np.array(((1.2249, -0.2247, 0.0), (-0.0420, 1.0419, 0.0), (-0.0197, -0.0786, 1.0979)))
    out = np.clip(matrix @ linear, 0, 1)
    return np.rint(255 * np.where(out <= 0.0031308, out * 12.92, 1.055 * out ** (1 / 2.4) - 0.055))


def png_claiming(width: int, height: int) -> bytes:
    import zlib

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    chunk = struct.pack(">I", 13) + b"IHDR" + head + struct.pack(">I", zlib.crc32(b"IHDR" + head))
    return b"\x89PNG\r\n\x1a\n" + chunk + struct.pack(">I", 8) + b"IDAT" + b"\0" * 12


def jpeg() -> bytes:
    stream = io.BytesIO()
    Image.fromarray(picture(600, 400, 5)[..., :3]).save(stream, "JPEG", quality=90)
    return stream.getvalue()


BAD = {
    "empty.jpg": (b"", "picture.empty"),
    "text.jpg": (b"not a picture at all, just words", "picture.format"),
    "huge.png": (png_claiming(60000, 60000), "picture.pixels"),
    "cut.jpg": (jpeg()[:9000], "picture.damaged"),
    "cut-header.jpg": (jpeg()[:30], "picture.format"),
    "script.svg": (b"<svg xmlns='http://www.w3.org/2000/svg'><script/></svg>", "picture.format"),
    "film.gif": (b"GIF89a" + b"\0" * 40, "picture.format"),
    "noise.tif": (b"II*\0" + bytes(range(256)) * 4, "picture.format"),
}


@pytest.mark.parametrize("name", BAD)
def test_bad_files_are_refused_with_a_sentence(tmp_path: Path, name: str) -> None:
    data, code = BAD[name]
    path = tmp_path / name
    path.write_bytes(data)
    with pytest.raises(InvalidPicture) as caught:
        picture_facts(path)
        write_thumbnail(path, tmp_path / "thumb.jpg")
    assert caught.value.code in (code, "picture.damaged") and caught.value.faults[0].message.endswith(".")
    assert not (tmp_path / "thumb.jpg").exists() and not list(tmp_path.glob("*.part"))


def test_a_mislabelled_picture_is_read_for_what_it_is(tmp_path: Path) -> None:
    path = tmp_path / "really-a-png.jpg"
    Image.fromarray(PIXELS).save(path, "PNG")
    assert picture_facts(path).format == "PNG"


@pytest.mark.parametrize("size", [(1, 1), (2, 3000), (1777, 1201)])
def test_pyramids_are_the_same_kept_or_not_and_survive_damage(tmp_path: Path, size: tuple[int, int]) -> None:
    path = saved(tmp_path / "a.png", Image.fromarray(picture(*size)[..., :3]))
    shown = Picture("k" * 64, *size)
    kept, fresh = Pyramids(lambda key: path, levels_in(tmp_path / "kept"), ByteCache(0)), Pyramids(lambda key: path)
    kept.prepare(shown)
    assert kept.is_prepared(shown)
    for broken in list((tmp_path / "kept").rglob("*.npy"))[:2]:
        broken.write_bytes(b"torn")
    for level in range(5):
        assert kept.level(shown, level).shape[1::-1] == level_size(*size, level)
        assert (kept.level(shown, level) == fresh.level(shown, level)).all()


@pytest.mark.parametrize(("size", "orientation"), [((1200, 800), 1), ((1296, 880), 6), ((64, 40), 3)])
def test_the_half_size_of_a_jpeg_is_its_decoders_and_lies_where_a_reduction_lies(tmp_path: Path, size: tuple[int, int], orientation: int) -> None:
    rng = np.random.default_rng(3)
    soft = cv2.GaussianBlur(rng.uniform(0, 255, (size[1], size[0])).astype(np.float32), (0, 0), 2.0)
    photo = np.clip(((soft - soft.mean()) * 4 + 128)[..., None] * (1.0, 0.9, 0.7), 0, 255).astype(np.uint8)
    exif = Image.Exif()
    exif[0x0112] = orientation
    path = tmp_path / "a.jpg"
    Image.fromarray(photo).save(path, quality=95, subsampling="4:2:0", exif=exif)
    facts = picture_facts(path)
    shown = Picture("h" * 64, facts.width, facts.height)
    source = Pyramids(lambda key: path)
    half = source.level(shown, 2)
    reduced = reduced_level((facts.width, facts.height), 2, lambda _: source.level(shown, 0))
    assert half.shape == reduced.shape and (half == read_half(path)).all()
    inner = (slice(4, -4), slice(4, -4), slice(0, 3))
    error = half[inner].astype(float) - reduced[inner]
    assert 10 * np.log10(255**2 / (error**2).mean()) > 40
    if min(size) > 100:
        (across, down), _ = cv2.phaseCorrelate(half[inner][..., 0].astype(np.float32), reduced[inner][..., 0].astype(np.float32))
        assert abs(across) < 0.01 and abs(down) < 0.01
    # Whatever comes first, and kept or not, a level is the same.
    kept = Pyramids(lambda key: path, levels_in(tmp_path / "kept"))
    kept.prepare(shown)
    for level in (4, 3, 2, 1, 0):
        assert (kept.level(shown, level) == source.level(shown, level)).all()
    # Where colours are converted, or half a pixel would be left over, the whole picture is read and reduced.
    for other in (Image.fromarray(photo).convert("CMYK"), Image.fromarray(photo[:, :-1])):
        other.save(path, quality=95)
        assert read_half(path) is None


def test_missing_and_changed_files_say_so(tmp_path: Path) -> None:
    path = saved(tmp_path / "a.png", Image.fromarray(PIXELS))
    for file, shown, code in (
        (tmp_path / "gone.png", Picture("a" * 64, 120, 80), "picture.missing"),
        (path, Picture("b" * 64, 60, 40), "picture.changed"),
    ):
        with pytest.raises(MissingPicture) as caught:
            Pyramids(lambda key, file=file: file).level(shown, 0)
        assert caught.value.code == code
