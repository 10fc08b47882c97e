"""Photographs: kept once, upright, small enough, and without what a telephone writes into them."""

import io
import pathlib
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from tests import examples
from uphill_spark.core.errors import PhotoError
from uphill_spark.formats import photo

#: EXIF tags: orientation, maker, and the position directory with latitude.
ORIENTATION, MAKE, POSITION, LATITUDE = 0x0112, 0x010F, 0x8825, 2


def picture(width: int = 640, height: int = 480, kind: str = "JPEG", **more: object) -> bytes:
    """A picture with a bright corner at the top left, so that which way is up can be told."""
    image = Image.new("RGB", (width, height), (40, 60, 50))
    image.paste((240, 230, 200), (0, 0, width // 4, height // 4))
    out = io.BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


def telephone(orientation: int = 1) -> bytes:
    """As a telephone writes it: turned by a tag, with maker and position."""
    exif = Image.Exif()
    exif[ORIENTATION], exif[MAKE] = orientation, "a maker"
    exif.get_ifd(POSITION)[LATITUDE] = (51.0, 28.0, 40.0)
    return picture(exif=exif)


class Kept(unittest.TestCase):
    def test_position_and_maker_are_gone(self) -> None:
        raw = telephone()
        self.assertTrue(Image.open(io.BytesIO(raw)).getexif().get_ifd(POSITION))
        for data in (photo.read(raw).data, photo.read(raw).small):
            with Image.open(io.BytesIO(data)) as kept:
                self.assertEqual((dict(kept.getexif()), "exif" in kept.info, "xmp" in kept.info), ({}, False, False))
            self.assertNotIn(b"a maker", data)

    def test_heic_is_read_and_kept_as_jpeg_without_its_notes(self) -> None:
        raw = (pathlib.Path(__file__).parent / "telephone.heic").read_bytes()
        self.assertIn(b"a maker", raw)
        found = photo.read(raw)
        self.assertEqual((found.media_type, found.width, found.height), ("image/jpeg", 64, 48))
        self.assertNotIn(b"a maker", found.data)
        with Image.open(io.BytesIO(found.data)) as kept:
            self.assertGreater(kept.convert("L").getpixel((4, 4)), kept.convert("L").getpixel((60, 44)) + 100)

    def test_what_was_turned_by_a_tag_stands_upright(self) -> None:
        turned = photo.read(telephone(orientation=6))
        self.assertEqual((turned.width, turned.height), (480, 640))
        with Image.open(io.BytesIO(turned.data)) as kept:
            self.assertGreater(kept.convert("L").getpixel((470, 10)), 150)  # the bright corner is at the top right now
            self.assertLess(kept.convert("L").getpixel((10, 10)), 100)

    def test_the_same_picture_has_the_same_key_and_another_has_another(self) -> None:
        self.assertEqual(photo.read(telephone()).key, photo.read(picture()).key)
        self.assertNotEqual(photo.read(picture()).key, photo.read(picture(641)).key)

    def test_large_ones_are_kept_smaller_and_small_ones_as_they_are(self) -> None:
        large, little = photo.read(picture(5000, 3000)), photo.read(picture(200, 100))
        self.assertEqual((large.width, large.height), (2400, 1440))
        self.assertEqual((little.width, little.height), (200, 100))
        with Image.open(io.BytesIO(large.small)) as small:
            self.assertEqual(max(small.size), 360)

    def test_a_drawing_stays_png_on_white_paper(self) -> None:
        image = Image.new("RGBA", (300, 200), (0, 0, 0, 0))
        image.paste((200, 20, 20, 255), (100, 50, 200, 150))
        out = io.BytesIO()
        image.save(out, "PNG")
        found = photo.read(out.getvalue())
        self.assertEqual(found.media_type, "image/png")
        with Image.open(io.BytesIO(found.data)) as kept:
            self.assertEqual((kept.mode, kept.getpixel((5, 5))), ("RGB", (255, 255, 255)))

    def test_a_photograph_that_came_as_png_is_kept_as_jpeg(self) -> None:
        noise = Image.effect_noise((400, 300), 90).convert("RGB")
        out = io.BytesIO()
        noise.save(out, "PNG")
        self.assertEqual(photo.read(out.getvalue()).media_type, "image/jpeg")


class Refused(unittest.TestCase):
    def test_each_says_what_it_is_and_what_would_do(self) -> None:
        gif = io.BytesIO()
        Image.new("RGB", (20, 20)).save(gif, "GIF")
        for data, message, given_as in (
            (b"", "empty", "0 bytes"),
            (b"just a note, named .jpg\n", "not a photograph", "a text file"),
            (b"%PDF-1.7 and so on", "not a photograph", "a PDF"),
            (gif.getvalue(), "not a photograph", "a picture of another kind"),
            (bytes(range(256)) * 4, "not a photograph", "bytes of an unknown kind"),
            (picture(2000, 1500)[:3000], "damaged", "3000 bytes"),
            (b"\xff" * (photo.LARGEST + 1), "too large", "24 MB"),
        ):
            with self.subTest(message + given_as), self.assertRaises(PhotoError) as caught:
                photo.read(data)
            problem = caught.exception.problems[0]
            self.assertIn(message, caught.exception.message)
            self.assertEqual((problem.at, problem.given), ("/photo", given_as))
            self.assertIn("JPEG, PNG or HEIC", problem.wants)

    def test_too_many_pixels_in_few_bytes(self) -> None:
        out = io.BytesIO()
        Image.new("1", (12000, 8000)).save(out, "PNG")
        self.assertLess(len(out.getvalue()), 200_000)
        with self.assertRaises(PhotoError) as caught:
            photo.read(out.getvalue())
        self.assertIn("12000 by 8000", caught.exception.problems[0].given)

    @settings(max_examples=examples(120), deadline=None)
    @given(st.binary(max_size=400), st.integers(0, 1200), st.integers(0, 255))
    def test_any_bytes_are_a_photograph_or_refused_by_name(self, junk: bytes, cut: int, byte: int) -> None:
        whole = picture(64, 48)
        for data in (junk, whole[: cut % len(whole)] + junk, whole[: cut % len(whole)] + bytes([byte]) + whole[cut % len(whole) + 1 :]):
            try:
                found = photo.read(data)
            except PhotoError as error:
                self.assertTrue(error.problems)
            else:
                self.assertGreater(found.width, 0)


if __name__ == "__main__":
    unittest.main()
