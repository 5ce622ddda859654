"""Labels of cells read off pictures that are drawn here: print in two sizes, askew, not quite sharp, noisy.

What is printed is as cells carry it (common practice, no source); what the codes mean is tested in core/test_cells.py.
"""

import io

import numpy as np
import pytest
from PIL import Image, ImageDraw, ImageFilter, ImageFont

from chances import same_dice
from pocketspark.core.cells.printed_label import read_label
from pocketspark.formats.photograph import read_picture
from pocketspark.formats.printed_text import printed_text

LABELS = {
    ("503450", "3.7V 900mAh"): ("pouch", (5.0, 34.0, 50.0), 0.9, "li_4v20"),
    ("LP 402535", "3.7V 320mAh 1.18Wh"): ("pouch", (4.0, 25.0, 35.0), 0.32, "li_4v20"),
    ("18650", "2600mAh 3.7V"): ("round", (18.0, 65.0), 2.6, "li_4v20"),
    ("14500 LiFePO4", "3.2V 600mAh"): ("round", (14.0, 50.0), 0.6, "lfp"),
}


def photograph_of(lines, turn):
    chance = same_dice(" ".join((*lines, str(turn))))
    picture = Image.new("L", (1000, 700), int(chance.uniform(160, 235)))
    for row, line in enumerate(lines):
        font = ImageFont.load_default(size=chance.uniform(40, 60))
        ImageDraw.Draw(picture).text((150, 230 + 90 * row), line, font=font, fill=int(chance.uniform(10, 60)))
    picture = picture.rotate(chance.uniform(-10, 10) + turn, fillcolor=120, expand=True)
    picture = picture.filter(ImageFilter.GaussianBlur(chance.uniform(0.5, 1.3)))
    grain = np.random.default_rng(chance.randrange(2**32)).normal(0, 5, (picture.height, picture.width))
    out = io.BytesIO()
    Image.fromarray(np.clip(np.asarray(picture) + grain, 0, 255).astype(np.uint8)).save(out, "JPEG", quality=85)
    return out.getvalue()


@pytest.mark.parametrize("lines", LABELS)
def test_size_volts_and_capacity_of_a_label(lines):
    form, size_mm, printed_ah, cell_class = LABELS[lines]
    # Now and then a letter is misread: of an upright picture and of one turned aside, one has to be right.
    read = [read_label(printed_text(read_picture(photograph_of(lines, turn)).jpeg)) for turn in (0, 90)]
    readings = [reading for label in read for size in label.sizes for reading in size.readings]
    assert (form, size_mm, printed_ah, cell_class) in [
        (one.form, one.size_mm, one.printed_ah, one.cell_class) for one in readings
    ], read


def test_a_picture_without_print_says_nothing():
    out = io.BytesIO()
    Image.new("RGB", (800, 600), "tan").save(out, "JPEG")
    assert printed_text(read_picture(out.getvalue()).jpeg) == []


@pytest.mark.parametrize(
    ("lines", "codes"),
    [
        # By hand: figures that belong to volts, capacity, energy or a date are no size.
        (("3.7V 900mAh 3.33Wh", "503450"), ["503450 3.7V 900mAh"]),
        (("CE RoHS", "Li-Po 20240613"), []),
        (("INR18650-25R", "3.6V"), ["18650 3.6V"]),
        (("ICP9/35/48",), ["ICP9/35/48"]),
        (("102050 1000mAh", "503450"), ["102050 1000mAh", "503450 1000mAh"]),
        ((), []),
    ],
)
def test_codes_among_what_was_read(lines, codes):
    assert [size.code for size in read_label(lines).sizes] == codes
