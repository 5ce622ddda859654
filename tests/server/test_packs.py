"""Packs of parts: read, shown with where they come from, refused with a sentence; two of one name are asked about."""

import json
import re

import pytest
from fastapi.testclient import TestClient
from typer.testing import CliRunner

from builders import CELL, CHARGER
from pocketspark.cli import app as cli
from pocketspark.parts import UnreadablePack, library, packs_in, read_pack
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

BOARD = {"name": "Club board", "outline_mm": [25, 17, 4], "charger": CHARGER}
PACK = {
    "format": "pocket-spark-pack/1",
    "name": "club-boards",
    "title": "Boards of the club",
    "version": "1.2",
    "origin": "measured at the club, 12 of each",
    "licence": "public domain",
    "parts": [
        {"id": "club-1a", "kind": "charger", "board": BOARD, "measured": "K of twelve, bench meter"},
        {"id": "club-pouch", "kind": "cell", "cell": CELL | {"name": "Club pouch"}},
    ],
}


@pytest.fixture
def client(tmp_path):
    """A server whose folder of packs holds what is asked for."""

    def start(**packs):
        (tmp_path / "packs").mkdir(exist_ok=True)
        for name, pack in packs.items():
            text = pack if isinstance(pack, bytes) else json.dumps(pack).encode()
            (tmp_path / "packs" / f"{name}.json").write_bytes(text)
        return TestClient(create_app(Settings(data=tmp_path, demo=False)))

    return start


def test_its_parts_stand_behind_those_that_are_shipped_with_the_packs_name(client):
    shipped = len(library().parts)
    with client(club=PACK) as server:
        parts = server.get("/api/parts").json()
        assert len(parts) == shipped + 2
        mine = {part["id"]: part for part in parts if part["pack"]}
        assert {part["pack"] for part in mine.values()} == {"club-boards"}
        assert mine["club-boards/club-1a"]["board"]["name"] == "Club board"
        [listed] = server.get("/api/packs").json()
        assert (listed["title"], listed["version"], listed["parts"], listed["why_not"]) == (
            "Boards of the club", "1.2", 2, "",
        )  # fmt: skip
    assert [part["pack"] for part in parts[:shipped]] == [""] * shipped


def test_two_servers_do_not_share_their_packs(client, tmp_path):
    with client(club=PACK) as server, TestClient(create_app(Settings(data=tmp_path / "other", demo=False))) as other:
        packs = [{part["pack"] for part in each.get("/api/parts").json()} for each in (server, other)]
        assert packs == [{"", "club-boards"}, {""}]
    assert not any("/" in part.id for part in library().parts)


def test_of_two_packs_of_one_name_neither_is_used_and_both_are_told(client):
    with client(one=PACK, two=PACK | {"version": "2.0"}, other=PACK | {"name": "others"}) as server:
        listed = {one["file"]: one for one in server.get("/api/packs").json()}
        assert "another pack" in listed["one.json"]["why_not"]
        assert "another pack" in listed["two.json"]["why_not"]
        assert listed["other.json"]["why_not"] == ""
        assert {part["pack"] for part in server.get("/api/parts").json()} == {"", "others"}


def changed(**parts):
    return PACK | parts


PART = PACK["parts"][0]
HOSTILE = {
    "no JSON": b"{",
    "a list": b"[]",
    "deep": b"[" * 100_000,
    "another format": changed(format="pocket-spark/2"),
    "no parts": changed(parts=[]),
    "too many parts": changed(parts=[PART | {"id": f"p{n}"} for n in range(501)]),
    "two of one id": changed(parts=[PART, PART]),
    "a name with a path in it": changed(name="../../etc/passwd"),
    "an id with a slash": changed(parts=[PART | {"id": "a/b"}]),
    "a charger that is none": changed(parts=[PART | {"board": {"name": "x"}}]),
    "a cell and a board": changed(parts=[PART | {"cell": CELL}]),
    "a version in words": changed(version="new"),
    "volts of 1e9": changed(parts=[PART | {"board": BOARD | {"charger": CHARGER | {"float_v": 1e9}}}]),
    "unknown keys": changed(extra=1),
    "over two megabytes": b'{"format": "pocket-spark-pack/1", "x": "' + b"a" * 2_100_000 + b'"}',
}


@pytest.mark.parametrize("what", HOSTILE)
def test_hostile_packs_are_one_sentence_and_change_nothing(client, what):
    text = HOSTILE[what] if isinstance(HOSTILE[what], bytes) else json.dumps(HOSTILE[what]).encode()
    with pytest.raises(UnreadablePack) as refused:
        read_pack(text)
    assert len(str(refused.value)) < 300
    with client(bad=text, club=PACK) as server:
        listed = {one["file"]: one for one in server.get("/api/packs").json()}
        assert listed["bad.json"]["why_not"]
        assert listed["club.json"]["parts"] == 2  # the sound one is used all the same


def test_what_others_call_their_own_stays_theirs():
    pack = read_pack(json.dumps(changed(parts=[PART | {"board": BOARD | {"inventory_id": 3}}])).encode())
    assert [part.board.inventory_id for part in pack.as_library] == [None]
    odd = read_pack(json.dumps(changed(title="Boards\x00\x1b[31m")).encode())
    assert not re.search(r"[\x00-\x1f]", odd.title)


def test_no_folder_is_no_pack(tmp_path):
    assert packs_in(tmp_path / "nowhere") == []


def test_the_command_says_what_is_in_it_and_what_is_wrong(tmp_path):
    good, bad = tmp_path / "good.json", tmp_path / "bad.json"
    good.write_text(json.dumps(PACK))
    bad.write_text("{")
    said = CliRunner().invoke(cli, ["pack", "check", str(good)])
    assert said.exit_code == 0
    assert "Boards of the club 1.2" in said.output
    assert "1  charger" in said.output
    refused = CliRunner().invoke(cli, ["pack", "check", str(bad)])
    assert refused.exit_code != 0
    assert "not JSON" in refused.output
    assert CliRunner().invoke(cli, ["pack", "check", str(tmp_path / "nowhere")]).exit_code != 0
