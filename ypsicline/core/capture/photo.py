"""Reading a photograph, whoever sent it."""

from __future__ import annotations

import io
import math
import warnings
from dataclasses import dataclass
from functools import lru_cache

import cv2
import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from ypsicline.core.errors import Refusal
from ypsicline.core.messages import message

__all__ = ["MAX_PHOTO_BYTES", "MAX_PHOTO_PIXELS", "Photo", "open_image", "read_photo"]

MAX_PHOTO_BYTES = 60_000_000
# only a JPEG is decoded at the size that serves; of the others all pixels are in memory at once
MAX_PHOTO_PIXELS = {
    "JPEG": 120_000_000, "MPO": 120_000_000, "PNG": 60_000_000, "TIFF": 60_000_000, "HEIF": 50_000_000, "WEBP": 24_000_000,
}  # fmt: skip
# a JPEG with further pictures behind the first opens as MPO
FORMATS = tuple(k for k in MAX_PHOTO_PIXELS if k != "MPO")
MIN_SIDE_PX = 640
SERVING_PIXELS = 30_000_000
_EXIF_IFD, _MAKE, _MODEL, _FOCAL_35MM, _ORIENTATION = 0x8769, 0x010F, 0x0110, 0xA405, 0x0112
_REDUCED = ("L", "RGB", "RGBA", "CMYK", "YCbCr")
_TURNS = {
    2: Image.Transpose.FLIP_LEFT_RIGHT, 3: Image.Transpose.ROTATE_180, 4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE, 6: Image.Transpose.ROTATE_270, 7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}  # fmt: skip


@dataclass(frozen=True)
class Photo:
    """An upright photograph: `pixels` (rows, columns, 3) uint8 RGB; `focal_px` as EXIF tells it, if it does; `dpi` as
    a scanner wrote it, which in a camera's photo means nothing; `reduced`, how many pixels of the file each one is wide."""

    pixels: NDArray[np.uint8]
    focal_px: float | None = None
    camera: str = ""
    dpi: float | None = None
    reduced: float = 1.0

    @property
    def width(self) -> int:
        return int(self.pixels.shape[1])

    @property
    def height(self) -> int:
        return int(self.pixels.shape[0])


def read_photo(data: bytes) -> Photo:
    """Decode a JPEG, PNG, TIFF, WebP or HEIC file, turned upright by its EXIF orientation.

    Raises `Refusal` (reason `photo`) for another kind of file, a broken or truncated one, one
    over 60 MB or with more pixels than its kind may have, and one too small to measure in. What has more
    than 30 megapixels is read at a half or a third of its size, which serves as well.
    """
    if len(data) > MAX_PHOTO_BYTES:
        raise Refusal(
            message("photo_too_heavy", megabytes=len(data) / 1000000.0, most=MAX_PHOTO_BYTES / 1000000.0), "photo"
        )
    try:
        with warnings.catch_warnings(), open_image(data) as image:
            width, height = image.size
            most = MAX_PHOTO_PIXELS[image.format or "WEBP"]
            if width * height > most:
                raise Refusal(
                    message(
                        "photo_too_many_megapixels",
                        megapixels=width * height / 1000000.0,
                        most=most / 1000000.0,
                        kind=str(image.format),
                    ),
                    "photo",
                )
            if min(width, height) < MIN_SIDE_PX:
                raise Refusal(message("photo_too_small", width=width, height=height), "photo")
            shrink = math.ceil(math.sqrt(width * height / SERVING_PIXELS))
            image.draft("RGB", (width // shrink, height // shrink))
            exif = image.getexif()
            camera = " ".join(str(exif.get(tag, "")).strip("\0 ") for tag in (_MAKE, _MODEL)).strip()[:100]
            focal_35 = _number(exif.get_ifd(_EXIF_IFD).get(_FOCAL_35MM))
            dpi = _number((image.info.get("dpi") or (None,))[0])
            pixels = np.asarray(_upright(_at_serving_size(image), int(exif.get(_ORIENTATION, 1) or 1)))
    except Refusal:
        raise
    except Image.DecompressionBombError as e:
        raise Refusal(message("photo_too_many_pixels"), "photo") from e
    except UnidentifiedImageError as e:
        raise Refusal(message("not_a_photo"), "photo") from e
    except Exception as e:  # decoders raise anything at all on broken files
        raise Refusal(message("photo_broken"), "photo") from e
    focal_px = None
    if focal_35 and 10 < focal_35 < 300:
        focal_px = focal_35 / 43.2666 * float(np.hypot(pixels.shape[0], pixels.shape[1]))
    reduced = max(width, height) / max(pixels.shape[:2])
    return Photo(pixels, focal_px, camera, dpi if dpi and 20 < dpi < 5000 else None, reduced)


def open_image(data: bytes) -> Image.Image:
    """A photo's file opened, its pixels not yet read; raises whatever its decoder does."""
    _register_heif()
    # what is wrong with a file is said in a sentence, never by the library
    warnings.filterwarnings("ignore", module=r"PIL\.")
    return Image.open(io.BytesIO(data), formats=FORMATS)


def _at_serving_size(image: Image.Image) -> Image.Image:
    """The image in colour, its pixels brought together where it has more than serve."""
    by = math.ceil(math.sqrt(image.width * image.height / SERVING_PIXELS))
    if by == 1:
        return _in_colour(image)
    return _in_colour(image.reduce(by)) if image.mode in _REDUCED else _in_colour(image).reduce(by)


def _in_colour(image: Image.Image) -> Image.Image:
    """Eight bits of red, green and blue: deep grey scaled to its own range, what is transparent laid on white."""
    if image.mode in ("I", "F") or image.mode.startswith("I;16"):
        deep = np.asarray(image)
        deep = deep if deep.dtype in (np.uint16, np.float32) else deep.astype(np.float32)
        top = 65535.0 if image.mode.startswith("I;16") or deep.max() > 255 else 255.0
        grey = cv2.convertScaleAbs(np.maximum(deep, 0), alpha=255 / max(top, float(deep.max())))
        return Image.fromarray(grey).convert("RGB")
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        with_alpha = image.convert("RGBA")
        ground = Image.new("RGB", image.size, "white")
        ground.paste(with_alpha, mask=with_alpha.getchannel("A"))
        return ground
    return image if image.mode == "RGB" else image.convert("RGB")


def _upright(image: Image.Image, orientation: int) -> Image.Image:
    turn = _TURNS.get(orientation)
    return image if turn is None else image.transpose(turn)


def _number(value: object) -> float | None:
    try:
        return float(value)  # type: ignore[arg-type]
    except (TypeError, ValueError):
        return None


@lru_cache(maxsize=1)
def _register_heif() -> None:
    import pi_heif

    pi_heif.register_heif_opener()
