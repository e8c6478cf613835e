"""Photo files rewritten in place, without what they tell beside their pixels."""

from __future__ import annotations

import exiv2

__all__ = ["CantBeRewritten", "rewritten"]

CantBeRewritten = exiv2.Exiv2Error
_NEEDED = {
    "Exif.Image.Make", "Exif.Image.Model", "Exif.Image.Orientation", "Exif.Image.XResolution", "Exif.Image.YResolution",
    "Exif.Image.ResolutionUnit", "Exif.Image.ExifTag", "Exif.Photo.FocalLengthIn35mmFilm",
}  # fmt: skip
# of a TIFF these say how its pixels are stored
_STRUCTURE = {
    f"Exif.Image.{name}"
    for name in (
        "NewSubfileType", "SubfileType", "ImageWidth", "ImageLength", "BitsPerSample", "Compression",
        "PhotometricInterpretation", "FillOrder", "StripOffsets", "SamplesPerPixel", "RowsPerStrip", "StripByteCounts",
        "PlanarConfiguration", "T4Options", "T6Options", "TransferFunction", "Predictor", "WhitePoint",
        "PrimaryChromaticities", "ColorMap", "TileWidth", "TileLength", "TileOffsets", "TileByteCounts", "InkSet",
        "NumberOfInks", "DotRange", "ExtraSamples", "SampleFormat", "JPEGTables", "YCbCrCoefficients", "YCbCrSubSampling",
        "YCbCrPositioning", "ReferenceBlackWhite", "InterColorProfile",
    )
}  # fmt: skip

exiv2.LogMsg.setLevel(exiv2.LogMsg.Level.mute)


def rewritten(data: bytes, *, is_tiff: bool) -> bytes:
    """The file with its pixels as they are, and of what it tells beside them only what measuring needs.

    Raises `CantBeRewritten`.
    """
    image = exiv2.ImageFactory.open(data)
    image.readMetadata()
    exif = image.exifData()
    needed = _NEEDED | (_STRUCTURE if is_tiff else set())
    for key in {entry.key() for entry in exif} - needed:
        while (entry := exif.findKey(exiv2.ExifKey(key))) != exif.end():
            exif.erase(entry)
    image.clearXmpPacket()
    image.clearXmpData()
    image.clearIptcData()
    image.clearComment()
    image.writeMetadata()
    store = image.io()
    store.open()
    return bytes(store.mmap())
