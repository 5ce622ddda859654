"""One server on an empty shelf for every test."""

import pytest
from fastapi.testclient import TestClient

from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings


@pytest.fixture
def client(tmp_path):
    web = tmp_path / "web"
    (web / "assets").mkdir(parents=True)
    (web / "index.html").write_text("<title>Pocket Spark</title>")
    (tmp_path / "secret.txt").write_text("not yours")
    with TestClient(create_app(Settings(data=tmp_path / "data", web=web))) as client:
        client.app.state.shelf_lines.patience_s = 60  # lines of the shelf are looked at right after a save
        yield client
