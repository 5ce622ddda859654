"""What goes wrong inside is answered with a sentence, and stands in a log that can be sent along; no document does."""

import logging
import re

import pytest
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.server import question_routes
from pocketspark.server.app import create_app
from pocketspark.server.own_log import NAME, log_into, logger
from pocketspark.server.settings import Settings


@pytest.fixture
def log(tmp_path):
    yield log_into(tmp_path)
    for handler in list(logger.handlers):
        logger.removeHandler(handler)
        handler.close()


def test_a_fault_of_ours_is_a_sentence_and_a_line_in_the_log(tmp_path, log, monkeypatch):
    def broken(*_):
        raise ZeroDivisionError("by hand")

    monkeypatch.setattr(question_routes, "assess", broken)
    with TestClient(create_app(Settings(data=tmp_path / "data")), raise_server_exceptions=False) as client:
        document = plan(gadget={"name": "A secret thing"}).model_dump(mode="json")
        answer = client.post("/api/questions/assess", json={"document": document})
    assert answer.status_code == 500
    assert NAME in answer.json()["detail"]
    text = log.read_text()
    assert re.search(r"fault (\w+): POST /api/questions/assess", text)[1] in answer.json()["detail"]
    assert "ZeroDivisionError: by hand" in text
    assert "A secret thing" not in text


def test_the_log_does_not_grow_for_ever(log):
    for _ in range(40):
        logger.log(logging.INFO, "x" * 60_000)
    assert sum(file.stat().st_size for file in log.parent.glob(f"{NAME}*")) < 2_200_000
