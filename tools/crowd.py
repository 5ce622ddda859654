"""Many at once, and a shelf of twenty thousand: how long a keystroke waits beside heavy work, what a long shelf costs.

Figures, not tests: `./spark bench` prints them.
"""

import json
import os
import random
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from pathlib import Path
from typing import Any

import httpx
from sqlalchemy import insert
from sqlalchemy.orm import Session

from headless import ROOT
from pocketspark.demo import demo_projects
from pocketspark.server.summaries import judged, rules_version
from pocketspark.store.database import close_database, open_database
from pocketspark.store.projects import Projects
from pocketspark.store.tables import ProjectRow, RevisionRow

CLIENTS, FOR_S, EVERY_S = 15, 20.0, 2.0
LONG = 20_000


@contextmanager
def server(data: Path, *, demo: bool) -> Iterator[tuple[str, int, float]]:
    """A server in a process of its own: its address, its process, and how many seconds its first answer took."""
    begun = time.perf_counter()
    command = [sys.executable, "-m", "pocketspark.cli", "serve", "--port", "0"]
    environment = os.environ | {"PYTHONPATH": str(ROOT / "src"), "PYTHONUNBUFFERED": "1"}
    environment |= {"POCKETSPARK_DATA": str(data), "POCKETSPARK_DEMO": json.dumps(demo)}
    process = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment, cwd=ROOT)
    assert process.stdout is not None
    try:
        address = process.stdout.readline().split()[4]
        httpx.get(f"{address}/api/projects/counts", timeout=60)
        yield address, process.pid, time.perf_counter() - begun
    finally:
        process.terminate()
        process.wait(20)


def _kept_mb(process: int, what: str = "VmRSS") -> float:
    lines = Path(f"/proc/{process}/status").read_text().splitlines()
    return next(int(line.split()[1]) / 1000 for line in lines if line.startswith(what))


# A crowd ---------------------------------------------------------------------------------------------------------


def crowd() -> None:
    """Fifteen who type, alone and then beside five who ask for what is heavy: the slowest of a hundred keystrokes."""
    with tempfile.TemporaryDirectory() as data, server(Path(data), demo=True) as (address, process, _):
        lines = httpx.get(f"{address}/api/projects", timeout=60).json()
        documents = [httpx.get(f"{address}/api/projects/{line['id']}").json() for line in lines]
        one = _typed_by(address, documents, 1)
        alone = _typed_by(address, documents, CLIENTS)
        heavy = _Heavy(address, documents)
        beside = heavy.while_at_work(lambda: _typed_by(address, documents, CLIENTS))
        for name, spans in (("one alone", one), (f"{CLIENTS} alone", alone), ("beside the heavy five", beside)):
            print(f"keystroke, {name}: median {spans[len(spans) // 2]:.0f} ms, 99 of 100 within {_p99(spans):.0f} ms")
        print(f"heavy work meanwhile: {heavy.done}; refused saves: {heavy.refused}")
        print(f"memory at its worst: {_kept_mb(process, 'VmHWM'):.0f} MB")


def _p99(spans: list[float]) -> float:
    return spans[int(len(spans) * 0.99)]


def _typed_by(address: str, documents: list[dict[str, Any]], clients: int) -> list[float]:
    """Each types every two seconds, each into a conversion of its own; sorted spans in ms."""
    spans: list[float] = []
    ends = time.perf_counter() + FOR_S

    def types(number: int) -> None:
        document, chance = documents[number % len(documents)]["project"], random.Random(number)
        with httpx.Client(base_url=address, timeout=60) as client:
            stroke = 0
            while time.perf_counter() < ends:
                stroke += 1
                document["notes"] = f"{number} {stroke}"
                body = json.dumps({"document": document, "build": "0"})
                begun = time.perf_counter()
                client.post("/api/questions/assess", content=body, headers={"content-type": "application/json"})
                span = time.perf_counter() - begun
                spans.append(span * 1000)
                time.sleep(max(EVERY_S * 2 * chance.random() - span, 0))

    _all(types, clients)
    return sorted(spans)


def _all(work: Callable[[int], None], count: int) -> None:
    threads = [threading.Thread(target=work, args=(number,)) for number in range(count)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


class _Heavy:
    """One asks for proposals, one fits, one sends logs of 200,000 rows, one saves, one imports long histories."""

    def __init__(self, address: str, documents: list[dict[str, Any]]) -> None:
        self.address, self.documents = address, documents
        self.done: dict[str, int] = {}
        self.refused = 0
        self._stop = threading.Event()

    def while_at_work(self, work: Callable[[], list[float]]) -> list[float]:
        jobs = (self._plans, self._fits, self._logs, self._saves, self._imports)
        threads = [threading.Thread(target=self._again, args=(job,), daemon=True) for job in jobs]
        for thread in threads:
            thread.start()
        found = work()
        self._stop.set()
        for thread in threads:
            thread.join(60)
        return found

    def _again(self, job: Callable[[httpx.Client], None]) -> None:
        with httpx.Client(base_url=self.address, timeout=120) as client:
            while not self._stop.is_set():
                with suppress(httpx.HTTPError):
                    job(client)
                    name = job.__name__.strip("_")
                    self.done[name] = self.done.get(name, 0) + 1

    def _question(self, number: int) -> dict[str, Any]:
        return {"document": self.documents[number % len(self.documents)]["project"], "build": "0"}

    def _plans(self, client: httpx.Client) -> None:
        job = client.post("/api/questions/proposals", json=self._question(0) | {"wishes": {}}).json()
        for _ in range(20):
            if self._stop.is_set() or client.get(f"/api/questions/proposals/{job['id']}").json()["state"] != "running":
                break
            time.sleep(0.5)
        client.delete(f"/api/questions/proposals/{job['id']}")

    def _fits(self, client: httpx.Client) -> None:
        client.post("/api/questions/fit", json=self._question(2))

    def _logs(self, client: httpx.Client) -> None:
        rows = "".join(f"{second},{3.6 + second % 7 / 1000:.3f},0.200\n" for second in range(200_000))
        text = f"time (s),voltage (V),current (A)\n{rows}"
        client.post("/api/questions/log", json=self._question(1) | {"text": text})

    def _saves(self, client: httpx.Client) -> None:
        kept = client.get(f"/api/projects/{self.documents[3]['id']}").json()
        document = kept["project"] | {"notes": f"saved {time.time()}"}
        body = {"revision": kept["revision"], "document": document}
        self.refused += client.put(f"/api/projects/{kept['id']}", json=body).status_code != 200

    def _imports(self, client: httpx.Client) -> None:
        answer = client.post("/api/projects/import", content=json.dumps(self.documents[4]["project"]).encode())
        client.delete(f"/api/projects/{answer.json()['id']}")


# A long shelf ----------------------------------------------------------------------------------------------------


def long_shelf() -> None:
    """Twenty thousand real conversions: start, first lines, a search key, memory; beside all lines, page by page."""
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder)
        _fill(data)
        size = sum(file.stat().st_size for file in data.iterdir() if file.is_file()) / 1e6
        with server(data, demo=False) as (address, process, started_s):
            with httpx.Client(base_url=address, timeout=60) as client:
                first = _ms(client, "/api/projects?most=50")
                keys = [_ms(client, f"/api/projects?most=50&words={words}") for words in ("l", "lamp", "lamp 19", "zz")]
                counts = _ms(client, "/api/projects/counts")
                whole = _all_lines_ms(client)
            print(f"shelf of {LONG}, {size:.0f} MB: answers {started_s:.1f} s after the start")
            print(f"  first lines {first:.0f} ms, a search key {max(keys):.0f} ms at most, counts {counts:.0f} ms")
            print(f"  all lines by pages {whole:.0f} ms: {whole / first:.0f} times the first")
            print(f"  memory {_kept_mb(process):.0f} MB, {_kept_mb(process, 'VmHWM'):.0f} MB at its worst")


def _ms(client: httpx.Client, path: str) -> float:
    spans = []
    for _ in range(5):
        begun = time.perf_counter()
        client.get(path).raise_for_status()
        spans.append((time.perf_counter() - begun) * 1000)
    return sorted(spans)[2]


def _all_lines_ms(client: httpx.Client) -> float:
    begun = time.perf_counter()
    seen = 0
    while page := client.get(f"/api/projects?most=200&skip={seen}").json():
        seen += len(page)
    assert seen == LONG
    return (time.perf_counter() - begun) * 1000


def _fill(data: Path) -> None:
    """The demo conversions again and again, each judged once."""
    engine = open_database(data)
    projects = Projects(engine, judged, rules_version())
    kept = [projects.add(project) for project in demo_projects()]
    with Session(engine) as session, session.begin():
        lines = [session.get_one(ProjectRow, one.id) for one in kept]
        heads = [session.get_one(RevisionRow, one.revision) for one in kept]
        for number in range(len(kept) + 1, LONG + 1):
            line, head = lines[number % len(kept)], heads[number % len(kept)]
            row = {name: getattr(line, name) for name in ("made_at", "changed_at", "summary", "rules", "stage")}
            row |= {"id": number, "name": f"{line.name} {number}", "words": f"{line.words} {number}", "head": None}
            state = {name: getattr(head, name) for name in ("made_at", "body", "digest")}
            session.execute(insert(ProjectRow), [row])
            session.execute(insert(RevisionRow), [state | {"id": 10 * LONG + number, "project_id": number}])
        session.connection().exec_driver_sql(f"UPDATE project SET head = {10 * LONG} + id WHERE head IS NULL")
    close_database(engine)


if __name__ == "__main__":
    crowd()
    long_shelf()
