"""How far predictions were off, by its routes: proven builds count, practice and unfinished ones do not."""

from fastapi.testclient import TestClient

from builders import plan
from core.test_verdict import proven
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings


def test_what_was_measured_to_its_end_counts(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=False))) as client:
        assert client.get("/api/accuracy").json()["kinds"] == []
        for project in (proven(), proven(), plan(), proven().with_build_copied(0, "again", practice=True)):
            assert client.post("/api/projects", json=project.model_dump(mode="json")).status_code == 201
        client.get("/api/projects")  # the shelf has judged them
        seen = client.get("/api/accuracy").json()
        assert seen["builds"] == 3
        assert not seen["enough"]
        assert "charge current" in [kind["what"] for kind in seen["kinds"]]
        file = client.get("/api/accuracy/errors.csv").text
        assert file.splitlines()[0] == "kind,gadget,planned,measured,off"
        assert len(file.splitlines()) == 1 + sum(kind["count"] for kind in seen["kinds"])
