"""Who is let in: by name, by origin, by size; and a phone by a code that is good once.

Sources beside the checks: Fetch Metadata (W3C), RFC 6454 (origins), RFC 9110 (413, 415), all from memory.
"""

import signal
import ssl
import subprocess
import sys
import urllib.error
import urllib.request
from pathlib import Path

import httpx
import pytest
from fastapi.testclient import TestClient
from playwright.sync_api import expect

from builders import plan
from headless import ROOT, chromium, context_of, running_app
from pocketspark.server.app import create_app
from pocketspark.server.doorway import LARGEST_QUESTION, is_loopback
from pocketspark.server.pairing import CODE_LASTS_S, COOKIE, Pairing, TooManyTries, WrongCode
from pocketspark.server.settings import Settings
from pocketspark.server.tls_certificate import certificate_in
from pocketspark.store.devices import MOST_DEVICES

DOCUMENT = plan().model_dump(mode="json")


def add(client, **headers):
    return client.post("/api/projects", json=DOCUMENT, headers=headers)


def test_a_name_that_is_not_ours_is_not_answered(client):
    for host in ("evil.example", "127.0.0.1.evil.example", "", "localhost.", "[::2]"):
        answer = client.get("/api/projects", headers={"host": host})
        assert (answer.status_code, "does not answer to the name" in answer.json()["detail"]) == (400, True), host
    for host in ("127.0.0.1:8431", "LOCALHOST", "[::1]:9"):
        assert client.get("/api/projects", headers={"host": host}).status_code == 200, host


def test_no_name_of_a_test_is_among_ours(monkeypatch):
    monkeypatch.delenv("POCKETSPARK_HOSTS")
    assert Settings().hosts == ["127.0.0.1", "localhost", "[::1]"]


@pytest.mark.parametrize(
    "headers",
    [
        {"origin": "http://evil.example"},
        {"origin": "null"},
        {"origin": "http://testserver:81"},
        {"sec-fetch-site": "cross-site"},
        {"sec-fetch-site": "same-site", "origin": "http://testserver"},
    ],
)
def test_other_pages_change_nothing(client, headers):
    answer = add(client, **headers)
    assert (answer.status_code, "another page" in answer.json()["detail"]) == (403, True)
    assert client.get("/api/projects").json() == []


def test_our_own_page_and_programs_may_write(client):
    assert add(client, origin="http://testserver", **{"sec-fetch-site": "same-origin"}).status_code == 201
    assert add(client).status_code == 201


@pytest.mark.parametrize("kind", ["text/plain", "application/x-www-form-urlencoded", "text/plain; charset=utf-8"])
def test_what_any_form_can_send_is_not_taken(client, kind):
    answer = client.post("/api/projects", content=b"{}", headers={"content-type": kind})
    assert answer.status_code == 415


@pytest.mark.parametrize("path", ["/", "/api/projects", "/api/nothing", "/pair", "/api/projects/7"])
def test_every_answer_says_how_it_may_be_used(client, path):
    headers = client.get(path).headers
    assert "frame-ancestors 'none'" in headers["content-security-policy"]
    assert headers["x-content-type-options"] == "nosniff"


def test_a_body_is_measured_before_and_while_it_is_read(client):
    announced = client.post("/api/projects", content=b"x" * (LARGEST_QUESTION + 1))
    assert (announced.status_code, "MB" in announced.json()["detail"]) == (413, True)
    drip = (b" " * 100_000 for _ in range(LARGEST_QUESTION // 100_000 + 2))  # no length is announced
    assert client.post("/api/projects", content=drip).status_code == 413
    assert client.post("/api/projects/import", content=b"{" * (LARGEST_QUESTION + 1)).status_code == 422


def test_what_can_be_saved_can_be_imported(client):
    kept = add(client).json()
    entries = [{"at": "2026-11-26", "text": "é" * 990} for _ in range(400)]
    document = kept["project"] | {"logbook": entries, "notes": "ä" * 9999}
    saved = client.put(f"/api/projects/{kept['id']}", json={"revision": kept["revision"], "document": document})
    assert saved.status_code == 200
    for way in ("export", "export.zip"):
        file = client.get(f"/api/projects/{kept['id']}/{way}").content
        assert client.post("/api/projects/import", content=file).json()["project"] == saved.json()["project"], way


# Another page, for real ------------------------------------------------------------------------------------------

ATTACK = """<script>
const at = location.hash.slice(1)
const tries = [
  fetch(at + '/api/projects', {method: 'POST', mode: 'no-cors', body: '{"gadget": {"name": "evil"}}'}),
  fetch(at + '/api/projects', {method: 'POST', headers: {'Content-Type': 'application/json'}, body: '{}'}),
  fetch(at + '/api/projects').then((answer) => answer.text()),
  fetch(at + '/api/projects/1', {method: 'DELETE'}),
]
Promise.allSettled(tries).then((ended) => {
  document.title = ended.map((one) => one.status).join()
})
</script><iframe></iframe>"""


def test_a_page_of_another_origin_reads_nothing_writes_nothing_and_frames_nothing(tmp_path):
    (tmp_path / "attack.html").write_text(ATTACK)
    other = subprocess.Popen(
        [sys.executable, "-m", "http.server", "0", "--bind", "127.0.0.1", "--directory", str(tmp_path)],
        stdout=subprocess.PIPE, text=True, env={"PYTHONUNBUFFERED": "1"},
    )  # fmt: skip
    try:
        port = other.stdout.readline().split(" port ")[1].split()[0]
        with running_app(tmp_path / "data", demo=False) as address, chromium() as browser:
            httpx.post(f"{address}/api/projects", json=DOCUMENT)
            page = context_of(browser).new_page()
            page.goto(f"http://127.0.0.1:{port}/attack.html#{address}")
            expect(page).to_have_title("rejected,rejected,rejected,rejected")
            frame = page.locator("iframe")
            frame.evaluate("(frame, at) => { frame.src = at }", address)
            page.wait_for_timeout(600)
            assert "Pocket Spark" not in (frame.content_frame.locator("body").text_content() or "")
            assert [line["name"] for line in httpx.get(f"{address}/api/projects").json()] == ["Moth-trap lamp"]
    finally:
        other.terminate()
        other.wait()


# Pairing ---------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("address", "ours"), [("127.0.0.1", True), ("::1", True), ("192.168.1.9", False), ("fe80::1%eth0", False)]
)
def test_which_addresses_are_of_this_machine(address, ours):
    assert is_loopback(address) is ours


def test_a_code_is_good_once_for_ten_minutes_and_is_not_guessed():
    now = 0.0
    pairing = Pairing(clock=lambda: now)
    code = pairing.code
    assert len(code) == 8
    pairing.use(f"{code[:4].lower()}-{code[4:]}")
    with pytest.raises(WrongCode):
        pairing.use(code)
    late = pairing.code
    now = CODE_LASTS_S + 1
    with pytest.raises(WrongCode):
        pairing.use(late)
    for _ in range(4):
        with pytest.raises(WrongCode):
            pairing.use("AAAA")
    with pytest.raises(TooManyTries):
        pairing.use(pairing.code)
    now += 61
    pairing.use(pairing.code)


@pytest.fixture
def lan(tmp_path):
    """A server that is open to the network, and how it answers a client at another address."""
    app = create_app(Settings(data=tmp_path / "data"))
    with TestClient(app) as here:
        app.state.pairing.address = "https://192.168.1.2:8432"
        yield here, lambda: TestClient(app, client=("192.168.1.77", 5000), base_url="https://testserver")


def pair(stranger, code, name="bench phone"):
    return stranger.post("/pair", data={"code": code, "name": name}, follow_redirects=False)


def test_a_stranger_gets_the_pairing_page_and_nothing_else(lan):
    here, stranger = lan
    for path in ("/", "/api/projects", "/api/pairing", "/api/devices", "/assets/x.js", "/openapi.json"):
        assert stranger().get(path).status_code == 401, path
    assert stranger().post("/api/projects", json=DOCUMENT).status_code == 401
    assert "Type the code" in str(stranger().get("/pair?code=%3Cscript%3E").text)
    assert "<script" not in str(stranger().get("/pair?code=%3Cscript%3E").text)
    assert here.get("/api/projects").json() == []


def test_without_pairing_switched_on_nobody_else_is_answered(lan):
    here, stranger = lan
    here.app.state.pairing.address = ""
    for path in ("/pair", "/api/projects"):
        answer = stranger().get(path)
        assert (answer.status_code, "--lan" in answer.json()["detail"]) == (403, True)


def test_a_phone_is_paired_named_listed_and_let_in_no_more(lan):
    here, stranger = lan
    offer = here.get("/api/pairing").json()
    assert offer["link"] == f"https://192.168.1.2:8432/pair?code={offer['code']}"
    assert offer["qr_svg"].startswith("<svg")
    phone = stranger()
    answer = pair(phone, offer["code"])
    assert answer.status_code == 303
    cookie = answer.headers["set-cookie"]
    assert all(word in cookie for word in ("HttpOnly", "SameSite=strict", "Secure", "Max-Age=7776000"))
    assert phone.get("/api/projects").status_code == 200
    assert phone.post("/api/projects", json=DOCUMENT).status_code == 201
    assert phone.get("/api/devices").status_code == 403  # that is for the computer itself
    (device,) = here.get("/api/devices").json()
    assert device["name"] == "bench phone"
    key = phone.cookies[COOKIE]
    assert key not in (here.app.state.data / "pocket-spark.sqlite").read_bytes().decode("latin-1")
    here.put(f"/api/devices/{device['id']}", json={"name": "old phone"})
    assert here.get("/api/devices").json()[0]["name"] == "old phone"
    assert here.delete(f"/api/devices/{device['id']}").status_code == 204
    assert phone.get("/api/projects").status_code == 401


def test_wrong_codes_are_told_and_then_not_looked_at(lan):
    here, stranger = lan
    answers = [pair(stranger(), "AAAAAAAA") for _ in range(6)]
    assert [answer.status_code for answer in answers] == [403] * 5 + [429]
    assert "not the code" in str(answers[0].text)
    assert pair(stranger(), here.get("/api/pairing").json()["code"]).status_code == 429
    assert here.get("/api/devices").json() == []


def test_a_forged_key_and_another_page_open_nothing(lan):
    here, stranger = lan
    phone = stranger()
    phone.cookies.set(COOKIE, "x" * 43)
    assert phone.get("/api/projects").status_code == 401
    code = here.get("/api/pairing").json()["code"]
    answer = stranger().post("/pair", data={"code": code}, headers={"origin": "https://evil.example"})
    assert answer.status_code == 403


def test_so_many_devices_and_no_more(lan):
    devices = lan[0].app.state.devices
    keys = [devices.pair(f"phone {number}") for number in range(MOST_DEVICES + 3)]
    assert len(devices.all()) == MOST_DEVICES
    assert devices.knows(keys[-1])


def test_the_certificate_is_made_once_and_anew_for_another_address(tmp_path):
    certificate, key = certificate_in(tmp_path, ["192.168.1.2", "bench"])
    first = certificate.read_bytes()
    assert key.stat().st_mode & 0o077 == 0
    assert certificate_in(tmp_path, ["bench"])[0].read_bytes() == first
    assert certificate_in(tmp_path, ["192.168.7.7"])[0].read_bytes() != first


def test_beyond_the_loopback_wants_lan(tmp_path):
    command = [sys.executable, "-m", "pocketspark.cli", "serve", "--data", str(tmp_path), "--host", "0.0.0.0"]
    ended = subprocess.run(
        command, capture_output=True, text=True, cwd=ROOT, env={"PYTHONPATH": str(ROOT / "src")}, check=False
    )
    assert ended.returncode == 2
    assert "--lan" in ended.stderr


def test_lan_answers_encrypted_beside_the_loopback(tmp_path):
    """The whole of it: two listeners, the certificate held against Python's own TLS, the code from the terminal."""
    command = [sys.executable, "-u", "-m", "pocketspark.cli", "serve", "--data", str(tmp_path), "--port", "0", "--lan"]
    server = subprocess.Popen(
        command, stdout=subprocess.PIPE, text=True, cwd=ROOT, env={"PYTHONPATH": str(ROOT / "src")}
    )
    try:
        loopback = server.stdout.readline().split()[4]
        words = server.stdout.readline().split()
        there = words[words.index("open") + 1]
        assert any(block in server.stdout.readline() + server.stdout.readline() for block in "█▄▀")
        assert httpx.get(f"{loopback}/api/projects").json() == []
        trusting = ssl.create_default_context(cafile=str(Path(tmp_path) / "certificate.pem"))
        with urllib.request.urlopen(there, context=trusting) as answer:
            assert b"Type the code" in answer.read()
        with pytest.raises(urllib.error.URLError, match="CERTIFICATE_VERIFY_FAILED"):
            urllib.request.urlopen(there)
    finally:
        server.terminate()
        assert server.wait(10) == -signal.SIGTERM
