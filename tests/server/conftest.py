"""One server on an empty shelf for every test."""

import shutil

import pytest
from fastapi.testclient import TestClient

from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from pocketspark.store.database import FILE_NAME, close_database, open_database


@pytest.fixture(scope="session")
def empty_database(tmp_path_factory):
    """Made once by all migrations, as they run at a first start."""
    folder = tmp_path_factory.mktemp("empty")
    close_database(open_database(folder))
    return folder / FILE_NAME


@pytest.fixture
def client(tmp_path, empty_database):
    (tmp_path / "data").mkdir()
    shutil.copy(empty_database, tmp_path / "data")
    web = tmp_path / "web"
    (web / "assets").mkdir(parents=True)
    (web / "index.html").write_text("<title>Pocket Spark</title>")
    (tmp_path / "secret.txt").write_text("not yours")
    with TestClient(create_app(Settings(data=tmp_path / "data", web=web))) as client:
        client.app.state.shelf_lines.patience_s = 60  # lines of the shelf are looked at right after a save
        yield client
