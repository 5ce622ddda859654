"""A conversion and its photographs in one zip: out and in again, on another shelf; and zips that are refused."""

import io
import json
import zipfile

import pytest
from PIL import Image

from builders import plan
from pocketspark.formats import project_zip
from pocketspark.formats.project_json import UnreadableProject

MARKS = {"remarks": [{"at": {"x": 0.25, "y": 0.5}, "text": "red wire to the spring"}]}


def jpeg(colour, size=(64, 48)):
    out = io.BytesIO()
    Image.new("RGB", size, colour).save(out, "JPEG", quality=95)
    return out.getvalue()


@pytest.fixture
def photographed(client):
    """A conversion with two photographs: one of a step, one of a line in the logbook."""
    # Another conversion's photograph first, so that ids differ between shelves.
    other = client.post("/api/projects", json=plan().model_dump(mode="json")).json()["id"]
    client.post(f"/api/projects/{other}/photos", content=jpeg("white"))
    kept = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
    at = f"/api/projects/{kept['id']}"
    red, blue = (
        client.post(f"{at}/photos?caption={name}", content=jpeg(name)).json()["id"] for name in ("red", "blue")
    )
    client.put(f"{at}/photos/{red}", json={"caption": "red", "marks": MARKS})
    project = kept["project"]
    project["builds"][0]["record"] = {"steps": [{"step": "photograph", "done": True, "photo_ids": [red]}]}
    project["logbook"] = [{"at": "2026-11-25", "text": "as found", "photo_id": blue}]
    client.put(at, json={"revision": kept["revision"], "document": project})
    return at


def changed(data, **files):
    """The zip with some of its files replaced; None takes one out."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        for name in old.namelist():
            content = files.get(name.replace(".", "_").replace("/", "_"), old.read(name))
            if content is not None:
                new.writestr(name, content)
    return out.getvalue()


def colour_of(client, at, photo):
    picture = Image.open(io.BytesIO(client.get(f"{at}/photos/{photo}/picture").content))
    red, _, blue = picture.convert("RGB").getpixel((30, 20))
    return "red" if red > blue else "blue"


def test_what_goes_out_comes_in_again_with_its_photographs(client, photographed):
    answer = client.get(f"{photographed}/export.zip")
    assert answer.headers["content-disposition"] == 'attachment; filename="moth-trap-lamp.spark.zip"'
    assert zipfile.ZipFile(io.BytesIO(answer.content)).testzip() is None
    taken = client.post("/api/projects/import", content=answer.content)
    assert taken.status_code == 201, taken.text
    at, project = f"/api/projects/{taken.json()['id']}", taken.json()["project"]
    (of_step,) = project["builds"][0]["record"]["steps"][0]["photo_ids"]
    of_line = project["logbook"][0]["photo_id"]
    assert (colour_of(client, at, of_step), colour_of(client, at, of_line)) == ("red", "blue")
    photos = {photo["id"]: photo for photo in client.get(f"{at}/photos").json()}
    assert photos.keys() == {of_step, of_line}
    assert photos[of_step]["marks"]["remarks"][0]["text"] == "red wire to the spring"
    assert not taken.json()["can_undo"]  # one state, not an import and a mending of it


def test_any_zip_program_can_read_it(client, photographed):
    with zipfile.ZipFile(io.BytesIO(client.get(f"{photographed}/export.zip").content)) as packed:
        assert json.loads(packed.read("project.spark.json"))["format"] == "pocket-spark/2"
        lines = json.loads(packed.read("photographs.json"))
        assert [line["caption"] for line in lines] == ["red", "blue"]
        assert all(packed.read(f"photographs/{line['id']}.jpg").startswith(b"\xff\xd8") for line in lines)


def test_the_json_alone_leads_to_no_photograph_of_another(client, photographed):
    taken = client.post("/api/projects/import", content=client.get(f"{photographed}/export").content).json()
    assert taken["project"]["builds"][0]["record"]["steps"][0]["photo_ids"] == []
    assert taken["project"]["logbook"][0]["photo_id"] is None
    assert taken["project"]["logbook"][0]["text"] == "as found"


BROKEN = {
    "no project": ({"project_spark_json": None}, "no project.spark.json in the zip"),
    "no index": ({"photographs_json": None}, "no photographs.json in the zip"),
    "an index that is none": ({"photographs_json": b'{"id": 1}'}, "not the list of photographs"),
    "the same twice": ({"photographs_json": b'[{"id": 2, "caption": "a"}, {"id": 2, "caption": "b"}]'}, "same id"),
    "one that is not there": ({"photographs_json": b'[{"id": 77, "caption": "a"}]'}, "no photographs/77.jpg"),
    "a climb out of the folder": ({"photographs_json": b'[{"id": "../x", "caption": "a"}]'}, "not the list"),
    "a project that is none": ({"project_spark_json": b"{}"}, "pocket-spark/2"),
    "a picture that is none": ({"photographs_2_jpg": b"GIF89a"}, "no JPEG, PNG or WebP"),
    "too many": (
        {"photographs_json": json.dumps([{"id": i, "caption": "a"} for i in range(61)]).encode()},
        "61 photographs in one file",
    ),
}


@pytest.mark.parametrize("case", BROKEN)
def test_a_zip_that_is_not_right_is_told_why_and_leaves_the_shelf_alone(client, photographed, case):
    files, says = BROKEN[case]
    before = client.get("/api/projects").json()
    sound = client.get(f"{photographed}/export.zip").content
    refused = client.post("/api/projects/import", content=changed(sound, **files))
    assert refused.status_code == 422
    assert says in refused.json()["detail"]
    assert client.get("/api/projects").json() == before


def test_a_small_zip_that_unpacks_to_a_lot_is_refused_before_it_does():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr("project.spark.json", b" " * 30_000_000)
    assert len(out.getvalue()) < 100_000
    with pytest.raises(UnreadableProject, match="over 1 MB"):
        project_zip.loads(out.getvalue())


def test_a_damaged_zip_is_told(client, photographed):
    data = client.get(f"{photographed}/export.zip").content
    refused = client.post("/api/projects/import", content=data[: len(data) // 2])
    assert (refused.status_code, "the zip is damaged" in refused.json()["detail"]) == (422, True)
