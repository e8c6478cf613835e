"""What a photo's file tells beside its pixels: where and when it was taken, with which very camera, by whom. Only what
measuring needs of it stays: the camera's make and model, its focal length, which way is up, and the dots per inch."""

from __future__ import annotations

import io

from PIL import Image

from ypsicline.core.capture.photo import open_image

__all__ = ["without_private_data"]

_REWRITTEN = ("JPEG", "MPO", "PNG", "WEBP", "TIFF")
_MAKE, _MODEL, _EXIF_IFD, _FOCAL_35MM, _ORIENTATION = 0x010F, 0x0110, 0x8769, 0xA405, 0x0112
_QUALITY = 96
_END_OF_IMAGE = 0xD9
_WITHOUT_LENGTH = {0x01, *range(0xD0, 0xD9)}


def without_private_data(data: bytes) -> bytes:
    """A photo that `read_photo` can read, with the same pixels and without what it tells of place, time, serial numbers
    and people. HEIC, and what can't be rewritten in place, becomes a JPEG.
    """
    with open_image(data) as image:
        kind, size, mode = image.format, image.size, image.mode
    if kind in _REWRITTEN:
        # what rewrites them takes a tenth of a second to load, which a server's start can do without
        from ypsicline.core.capture.rewritten import CantBeRewritten, rewritten

        if kind in ("JPEG", "MPO"):
            data = data[: _jpeg_end(data)]
        try:
            bare = rewritten(data, is_tiff=kind == "TIFF")
            with open_image(bare) as image:
                if (image.size, image.mode) == (size, mode):
                    return bare
        except (CantBeRewritten, OSError, SyntaxError):
            pass
    return _as_jpeg(data)


def _jpeg_end(data: bytes) -> int:
    """Where a JPEG's picture ends. Phones put more behind it: further pictures with all that they tell, or a film."""
    at = 2
    while at + 4 <= len(data):
        if data[at] != 0xFF:
            at = data.find(b"\xff", at)
            if at < 0:
                break
            continue
        marker = data[at + 1]
        if marker == _END_OF_IMAGE:
            return at + 2
        if marker in (0x00, 0xFF) or marker in _WITHOUT_LENGTH:
            at += 1 if marker == 0xFF else 2
            continue
        at += 2 + int.from_bytes(data[at + 2 : at + 4], "big")
    return len(data)


def _as_jpeg(data: bytes) -> bytes:
    """Decoded and written as a fine JPEG with the little that is needed."""
    out, exif = io.BytesIO(), Image.Exif()
    with open_image(data) as image:
        exif_of_image = image.getexif()
        for tag in (_MAKE, _MODEL, _ORIENTATION):
            if tag in exif_of_image:
                exif[tag] = exif_of_image[tag]
        if _FOCAL_35MM in (inner := exif_of_image.get_ifd(_EXIF_IFD)):
            exif.get_ifd(_EXIF_IFD)[_FOCAL_35MM] = inner[_FOCAL_35MM]
        image.convert("RGB").save(out, "JPEG", quality=_QUALITY, subsampling=0, exif=exif)
    return out.getvalue()
