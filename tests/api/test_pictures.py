"""Photos and clips of a run: what is kept, what is refused, and who sees it."""

from __future__ import annotations

import struct
import zlib
from base64 import b64encode
from io import BytesIO
from typing import Any

from PIL import Image

from cabrio.operations.pictures import LARGEST, MOST
from tests.support.client import INES, OKE, PELL, ApiTestCase

PNG = b"\x89PNG\r\n\x1a\n"


def photo(shade: int = 0, form: str = "PNG", **more: Any) -> bytes:
    """A small picture of one shade."""
    kept = BytesIO()
    Image.new("RGB", (4, 3), (shade, 90, 20)).save(kept, form, **more)
    return kept.getvalue()


def element(name: str, *held: bytes) -> bytes:
    """An element of a WebM."""
    inside = b"".join(held)
    return (
        bytes.fromhex(name)
        + (
            (0x80 | len(inside)).to_bytes(1, "big")
            if len(inside) < 127
            else (1 << 56 | len(inside)).to_bytes(8, "big")
        )
        + inside
    )


def box(name: bytes, *inside: bytes) -> bytes:
    """A box of an MP4."""
    body = b"".join(inside)
    return struct.pack(">I4s", 8 + len(body), name) + body


def huge(side: int) -> bytes:
    """A picture of so many pixels a side in a file of a few kilobytes."""

    def chunk(name: bytes, body: bytes) -> bytes:
        told = zlib.crc32(name + body)
        return struct.pack(">I", len(body)) + name + body + struct.pack(">I", told)

    head = struct.pack(">IIBBBBB", side, side, 1, 0, 0, 0, 0)
    return (
        PNG + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(bytes(64))) + chunk(b"IEND", b"")
    )


RUN = "/api/cars/1/runs/1"


def sent(content: bytes, name: str = "left rear.png") -> dict[str, str]:
    return {"name": name, "data": b64encode(content).decode()}


class Pictures(ApiTestCase):
    def kept(self) -> list[Any]:
        log = self.person(PELL).ok("GET", "/api/cars/1/logbook")
        runs = [run for session in log["sessions"] for run in session["runs"]]
        found: list[Any] = next(run for run in runs if run["id"] == 1)["pictures"]
        return found

    def setUp(self) -> None:
        super().setUp()
        crew = self.person(OKE)
        for one in self.kept():
            crew.ok("DELETE", f"/api/cars/1/pictures/{one['id']}")

    def test_one_is_kept_once_and_comes_back_as_it_was(self) -> None:
        crew, content = self.person(OKE), photo(7)
        for _ in range(2):
            crew.ok("POST", f"{RUN}/pictures", sent(content))
        (one,) = self.kept()
        self.assertEqual((one["kind"], one["name"]), ("image/png", "left rear.png"))
        at = f"/api/cars/1/pictures/{one['id']}"
        answer = self.person(PELL).http.get(at)
        self.assertEqual((answer.data, answer.mimetype), (content, "image/png"))
        self.assertIn("sandbox", answer.headers["Content-Security-Policy"])
        self.assertEqual(answer.headers["X-Content-Type-Options"], "nosniff")
        crew.ok("DELETE", at)
        self.assertEqual(self.kept(), [])
        crew.refused(404, "GET", at)
        # taken off, the same one may be added again
        crew.ok("POST", f"{RUN}/pictures", sent(content))
        self.assertEqual(len(self.kept()), 1)

    def test_it_says_its_phase_and_what_is_to_be_seen(self) -> None:
        crew = self.person(OKE)
        crew.ok("POST", f"{RUN}/pictures", sent(photo()))
        (one,) = self.kept()
        self.assertEqual((one["phase"], one["shows"]), ("", ""))
        at = f"/api/cars/1/pictures/{one['id']}"
        crew.ok("PATCH", at, {"phase": "mid-corner", "shows": " Turn 3: inner front lifts "})
        (one,) = self.kept()
        self.assertEqual((one["phase"], one["shows"]), ("mid-corner", "Turn 3: inner front lifts"))
        told = crew.refused(422, "PATCH", at, {"phase": "burnout", "shows": "Turn 3"})
        self.assertIn("has no phase “burnout”", told["detail"])
        crew.refused(422, "PATCH", at, {"shows": "x" * 121})
        crew.refused(404, "PATCH", at.replace("cars/1", "cars/2"), {"phase": ""})
        self.assertEqual(self.kept()[0]["shows"], "Turn 3: inner front lifts")

    def test_what_is_no_photo_or_too_large_is_refused(self) -> None:
        crew = self.person(OKE)
        for content, said in (
            (b"<svg onload=alert(1)>", "no photo or clip"),
            (b"<html>" + PNG, "no photo or clip"),
            (PNG + bytes(LARGEST), "at most 6 MB"),
            (PNG + b"bracket, left", "cannot be read"),
            (huge(30_000), "million pixels"),
        ):
            told = crew.refused(422, "POST", f"{RUN}/pictures", sent(content))
            self.assertIn(said, told["detail"])
        told = crew.refused(422, "POST", f"{RUN}/pictures", {"data": "not base64!"})
        self.assertIn("did not arrive whole", told["detail"])
        crew.refused(404, "POST", "/api/cars/1/runs/9999/pictures", sent(PNG))
        self.assertEqual(self.kept(), [])

    def test_a_run_keeps_so_many(self) -> None:
        ines = self.person(INES)
        for number in range(MOST):
            ines.ok("POST", f"{RUN}/pictures", sent(photo(number)))
        told = ines.refused(422, "POST", f"{RUN}/pictures", sent(photo(200)))
        self.assertIn("remove one first", told["detail"])

    def fetched(self, content: bytes) -> bytes:
        crew = self.person(OKE)
        crew.ok("POST", f"{RUN}/pictures", sent(content))
        at = f"/api/cars/1/pictures/{self.kept()[-1]['id']}"
        answer = crew.http.get(at)
        self.assertEqual(answer.headers["Cache-Control"], "private, no-cache")
        found: bytes = answer.data
        part = crew.http.get(at, headers={"Range": "bytes=0-3"})
        self.assertEqual((part.status_code, part.data), (206, found[:4]))
        return found

    def test_a_phone_s_photo_of_several_pictures_is_kept(self) -> None:
        kept = BytesIO()
        two = [Image.new("RGB", (4, 3), (shade, 9, 9)) for shade in (3, 200)]
        two[0].save(kept, "MPO", save_all=True, append_images=two[1:])
        self.assertEqual(Image.open(BytesIO(self.fetched(kept.getvalue()))).size, (4, 3))

    def test_nothing_is_kept_of_where_it_was_taken_and_whose_it_is(self) -> None:
        exif = Image.Exif()
        exif[0x013B] = "Ada Wren"  # who took it
        exif.get_ifd(0x8825)[2] = (51.0, 30.0, 0.0)  # where
        exif[0x0112] = 6  # on its side
        taken = photo(9, "JPEG", exif=exif)
        self.assertIn(b"Ada Wren", taken)
        kept = self.fetched(taken)
        self.assertNotIn(b"Ada Wren", kept)
        shown = Image.open(BytesIO(kept))
        self.assertEqual((dict(shown.getexif()), shown.size), ({}, (3, 4)))  # turned upright
        clip = box(b"ftyp", b"mp42") + box(
            b"moov", box(b"mvhd", bytes(8)), box(b"udta", box(b"\xa9xyz", b"+51.5-000.1/"))
        )
        kept = self.fetched(clip)
        self.assertEqual(len(kept), len(clip))
        self.assertNotIn(b"+51.5", kept)
        self.assertIn(b"mvhd", kept)
        frames = element("1F43B675", element("A3", b"\x81\x00\x00\x80frame"))
        inside = (
            element("1549A966", element("7BA9", b"Ada at the ford"), element("2AD7B1", b"\x0f")),
            frames,
            element("1254C367", element("7373", b"LOCATION +51.5-000.1" * 20)),
            element("1254C367", b"\x80"),
        )
        recorded = bytes.fromhex("1853806701FFFFFFFFFFFFFF") + b"".join(inside)  # without an end
        for segment in (element("18538067", *inside), recorded):
            clip = element("1A45DFA3", element("4282", b"webm")) + segment
            kept = self.fetched(clip)
            self.assertEqual(len(kept), len(clip))
            self.assertIn(frames, kept)
            self.assertIn(bytes.fromhex("2AD7B1810F"), kept)
            for told in (b"Ada", b"+51.5", bytes.fromhex("1254C367")):
                self.assertNotIn(told, kept)
