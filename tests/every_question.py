"""Every question of the API about one build, as its own description lists them."""

import tempfile
from pathlib import Path

from pocketspark.formats.exports import EXPORTS
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

# More that a question's body needs beside the document.
MORE = {
    "/api/questions/log": {"text": "time,volts,amps\n" + "\n".join(f"{i * 10},{3.6 + i / 100},0.4" for i in range(30))},
    "/api/questions/log-explained": {
        "text": "time,volts,amps\n" + "\n".join(f"{i * 60},{4.1 - i / 250},-0.2" for i in range(240))
    },
    "/api/questions/load": {"line": "18 mA for 2 s every minute, 60 uA asleep"},
    "/api/questions/load-log": {
        "text": "s,V,A\n" + "".join(f"{n},3.7,{0.02 if n % 60 < 5 else 1e-4}\n" for n in range(600))
    },
    "/api/questions/size-code": {"code": "503450"},
    "/api/questions/edited": {"edits": [{"path": "notes", "value": "x"}]},
    "/api/questions/step-reading": {"step": "resistor", "text": "3k"},
    "/api/questions/intake-reading": {"what": "rest", "volts": 3.7, "at": "2026-11-26T10:00Z"},
    "/api/instruments/build-test/of-step": {"step": "output"},
    "/api/questions/build-copied": {"build": "build1", "name": "Another"},
}
# What goes on in the background, or asks about several builds or none, has tests of its own.
APART = {
    "/api/questions/fit/sweep",
    "/api/questions/proposals",
    "/api/instruments/live",
    "/api/instruments/live/recorded",
    "/api/instruments/supply-sweep",
    "/api/instruments/build-test",
    "/api/questions/compare",
    "/api/questions/edited",
    "/api/questions/board-pads/in-photo",
    "/api/projects/{project_id}/photos/{photo_id}/parts",
    "/api/projects/{project_id}/photos/{photo_id}/traced",
    "/api/projects/{project_id}/photos/{photo_id}/traced-wall",
}
NAMES = {
    "{key}": list(EXPORTS),
    "{name}": ["lid", "box", "cradle", "dummy", "sleeve"],
    "{step}": ["resistor", "cell_volts", "nonsense"],
}


def asks_a_question(path, operation, schemas):
    body = operation.get("requestBody", {}).get("content", {}).get("application/json", {}).get("schema", {})
    shape = schemas.get(body.get("$ref", "").rsplit("/", 1)[-1], {})
    return path not in APART and "document" in shape.get("properties", {})


def questions():
    """Every route that takes a document, with its names filled in."""
    # A folder of its own: two processes that gather tests at once would meet in the usual one.
    with tempfile.TemporaryDirectory() as data:
        spec = create_app(Settings(data=Path(data), demo=False)).openapi()
    for path, methods in spec["paths"].items():
        if "post" in methods and asks_a_question(path, methods["post"], spec["components"]["schemas"]):
            place = next((place for place in NAMES if place in path), None)
            yield from (path.replace(place, name) for name in NAMES[place]) if place else (path,)


QUESTIONS = sorted(questions())
