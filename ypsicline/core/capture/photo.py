"""Reading a photograph, whoever sent it."""

from __future__ import annotations

import io
import math
import warnings
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from PIL import Image, UnidentifiedImageError

from ypsicline.core.errors import Refused

__all__ = ["MAX_PHOTO_BYTES", "MAX_PHOTO_PIXELS", "Photo", "read_photo"]

MAX_PHOTO_BYTES = 60_000_000
MAX_PHOTO_PIXELS = 120_000_000
MIN_SIDE_PX = 640
SERVING_PIXELS = 30_000_000
FORMATS = ("JPEG", "PNG", "TIFF", "WEBP", "HEIF")
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

    Raises `Refused` (reason `photo`) for another kind of file, a broken or truncated one, one
    over 60 MB or 120 megapixels, and one too small to measure in. What has more than 30 megapixels
    is read at a half or a third of its size, which serves as well.
    """
    _register_heif()
    if len(data) > MAX_PHOTO_BYTES:
        raise Refused(f"The photo has {len(data) / 1e6:.0f} MB; {MAX_PHOTO_BYTES / 1e6:.0f} MB is the most.", "photo")
    try:
        with warnings.catch_warnings(), _open(data) as image:
            width, height = image.size
            if width * height > MAX_PHOTO_PIXELS:
                raise Refused(
                    f"The photo has {width * height / 1e6:.0f} megapixels; {MAX_PHOTO_PIXELS / 1e6:.0f} is the most. "
                    "Send a smaller one.",
                    "photo",
                )
            if min(width, height) < MIN_SIDE_PX:
                raise Refused(
                    f"The photo is only {width} × {height} pixels, too few to measure in; send it at full size.",
                    "photo",
                )
            shrink = math.ceil(math.sqrt(width * height / SERVING_PIXELS))
            image.draft("RGB", (width // shrink, height // shrink))
            exif = image.getexif()
            camera = " ".join(str(exif.get(tag, "")).strip("\0 ") for tag in (_MAKE, _MODEL)).strip()[:100]
            focal_35 = _number(exif.get_ifd(_EXIF_IFD).get(_FOCAL_35MM))
            dpi = _number((image.info.get("dpi") or (None,))[0])
            left = math.ceil(math.sqrt(image.width * image.height / SERVING_PIXELS))
            smaller = image.reduce(left) if left > 1 and image.mode in _REDUCED else image
            pixels = np.asarray(_upright(_in_colour(smaller), int(exif.get(_ORIENTATION, 1) or 1)))
    except Refused:
        raise
    except Image.DecompressionBombError as e:
        raise Refused("The photo has too many pixels; send a smaller one.", "photo") from e
    except UnidentifiedImageError as e:
        raise Refused(
            "This file is not a photo that can be read; send a JPEG, PNG, TIFF, WebP or HEIC.", "photo"
        ) from e
    except Exception as e:  # decoders raise anything at all on broken files
        raise Refused("The photo is broken and can't be read to its end; send it again.", "photo") from e
    focal_px = None
    if focal_35 and 10 < focal_35 < 300:
        focal_px = focal_35 / 43.2666 * float(np.hypot(pixels.shape[0], pixels.shape[1]))
    reduced = max(width, height) / max(pixels.shape[:2])
    return Photo(pixels, focal_px, camera, dpi if dpi and 20 < dpi < 5000 else None, reduced)


def _open(data: bytes) -> Image.Image:
    # how many pixels are too many is said below, in a sentence
    warnings.simplefilter("ignore", Image.DecompressionBombWarning)
    return Image.open(io.BytesIO(data), formats=FORMATS)


def _in_colour(image: Image.Image) -> Image.Image:
    """Eight bits of red, green and blue: deep grey scaled to its own range, what is transparent laid on white."""
    if image.mode in ("I", "F") or image.mode.startswith("I;16"):
        deep = np.asarray(image, dtype=np.float32)
        top = 65535.0 if image.mode.startswith("I;16") or deep.max() > 255 else 255.0
        return Image.fromarray(np.clip(deep * (255 / max(top, float(deep.max()))), 0, 255).astype(np.uint8)).convert(
            "RGB"
        )
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        with_alpha = image.convert("RGBA")
        ground = Image.new("RGB", image.size, "white")
        ground.paste(with_alpha, mask=with_alpha.getchannel("A"))
        return ground
    return image.convert("RGB")


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
