"""Files and values that nobody sends in good faith, or only by accident; each with the address that it is sent to."""

from __future__ import annotations

import io
import json
import re
import struct
import zlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np
from PIL import Image

__all__ = ["Hostile", "files", "multiparts", "sample", "values"]

VALUES: dict[str, Any] = {
    "nothing": None, "empty": "", "nul": "12\u0000", "long": "9" * 100_000, "endless": "1e999", "minus": "-0,0",
    "bidi": "\u202e12", "emoji": "\U0001f9f5" * 300, "list": [], "object": {}, "deep": [[[[[[[[[[]]]]]]]]]], "huge": 1e308,
    "true": True, "many": [[0, 0, k] for k in range(3000)], "minus_one": -1, "big_int": 10**30, "path": "../../etc/passwd",
    "markup": "<script>alert(1)</script>", "sql": "'; DROP TABLE jobs_job; --",
}  # fmt: skip


@dataclass(frozen=True)
class Hostile:
    """What is sent, by which method and to which address of the API; `{job}` stands for a job's number, and `what` says which
    operation, change or step it is, or which kind of file."""

    name: str
    method: str
    path: str
    what: str
    field: str = ""
    file: str = ""
    data: bytes = b""


def values(schema: dict[str, Any], every: int = 1) -> Iterator[Hostile]:
    """Every operation that takes JSON, with each of the values (or `every` so manyth) in one of its fields or in all."""
    turn = 0
    for path, item in schema["paths"].items():
        for method, operation in item.items():
            body = operation.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema")
            if not body or "{token}" in path:
                continue
            at = path.removeprefix("/api/").replace("{job_id}", "{job}")
            for what, sound, at_fields in _samples(schema, body, operation["operationId"]):
                fields = list(at_fields)
                turn += 1
                for k, (name, value) in enumerate(VALUES.items()):
                    if (k + turn) % every:
                        continue
                    # each value in one field, in turn; and every other one in all of them
                    chosen = fields if k % 2 else fields[k % max(len(fields), 1) :][:1]
                    sent = sound(dict.fromkeys(chosen, value))
                    yield Hostile(f"{what} {name}", method.upper(), _filled(at), what, data=_text(sent))


def _samples(
    schema: dict[str, Any], body: dict[str, Any], name: str
) -> Iterator[tuple[str, Callable[[dict[str, Any]], Any], list[str]]]:
    """What may be sent to an operation: its name, what makes it with some fields changed, and its fields. Of the changes
    and steps, which are many, each is one, and is sound but for what is changed."""
    shape = _resolved(schema, body)
    if "oneOf" not in shape:
        yield name, lambda changed: changed, list(shape.get("properties", {}))
        return
    for part in shape["oneOf"]:
        change = _resolved(schema, part)
        fields = [f for f in change["properties"] if f not in ("kind", "panel")]
        own = change["properties"]["kind"]["const"]
        sound_one = sample(schema, change)
        if "step" in change["properties"] and "oneOf" in change["properties"]["step"]:
            for step, sound, at in _samples(schema, change["properties"]["step"], own):
                yield f"step {step}", lambda changed, s=sound, c=sound_one: {**c, "step": s(changed)}, at
        yield own, lambda changed, c=sound_one: {**c, **changed}, fields


def sample(schema: dict[str, Any], part: dict[str, Any]) -> Any:
    """Something sound by a schema's part: no more than it needs."""
    part = _resolved(schema, part)
    if "const" in part or "enum" in part:
        return part.get("const", part.get("enum", [None])[0])
    if several := part.get("anyOf") or part.get("oneOf"):
        return sample(schema, several[0])
    if part.get("type") == "array":
        return [sample(schema, p) for p in part.get("prefixItems", [part.get("items", {})])]
    if part.get("type") == "object":
        return {
            f: sample(schema, p)
            for f, p in part.get("properties", {}).items()
            if f in part.get("required", ()) or "const" in p
        }
    return {"integer": 0, "number": 10.0, "boolean": True}.get(part.get("type", ""), "10")


def _resolved(schema: dict[str, Any], part: dict[str, Any]) -> dict[str, Any]:
    ref = part.get("$ref", "")
    return schema["components"]["schemas"][ref.rpartition("/")[2]] if ref else part


def _filled(path: str) -> str:
    """Every other number in the address is 0."""
    return re.sub(r"\{(?!job\})\w+\}", "0", path)


def _text(value: Any) -> bytes:
    return json.dumps(value).encode()


def files(bundle: bytes) -> Iterator[Hostile]:
    """Photos, bundles, panels files and drawings that are broken, mislabelled, bombs, or not what they say."""
    for k, (name, data) in enumerate(_photos()):
        at = ("jobs/{job}/photos", "jobs/{job}/kept-photos", "cameras")[k % 3]
        yield Hostile(f"photo {name}", "POST", at, "photo", "photo", f"{name}.jpg", data)
    for name, data in _bundles(bundle):
        yield Hostile(f"bundle {name}", "POST", "job-files", "bundle", "file", "job.json", data)
        yield Hostile(f"panels {name}", "POST", "jobs/{job}/read", "panels", "file", "panels.json", data)
    for name, ending, data in _drawings():
        yield Hostile(f"{ending} {name}", "POST", "jobs/{job}/read", ending, "file", f"a.{ending}", data)
    for name in ("..", ".", "/", "a/../../b.svg", "\x00.svg", "a" * 5000 + ".json", "CON.json", "a.exe", ""):
        yield Hostile(f"file named {name[:12]!r}", "POST", "jobs/{job}/read", "named", "file", name, b"{}")


def _image(kind: str, mode: str = "RGB", size: tuple[int, int] = (700, 660), **how: Any) -> bytes:
    out = io.BytesIO()
    Image.new(mode, size).save(out, kind, **how)
    return out.getvalue()


def _photos() -> Iterator[tuple[str, bytes]]:
    jpeg, png, webp, tiff = (_image(k) for k in ("JPEG", "PNG", "WEBP", "TIFF"))
    for kind, data in (("jpeg", jpeg), ("png", png), ("webp", webp), ("tiff", tiff)):
        for share in (0.01, 0.2, 0.6):
            yield f"{kind} cut at {share}", data[: int(len(data) * share)]
        yield f"{kind} scrambled", data[:40] + bytes(b ^ 0x5A for b in data[40:])
        yield f"{kind} of noise", data[:12] + np.random.default_rng(1).bytes(4000)
    yield "tiny", _image("PNG", size=(1, 1))
    yield "thin", _image("PNG", size=(20_000, 2))
    yield "gif", _image("GIF", "P")
    yield "bmp", _image("BMP")
    yield "png bomb", _png_header(60_000, 60_000)
    yield "png of no width", _png_header(0, 700)
    yield "jpeg that says it is huge", jpeg.replace(struct.pack(">HH", 660, 700), struct.pack(">HH", 65_000, 65_000), 1)
    for name, data in (("empty", b""), ("text", b"hello"), ("html", b"<!doctype html>"), ("zip", b"PK\x03\x04" + b"\0" * 99),
                       ("pdf", b"%PDF-1.7\n"), ("svg", b"<svg xmlns='http://www.w3.org/2000/svg'/>"), ("nul", b"\0" * 5000),
                       ("heic head", b"\0\0\0\x18ftypheic" + b"\0" * 300), ("avif head", b"\0\0\0\x18ftypavif" + b"\0" * 99)):  # fmt: skip
        yield name, data


def _png_header(width: int, height: int) -> bytes:
    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 1000)) + chunk(b"IEND", b"")
    )


def _bundles(bundle: bytes) -> Iterator[tuple[str, bytes]]:
    text = bundle.decode()
    for name, data in (("empty", b""), ("nul", b"\0"), ("list", b"[]"), ("number", b"7"), ("null", b"null"), ("nan", b'{"a": NaN}'),
                       ("endless", b'{"a": 1e999}'), ("deep", b"[" * 100_000), ("deep objects", b'{"a":' * 50_000),
                       ("utf-16", text.encode("utf-16")), ("latin-1", b'{"name": "\xe4"}'), ("surrogate", b'{"a": "\\ud800"}'),
                       ("half", bundle[: len(bundle) // 2]), ("twice", bundle + bundle)):  # fmt: skip
        yield name, data
    whole = json.loads(text)
    for k, (name, value) in enumerate(VALUES.items()):
        for where in (("job", "name"), ("job", "panels"), ("job", "unit"), ("version",), ("job",)):
            changed = json.loads(text)
            at = changed
            for key in where[:-1]:
                at = at[key]
            at[where[-1]] = value
            yield f"{'.'.join(where)} {name}", _text(changed)
        points = json.loads(text)["job"]["panels"]
        points[0]["seam_line"][0]["points"][0][k % 2] = value
        yield f"point {name}", _text({**whole, "job": {**whole["job"], "panels": points}})


def _drawings() -> Iterator[tuple[str, str, bytes]]:
    head = '<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200">'
    square = '<path d="M0 0 H100 V100 H0 Z"/>'
    for name, inner in (
        ("empty", ""), ("self use", '<g id="a"><use href="#a"/></g>'), ("outside", '<image href="http://example.invalid/x"/>'),
        ("nan", '<path d="M0 0 LNaN 5 L10 10 Z"/>'), ("huge", '<path d="M0 0 L1e300 0 L0 1e300 Z"/>'),
        ("flat", '<path d="M0 0 L10 0 L0 0 Z"/>'), ("turned in", f'<g transform="matrix(0 0 0 0 0 0)">{square}</g>'),
        ("rotated by nan", f'<g transform="rotate(NaN)">{square}</g>'), ("many", square * 400), ("script", "<script>1</script>"),
    ):  # fmt: skip
        yield name, "svg", f"{head}{inner}</svg>".encode()
    entity = '<!DOCTYPE svg [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;&a;&a;">]>'
    yield "entities", "svg", f"{entity}{head}<text>&b;</text></svg>".encode()
    yield (
        "file entity",
        "svg",
        f'<!DOCTYPE svg [<!ENTITY a SYSTEM "file:///etc/passwd">]>{head}<text>&a;</text></svg>'.encode(),
    )
    yield "no svg", "svg", b"hello"
    yield "cut", "svg", f"{head}<path d='M0 0".encode()
    pair = "0\nSECTION\n2\nENTITIES\n{}0\nENDSEC\n0\nEOF\n"
    for name, inner in (("empty", ""), ("self insert", "0\nINSERT\n2\nA\n10\n0\n20\n0\n"), ("nan", "0\nCIRCLE\n8\n0\n10\nnan\n20\n0\n40\n5\n"),
                        ("huge circle", "0\nCIRCLE\n8\n0\n10\n0\n20\n0\n40\n1e300\n"), ("no number", "0\nLINE\n10\nabc\n")):  # fmt: skip
        yield name, "dxf", pair.format(inner).encode()
    yield "binary", "dxf", b"AutoCAD Binary DXF\r\n\x1a\x00" + b"\xff" * 200
    yield "text", "dxf", b"hello\nthere\n"


def multiparts() -> dict[str, tuple[str, bytes]]:
    """Bodies of forms that aren't well made: content type and bytes."""
    start = b'--b\r\nContent-Disposition: form-data; name="'
    return {
        "no boundary": ("multipart/form-data", start + b'photo"\r\n\r\nx\r\n--b--'),
        "wrong boundary": ("multipart/form-data; boundary=c", start + b'photo"\r\n\r\nx\r\n--b--'),
        "bad boundary": ("multipart/form-data; boundary=\xff", b"--\xff--"),
        "cut off": ("multipart/form-data; boundary=b", start + b'photo"; filename="a.jpg"\r\n\r\n\xff\xd8'),
        "bad transfer": ("multipart/form-data; boundary=b", start + b'photo"; filename="a"\r\nContent-Transfer-Encoding: base64\r\n\r\n***\r\n--b--'),
        "many fields": ("multipart/form-data; boundary=b", b"".join(start + b'f%d"\r\n\r\nx\r\n' % k for k in range(900)) + b"--b--"),
        "many files": ("multipart/form-data; boundary=b", b"".join(start + b'photo"; filename="a"\r\n\r\nx\r\n' for _ in range(300)) + b"--b--"),
        "file that is a field": ("multipart/form-data; boundary=b", start + b'photo"\r\n\r\nx\r\n--b--'),
        "nul name": ("multipart/form-data; boundary=b", start + b'photo"; filename="\x00"\r\n\r\nx\r\n--b--'),
        "json": ("application/json", b'{"photo": 1}'),
        "nothing": ("", b""),
    }  # fmt: skip
