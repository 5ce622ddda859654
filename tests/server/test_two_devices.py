"""Phones beside the computer: each undoes its own, one may only read, none shuts the others out, and one that is put
off hears nothing more."""

import asyncio
import hashlib
import socket
import ssl
import threading
import time
from concurrent.futures import ThreadPoolExecutor

import httpx
import pytest
import uvicorn
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.server import connection_limits
from pocketspark.server.app import create_app
from pocketspark.server.connection_limits import bounded_protocol
from pocketspark.server.live import _news
from pocketspark.server.pairing import MOST_TRIES, Pairing, TooManyTries, WrongCode
from pocketspark.server.settings import Settings
from pocketspark.server.tls_certificate import certificate_in, fingerprint_in_words

DOCUMENT = plan().model_dump(mode="json")


@pytest.fixture
def lan(tmp_path):
    """The computer itself, and a way to pair a phone of any address."""
    app = create_app(Settings(data=tmp_path / "data"))
    with TestClient(app) as here:
        app.state.pairing.address = "https://192.168.1.2:8432"

        def paired(name, address="192.168.1.77"):
            phone = TestClient(app, client=(address, 5000), base_url="https://testserver")
            code = here.get("/api/pairing").json()["code"]
            assert phone.post("/pair", data={"code": code, "name": name}, follow_redirects=False).status_code == 303
            return phone

        yield here, paired


class Page:
    """An open conversion on one device."""

    def __init__(self, client, project_id):
        self.client, self.at = client, f"/api/projects/{project_id}"
        self.look()

    def look(self):
        self.stored = self.client.get(self.at).json()
        return self.stored["project"]

    def save(self, **changed):
        body = {"revision": self.stored["revision"], "document": self.stored["project"] | changed}
        self.stored = self.client.put(self.at, json=body).raise_for_status().json()

    def step(self, which):
        self.look()
        answer = self.client.post(f"{self.at}/{which}", json={"revision": self.stored["revision"]})
        self.look()
        return answer


def said(page):
    project = page.look()
    return project["gadget"]["name"], project["notes"], project["tags"]


def test_each_device_undoes_its_own_and_nothing_of_the_others(lan):
    here, paired = lan
    kept = here.post("/api/projects", json=DOCUMENT).json()
    computer, phone = Page(here, kept["id"]), Page(paired("bench phone"), kept["id"])
    name = DOCUMENT["gadget"]["name"]
    computer.save(notes="of the computer")
    phone.look()
    phone.save(tags=["phone"])
    computer.step("undo").raise_for_status()
    assert said(computer) == (name, "", ["phone"])
    assert said(phone) == (name, "", ["phone"])
    computer.step("redo").raise_for_status()
    assert said(computer) == (name, "of the computer", ["phone"])
    phone.step("undo").raise_for_status()
    assert said(phone) == (name, "of the computer", [])


def test_undo_walks_back_over_several_of_ones_own(lan):
    here, paired = lan
    kept = here.post("/api/projects", json=DOCUMENT).json()
    computer, phone = Page(here, kept["id"]), Page(paired("bench phone"), kept["id"])
    for notes in ("first", "second", "third"):
        computer.look()
        computer.save(notes=notes)
        phone.look()
        phone.save(tags=[*phone.stored["project"]["tags"], notes])
    seen = []
    for _ in range(3):
        computer.step("undo").raise_for_status()
        seen.append(said(computer)[1:])
    assert seen == [(notes, ["first", "second", "third"]) for notes in ("second", "first", "")]
    refused = computer.step("undo")
    assert (refused.status_code, "none here is yours" in refused.json()["detail"]) == (422, True)


def test_where_undo_would_take_anothers_work_it_says_whose(lan):
    here, paired = lan
    kept = here.post("/api/projects", json=DOCUMENT).json()
    computer, phone = Page(here, kept["id"]), Page(paired("bench phone"), kept["id"])
    computer.save(notes="of the computer")
    phone.look()
    phone.save(notes="of the phone")
    refused = computer.step("undo")
    assert refused.status_code == 422
    assert all(word in refused.json()["detail"] for word in ("“bench phone”", "notes"))
    assert said(computer)[1] == "of the phone"


def test_nobody_redoes_what_another_has_undone(lan):
    here, paired = lan
    kept = here.post("/api/projects", json=DOCUMENT).json()
    computer, phone = Page(here, kept["id"]), Page(paired("bench phone"), kept["id"])
    phone.save(notes="of the phone")
    phone.step("undo").raise_for_status()
    refused = computer.step("redo")
    assert (refused.status_code, "“bench phone”" in refused.json()["detail"]) == (422, True)
    phone.step("redo").raise_for_status()
    computer.look()
    computer.save(tags=["computer"])
    phone.step("undo").raise_for_status()  # past the computer's change
    assert computer.step("redo").status_code == 422
    assert said(computer)[1:] == ("", ["computer"])
    phone.step("redo").raise_for_status()
    assert said(computer)[1:] == ("of the phone", ["computer"])


def test_one_device_alone_undoes_and_redoes_as_ever(lan):
    here, _ = lan
    kept = here.post("/api/projects", json=DOCUMENT).json()
    page = Page(here, kept["id"])
    for notes in "abc":
        page.save(notes=notes)
    for notes in ("b", "a", ""):
        page.step("undo").raise_for_status()
        assert said(page)[1] == notes
    for notes in "abc":
        page.step("redo").raise_for_status()
        assert said(page)[1] == notes


def test_keep_mine_keeps_the_named_places_and_all_else_of_theirs(lan):
    here, _ = lan
    kept = here.post("/api/projects", json=DOCUMENT).json()
    mine, theirs = Page(here, kept["id"]), Page(here, kept["id"])
    theirs.save(notes="theirs", tags=["theirs"])
    body = {"revision": kept["revision"], "document": kept["project"] | {"notes": "mine", "logbook": []}}
    refused = here.put(mine.at, json=body)
    assert (refused.status_code, "notes" in refused.json()["detail"]) == (409, True)
    here.put(mine.at, json=body | {"mine_counts": True}).raise_for_status()
    assert said(mine)[1:] == ("mine", ["theirs"])
    mine.step("undo").raise_for_status()
    assert said(mine)[1:] == ("theirs", ["theirs"])


def test_a_device_that_may_only_read_asks_everything_and_changes_nothing(lan):
    here, paired = lan
    kept = here.post("/api/projects", json=DOCUMENT).json()
    phone = paired("guest")
    [device] = here.get("/api/devices").json()
    here.put(f"/api/devices/{device['id']}", json={"name": "guest", "reads_only": True}).raise_for_status()
    at = f"/api/projects/{kept['id']}"
    assert phone.get(at).status_code == 200
    asked = phone.post("/api/questions/assess", json={"document": DOCUMENT, "build": "0"})
    assert asked.status_code == 200
    before = here.get(at).json()
    log = "s;V;A\n" + "".join(f"{second};3.7;0.2\n" for second in range(100))
    for client, kept_places in ((phone, None), (here, (0, 1, 2, None))):
        question = {"document": DOCUMENT, "build": "0", "text": log, "places": [0, 1, 2, None]}
        assert client.post("/api/questions/log", json=question).status_code == 200
        assert here.app.state.meters.columns_of(("s", "V", "A")) == kept_places
    for method, path, body in (
        ("PUT", at, {"revision": kept["revision"], "document": DOCUMENT}),
        ("POST", f"{at}/undo", {"revision": kept["revision"]}),
        ("DELETE", at, None),
        ("POST", "/api/projects", DOCUMENT),
        ("POST", "/api/inventory", {}),
    ):
        refused = phone.request(method, path, json=body)
        assert (refused.status_code, "may only read" in refused.json()["detail"]) == (403, True), path
    assert here.get(at).json() == before
    here.put(f"/api/devices/{device['id']}", json={"name": "guest", "reads_only": False}).raise_for_status()
    assert phone.delete(at).status_code == 204


def test_wrong_codes_count_for_the_device_that_typed_them():
    pairing = Pairing(clock=lambda: 0.0)
    for _ in range(MOST_TRIES):
        with pytest.raises(WrongCode):
            pairing.use("AAAA", "192.168.1.66")
    with pytest.raises(TooManyTries):
        pairing.use(pairing.code, "192.168.1.66")
    pairing.use(pairing.code, "192.168.1.77")
    for number in range(5000):  # an attacker of many addresses fills no memory
        with pytest.raises(WrongCode):
            pairing.use("AAAA", f"10.0.{number // 256}.{number % 256}")
    assert len(pairing._tries) <= 1001


def test_no_request_of_a_device_waits_for_the_disk(lan):
    here, paired = lan
    phone = paired("bench phone")
    engine = here.app.state.engine
    with engine.connect() as holding:
        holding.exec_driver_sql("BEGIN IMMEDIATE")  # another program holds the database
        assert phone.get("/api/devices").status_code == 403
        assert phone.get("/api/nothing").status_code == 404
        holding.exec_driver_sql("ROLLBACK")
    before = here.app.state.devices.all()[0].seen_at
    here.app.state.devices.write_seen()
    again = type(here.app.state.devices)(engine)
    assert again.all()[0].seen_at >= before.replace(microsecond=0)


def test_streams_of_a_device_that_is_put_off_end_at_once(lan):
    here, paired = lan
    paired("bench phone")
    devices = here.app.state.devices
    [device] = devices.all()

    class Run:
        finished, samples, passed, cut_short, failure, remarks, simulated = False, [], {}, False, "", (), True

    async def follow():
        news, heard = _news(Run(), 0, lambda: devices.has(device.id)), 0
        async for _ in news:
            heard += 1
            if heard == 2:
                devices.revoke(device.id)
        return heard

    # In a thread of its own: a browser of another test may have a loop in this one.
    with ThreadPoolExecutor(1) as apart:
        assert apart.submit(asyncio.run, follow()).result() == 2


def test_pictures_of_another_page_start_nothing_that_costs(lan):
    here, _ = lan
    headers = {"sec-fetch-site": "cross-site", "sec-fetch-mode": "no-cors", "sec-fetch-dest": "image"}
    for path in ("/api/backup/1/file", "/api/projects", "/api/copies", "/api/projects/1/export.zip?history=true"):
        assert here.get(path, headers=headers).status_code == 403, path
    assert here.get("/", headers=headers | {"sec-fetch-mode": "navigate"}).status_code != 403


# The network's own listener ----------------------------------------------------------------------------------------


@pytest.fixture
def listener():
    async def app(_scope, receive, send):
        body = await receive()
        while body.get("more_body"):
            body = await receive()
        await send({"type": "http.response.start", "status": 200, "headers": [(b"content-length", b"2")]})
        await send({"type": "http.response.body", "body": b"ok"})

    socket_ = socket.create_server(("127.0.0.1", 0))
    config = uvicorn.Config(app, log_level="error", lifespan="off", http=bounded_protocol(0.6, 1.5))
    server = uvicorn.Server(config)
    thread = threading.Thread(target=server.run, kwargs={"sockets": [socket_]})
    thread.start()
    yield socket_.getsockname()
    server.should_exit = True
    thread.join()


def is_closed(connection):
    connection.settimeout(10)
    try:
        while connection.recv(4096):
            pass
    except TimeoutError:
        return False
    except OSError:
        return True
    return True


def test_a_head_or_a_body_that_drips_is_ended(listener):
    silent, dripping, slow_body = (socket.create_connection(listener) for _ in range(3))
    dripping.sendall(b"GET / HTTP/1.1\r\nHost: x\r\n")
    slow_body.sendall(b"POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 100\r\n\r\nabc")
    assert is_closed(silent)
    assert is_closed(dripping)
    assert is_closed(slow_body)


def test_one_address_holds_only_so_many_and_gets_room_again(listener):
    address = f"http://127.0.0.1:{listener[1]}"
    held = [socket.create_connection(listener) for _ in range(connection_limits.MOST_OF_AN_ADDRESS)]
    time.sleep(0.2)
    assert httpx.get(address).status_code == 503
    for one in held:
        one.close()
    for _ in range(100):
        answer = httpx.get(address)
        if answer.status_code == 200:
            break
        time.sleep(0.05)
    assert answer.text == "ok"


def test_six_words_are_of_the_certificate_that_is_served(tmp_path):
    """By the fingerprint that Python's TLS and hashlib see; a word is read back by its letters' places."""
    certificate, _ = certificate_in(tmp_path, ["192.168.1.2"])
    der = ssl.PEM_cert_to_DER_cert(certificate.read_text())
    bits = int.from_bytes(hashlib.sha256(der).digest()[:12])
    words = fingerprint_in_words(certificate).split()
    assert len(words) == 6
    back = 0
    for word in words:
        for letter in word:
            letters = "aiou" if letter in "aiou" else "bdfghjklmnprstvz"
            back = back * len(letters) + letters.index(letter)
    assert back == bits


def test_the_words_are_on_both_screens(lan):
    here, _ = lan
    here.app.state.pairing.fingerprint = "lusab babad gutih tugad babad babad"
    assert here.get("/api/pairing").json()["fingerprint"] == "lusab babad gutih tugad babad babad"
    stranger = TestClient(here.app, client=("192.168.1.99", 5000), base_url="https://testserver")
    assert "lusab babad gutih" in stranger.get("/pair").text
