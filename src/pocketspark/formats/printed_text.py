"""What is printed on a thing in a photograph, read on this machine: the recogniser ships its own models."""

import io
import threading
from functools import cache
from typing import Any

# A line that is less sure than this is a guess at a scratch (our judgement, by drawn labels).
LEAST_SURE = 0.6
# Larger, a picture takes longer and is read no better.
READ_PX = 1280
_ONE_AT_A_TIME = threading.Lock()


def printed_text(jpeg: bytes) -> list[str]:
    """The lines that are read in a kept picture, from top to bottom."""
    import numpy as np
    from PIL import Image

    with Image.open(io.BytesIO(jpeg)) as opened:
        picture = opened.convert("RGB")
    picture.thumbnail((READ_PX, READ_PX))
    with _ONE_AT_A_TIME:
        found = _recogniser()(np.asarray(picture)[..., ::-1])
    return [str(line) for line, sure in zip(found.txts or (), found.scores or (), strict=True) if sure >= LEAST_SURE]


@cache
def _recogniser() -> Any:
    """Loaded when it is first needed: it takes a second, and as much memory as all the rest."""
    from rapidocr import RapidOCR

    return RapidOCR(params={"Global.log_level": "critical"})
