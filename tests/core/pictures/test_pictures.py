"""Pictures of the bed: marks of known places take the perspective away."""

import io

import numpy as np
import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from leannotch_core.drawings.apart import apart
from leannotch_core.drawings.bounds import Bounds
from leannotch_core.pictures.marks import BadMarks, Mark, laid_flat, through, to_scale
from leannotch_core.pictures.picture import NotAPicture, as_jpeg, flattened, kept_apart, read_picture
from PIL import Image, ImageDraw

CORNERS = [0j, 600 + 0j, 600 + 400j, 400j]
shifts = st.builds(complex, st.integers(-90, 90), st.integers(-90, 90))


@given(st.lists(shifts, min_size=4, max_size=4), st.builds(complex, st.integers(0, 600), st.integers(0, 400)))
def test_four_marks_take_every_place_of_the_bed_to_where_it_is(moved, place):
    """A pinhole camera's picture of a plane is a projective map: the four marks give back just that map."""
    seen = [200 + 1.5 * corner.conjugate() + 700j + shift for corner, shift in zip(CORNERS, moved, strict=True)]
    camera = np.linalg.inv(laid_flat([Mark(a, b) for a, b in zip(seen, CORNERS, strict=True)]))
    # What the camera sees of four other places determines the same map.
    others = [60 + 50j, 520 + 40j, 560 + 350j, 30 + 310j]
    assume(all(abs(through(camera, other)) < 1e5 for other in [*others, place]))
    again = laid_flat([Mark(through(camera, other), other) for other in others])
    assert through(again, through(camera, place)) == pytest.approx(place, abs=1e-4)


@pytest.mark.parametrize(
    ("marks", "says"),
    [
        ([Mark(0j, 0j)] * 3, "3 marks are set; four take the perspective away"),
        (
            [Mark(complex(10 * n, 10 * n), corner) for n, corner in enumerate(CORNERS)],
            "Marks 1, 2, 3 lie on one line in",
        ),
        ([Mark(corner, complex(n, 0)) for n, corner in enumerate(CORNERS)], "Marks 1, 2, 3 lie on one line on the bed"),
    ],
)
def test_marks_that_say_nothing_are_refused(marks, says):
    with pytest.raises(BadMarks, match=says):
        laid_flat(marks)


def test_two_points_of_known_distance_set_the_scale():
    matrix = to_scale(100 + 500j, 300 + 500j, 80, 600)
    assert through(matrix, 600j) == 0 and through(matrix, 100 + 500j) == pytest.approx(40 + 40j)
    with pytest.raises(BadMarks, match="A distance of 0 mm sets no scale"):
        to_scale(0j, 10 + 0j, 0, 100)


def test_a_photograph_of_the_bed_is_flat_again():
    """A black square of 100 mm in a corner of the bed, seen from aside, comes out as a square of 100 mm."""
    bed = Image.new("L", (600, 400), 255)
    ImageDraw.Draw(bed).rectangle((50, 200, 150, 300), fill=0)
    seen = [130 + 640j, 950 + 700j, 860 + 60j, 110 + 40j]
    photo_of = laid_flat([Mark(complex(c.real, 400 - c.imag), s) for c, s in zip(CORNERS, seen, strict=True)])
    back = np.linalg.inv(photo_of)
    coefficients = (back / back[2, 2]).ravel()[:8]
    photo = bed.transform(
        (1000, 760), Image.Transform.PERSPECTIVE, tuple(coefficients), Image.Resampling.BICUBIC, fillcolor=255
    )
    kept = read_picture(as_jpeg(photo.convert("RGB")))
    flat = flattened(kept, laid_flat([Mark(s, c) for s, c in zip(seen, CORNERS, strict=True)]), 600, 400)
    dark = np.asarray(Image.open(io.BytesIO(flat.data)).convert("L")) < 100
    scale = (flat.right - flat.left) / dark.shape[1]
    rows, columns = np.flatnonzero(dark.sum(axis=1) * scale > 60), np.flatnonzero(dark.sum(axis=0) * scale > 60)
    left, right = flat.left + columns[0] * scale, flat.left + columns[-1] * scale
    top, bottom = flat.top - rows[0] * scale, flat.top - rows[-1] * scale
    assert (left, right, bottom, top) == pytest.approx((50, 150, 100, 200), abs=1.5)


@pytest.mark.parametrize("data", [b"", b"GIF89a", b"\x89PNG\r\n\x1a\n" + b"x" * 50, b"\xff\xd8\xff" + b"0" * 100])
def test_what_is_no_picture_is_refused(data):
    with pytest.raises(NotAPicture, match="no PNG or JPEG that can be read"):
        read_picture(data)


def test_a_picture_that_is_huge_is_refused_before_it_is_unpacked():
    written = io.BytesIO()
    Image.new("1", (9000, 9000)).save(written, "PNG")
    with pytest.raises(NotAPicture, match="81 million pixels; at most 60 million are read"):
        read_picture(written.getvalue())


@pytest.mark.parametrize("kind", ["JPEG", "PNG"])
def test_a_small_file_of_a_large_picture_takes_little_memory(kind):
    written = io.BytesIO()
    Image.new("L", (7600, 7800), 90).save(written, kind)
    assert len(written.getvalue()) < 800_000
    # Unpacked whole a JPEG of this size takes 240 MB, besides what it takes to load what unpacks it.
    kept = apart(kept_apart, written.getvalue(), bounds=Bounds(seconds=8, megabytes=500 if kind == "PNG" else 230))
    assert (kept["width"], kept["height"]) == (2338, 2400)


def test_a_picture_is_upright_as_its_camera_was_held():
    lying = Image.new("RGB", (400, 200), "white")
    lying.paste("black", (0, 0, 100, 200))
    exif = Image.Exif()
    # TIFF 6.0, orientation: 6 is the row 0 at the right.
    exif[0x0112] = 6
    written = io.BytesIO()
    lying.save(written, "JPEG", exif=exif)
    upright = read_picture(written.getvalue())
    assert upright.size == (200, 400)
    dark, light = (upright.getpixel((100, y))[0] for y in (50, 350))
    assert dark < 30 and light > 200
