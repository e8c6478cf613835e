"""A photo that is kept says nothing of where, when, by whom and with which very camera it was taken."""

from __future__ import annotations

import contextlib
import io

import numpy as np
import pytest
from PIL import Image

from ypsicline.core.capture.photo import read_photo
from ypsicline.core.capture.private_data import without_private_data
from ypsicline.core.errors import Refusal

SECRETS = (b"SERIAL-77", b"Somebody", b"2026:01:02", b"51,30.2N", b"a remark")
XMP = (
    b'<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">'
    b'<rdf:Description xmlns:exif="http://ns.adobe.com/exif/1.0/" exif:GPSLatitude="51,30.2N"/></rdf:RDF></x:xmpmeta>'
)


def told() -> Image.Exif:
    exif = Image.Exif()
    exif.update({0x010F: "Maker", 0x0110: "Model 7", 0x0112: 6, 0x013B: "Somebody", 0x0132: "2026:01:02 10:00:00"})
    inner = exif.get_ifd(0x8769)
    inner.update({0xA405: 27, 0xA431: "SERIAL-77", 0x9003: "2026:01:02 10:00:00", 0x927C: b"maker's own SERIAL-77"})
    place = exif.get_ifd(0x8825)
    place.update({1: "N", 2: (51.0, 30.0, 12.0), 3: "E", 4: (7.0, 1.0, 2.0)})
    return exif


def photo(kind: str) -> bytes:
    noise = np.random.default_rng(3).integers(0, 255, (660, 700, 3), dtype=np.uint8)
    more = {"JPEG": {"xmp": XMP, "comment": b"a remark"}, "WEBP": {"xmp": XMP, "lossless": True}}.get(kind, {})
    out = io.BytesIO()
    Image.fromarray(noise).save(out, kind, exif=told(), **more)  # type: ignore[arg-type]
    return out.getvalue()


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "TIFF"])
def test_the_pixels_and_what_measuring_needs_stay(kind: str) -> None:
    data = photo(kind)
    bare = without_private_data(data)
    before, after = read_photo(data), read_photo(bare)
    assert np.array_equal(before.pixels, after.pixels)
    assert (after.camera, after.focal_px) == (before.camera, before.focal_px)
    assert after.camera == "Maker Model 7"
    assert not [s for s in SECRETS if s in bare]
    assert any(s in data for s in SECRETS)
    with Image.open(io.BytesIO(bare)) as image:
        assert not image.getexif().get_ifd(0x8825)


def test_what_a_phone_puts_behind_the_picture_is_cut_off() -> None:
    data = photo("JPEG")
    bare = without_private_data(data + photo("JPEG") + b"a film with 51,30.2N")
    assert bare == without_private_data(data)


def test_a_heic_becomes_a_jpeg_of_the_same_picture() -> None:
    from pathlib import Path

    data = (Path(__file__).parents[1] / "data" / "corner_red.heic").read_bytes()
    bare = without_private_data(data)
    assert bare.startswith(b"\xff\xd8")
    before, after = read_photo(data), read_photo(bare)
    assert np.abs(before.pixels.astype(int) - after.pixels).max() < 12


def test_a_library_says_nothing_of_a_broken_file(recwarn: pytest.WarningsRecorder) -> None:
    """A TIFF whose tags tell of more than the file has, found by lot: what is wrong is said in a sentence alone."""
    tiff = bytearray(photo("TIFF"))
    at = int.from_bytes(tiff[4:8], "little") + 2
    while int.from_bytes(tiff[at : at + 2], "little") != 258:
        at += 12
    tiff[at + 4 : at + 12] = (10**6).to_bytes(4, "little") + (len(tiff) - 8).to_bytes(4, "little")
    for read in (read_photo, without_private_data):
        with contextlib.suppress(Refusal, OSError, SyntaxError):
            read(bytes(tiff))
    assert not recwarn.list
