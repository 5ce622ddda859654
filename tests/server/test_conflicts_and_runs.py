"""Two windows on one part or one photograph, and live runs that are too many, fail, or outlast their disk."""

import threading
import time

import pytest
from test_zip_files import jpeg

from builders import CELL, plan
from chances import dice
from pocketspark.instruments import Sample
from pocketspark.server.live_runs import MOST_AT_ONCE, LiveRuns, TooManyRuns
from pocketspark.store import LiveLogs
from pocketspark.store.database import open_database


def test_two_windows_on_one_part_of_the_inventory(client):
    part = client.post("/api/inventory", json={"kind": "cell", "body": CELL}).json()
    at = f"/api/inventory/{part['id']}"
    first = client.put(at, json={"kind": "cell", "body": CELL, "stock": 2, "revision": part["revision"]})
    assert (first.status_code, first.json()["revision"]) == (200, part["revision"] + 1)
    late = client.put(at, json={"kind": "cell", "body": CELL, "stock": 9, "revision": part["revision"]})
    assert (late.status_code, "another window" in late.json()["detail"]) == (409, True)
    assert client.get("/api/inventory").json()[0]["stock"] == 2
    again = client.put(at, json={"kind": "cell", "body": CELL, "stock": 9, "revision": first.json()["revision"]})
    assert again.json()["stock"] == 9


def test_two_windows_on_the_marks_of_one_photograph(client):
    kept = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
    photo = client.post(f"/api/projects/{kept['id']}/photos", content=jpeg("red")).json()
    at = f"/api/projects/{kept['id']}/photos/{photo['id']}"
    first = client.put(at, json={"caption": "mine", "marks": {}, "revision": photo["revision"]})
    late = client.put(at, json={"caption": "theirs", "marks": {}, "revision": photo["revision"]})
    assert (first.status_code, late.status_code) == (200, 409)
    turned = client.post(f"{at}/turn").json()
    assert turned["revision"] == first.json()["revision"] + 1
    assert turned["caption"] == "mine"


# Live runs -------------------------------------------------------------------------------------------------------


class Meter:
    """An instrument that gives so many samples, then what it is told to."""

    name = "a meter"
    simulated, remarks = True, ()

    def __init__(self, samples=3, then=None, until=None):
        self.count, self.then, self.until = samples, then, until

    def samples(self, stop):
        for number in range(self.count):
            yield Sample(float(number), 3.7, 0.4, None)
        if self.until:
            while not (self.until.is_set() or stop.is_set()):
                time.sleep(0.01)
        if self.then:
            raise self.then


@pytest.fixture
def runs(tmp_path):
    runs = LiveRuns(LiveLogs(open_database(tmp_path)))
    yield runs
    runs.stop_all()


def ended(runs, run):
    for _ in range(400):
        if run.finished:
            return runs.get(run.id)
        time.sleep(0.01)
    raise AssertionError("it goes on")


def test_an_instrument_that_fails_ends_its_run_with_the_reason_and_what_came_is_kept(runs):
    kept = ended(runs, runs.start(Meter(3, then=OSError("the cable was pulled")), None))
    assert len(kept.samples) == 3
    assert "the cable was pulled" in kept.failure
    kept = ended(runs, runs.start(Meter(2, then=ValueError("garbage")), None))
    assert (len(kept.samples), "garbage" in kept.failure) == (2, True)


def test_a_full_disk_ends_the_run_with_its_reason(runs, monkeypatch):
    full = OSError(28, "No space left on device")

    def refuses(*_):
        raise full

    monkeypatch.setattr(runs._logs, "append", refuses)
    run = runs.start(Meter(3), None)
    for _ in range(400):
        if run.finished:
            break
        time.sleep(0.01)
    assert "no room left" in run.failure
    assert run.samples == []  # what is shown is stored: nothing was


def test_more_than_so_many_are_refused_and_none_of_those_that_go_on_is_dropped(runs):
    until = threading.Event()
    going = [runs.start(Meter(1, until=until), None) for _ in range(MOST_AT_ONCE)]
    with pytest.raises(TooManyRuns, match="stop one of them first"):
        runs.start(Meter(), None)
    until.set()
    assert all(len(ended(runs, run).samples) == 1 for run in going)
    assert ended(runs, runs.start(Meter(2), None)).samples


def test_two_devices_on_one_conversion_lose_nothing(client):
    kept = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
    at, document = f"/api/projects/{kept['id']}", kept["project"]

    def save(**changed):
        return client.put(at, json={"revision": kept["revision"], "document": document | changed})

    mine, theirs = save(notes="at the bench"), save(tags=["from the phone"])
    assert (mine.status_code, theirs.status_code) == (200, 200)
    now = client.get(at).json()
    assert (now["project"]["notes"], now["project"]["tags"]) == ("at the bench", ["from the phone"])
    assert client.get(f"{at}/revision").json()["revision"] == now["revision"]
    # Who went on typing before the answer came has nothing of the other's on screen, and takes nothing of it away.
    going_on = {"revision": theirs.json()["merged_from"], "document": document | {"tags": ["from the phone", "lamp"]}}
    assert client.put(at, json=going_on).json()["project"]["notes"] == "at the bench"
    assert client.get(at).json()["project"]["tags"] == ["from the phone", "lamp"]
    # The same figure, each its own way: nobody is overruled.
    late = save(notes="on the sofa")
    assert (late.status_code, "another window" in late.json()["detail"]) == (409, True)
    assert client.get(at).json()["project"]["notes"] == "at the bench"


class Device:
    """A page as the front end keeps it: a document on screen, the revision it began from, and a save on its way."""

    def __init__(self, client, at):
        self.client, self.at = client, at
        kept = client.get(at).json()
        self.base, self.screen, self.sent = kept["revision"], kept["project"], None

    def type(self, key, text):
        self.screen = self.screen | {key: text}

    def send(self):
        self.sent = self.screen
        answer = self.client.put(self.at, json={"revision": self.base, "document": self.screen})
        assert answer.status_code == 200, answer.json()
        self.answer = answer.json()

    def hear(self):
        """The answer comes; who has typed meanwhile keeps what is on screen."""
        if self.sent is self.screen:
            self.base, self.screen = self.answer["revision"], self.answer["project"]
        else:
            self.base = self.answer["merged_from"] or self.answer["revision"]
        self.sent = None


@pytest.mark.parametrize("seed", range(12))
def test_two_devices_that_type_at_once_lose_not_a_word(client, seed):
    chance = dice(seed)
    kept = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
    at = f"/api/projects/{kept['id']}"
    devices = {"notes": Device(client, at), "gadget name": Device(client, at)}
    said = {}
    for number in range(30):
        key, device = chance.choice(list(devices.items()))
        said[key] = f"{key} {number}"
        if key == "notes":
            device.type("notes", said[key])
        else:
            device.type("gadget", device.screen["gadget"] | {"name": said[key]})
        for other in devices.values():
            if chance.random() < 0.5:
                other.hear() if other.sent is not None else other.send()
    for device in (*devices.values(), *devices.values()):
        if device.sent is not None:
            device.hear()
        device.send()
        device.hear()
    now = client.get(at).json()["project"]
    assert (now["notes"], now["gadget"]["name"]) == (said["notes"], said["gadget name"])
