"""Mixed load on a real server for a while: no error, and memory, descriptors and threads stay where they were.

Ten minutes of it in a full run; memory is read from /proc, as Linux documents it in proc(5) (from memory).
"""

import os
import random
import re
import subprocess
import sys
import threading
import time
from collections import Counter
from pathlib import Path

import httpx
from test_zip_files import jpeg

from backup_of import backup_of
from builders import CELL, plan
from chances import FULL
from headless import ROOT

ONE_BACKUP = threading.Lock()
SOAK_S = 600 if FULL else 10
DOCUMENT = plan(practice=True).model_dump(mode="json")


def usage(process):
    status = Path(f"/proc/{process}/status").read_text()
    memory, threads = (int(re.search(rf"{name}:\s+(\d+)", status)[1]) for name in ("VmRSS", "Threads"))
    return memory / 1000, threads, len(list(Path(f"/proc/{process}/fd").iterdir()))


def work(address, chance, until, counted):
    """One user who does a bit of everything."""
    with httpx.Client(base_url=address, timeout=60) as client:
        while time.monotonic() < until:
            kept = client.post("/api/projects", json=DOCUMENT).json()
            at = f"/api/projects/{kept['id']}"
            photo = client.post(f"{at}/photos", content=jpeg("red", (300, 200))).json()["id"]
            for number in range(chance.randrange(1, 6)):
                document = kept["project"] | {"notes": str(number)}
                answer = client.put(at, json={"revision": kept["revision"], "document": document})
                kept = answer.json()
                asked = {"document": kept["project"], "project_id": kept["id"]}
                for path in ("assess", "measure-next", "wiring", "export/sheet", "fit", "procedure"):
                    counted[client.post(f"/api/questions/{path}", json=asked).status_code] += 1
            run = client.post("/api/instruments/live?speed_up=20000", json=asked)
            counted["run" if run.status_code == 201 else run.status_code] += 1
            part = client.post("/api/inventory", json={"kind": "cell", "body": CELL}).json()["id"]
            file = client.get(f"{at}/export.zip?history=true").content
            taken = client.post("/api/projects/import", content=file).json()["id"]
            answers = [
                client.get(f"{at}/photos/{photo}/picture"),
                client.get("/api/projects"),
                client.get("/api/copies"),
            ]
            answers += [
                client.delete(f"/api/inventory/{part}"),
                client.post(f"{at}/undo", json={"revision": kept["revision"]}),
            ]
            for number in (kept["id"], taken):
                answers.append(client.delete(f"/api/projects/{number}"))
                answers.append(client.delete(f"/api/projects/{number}?for_good=true"))
            counted.update(answer.status_code for answer in answers)
        # One after the other: what one fetches is not cleared away by the next.
        with ONE_BACKUP:
            counted[backup_of(client).status_code] += 1


def test_an_hour_at_the_bench_leaves_the_server_as_it_was(tmp_path):
    command = [sys.executable, "-u", "-m", "pocketspark.cli", "serve", "--port", "0", "--data", str(tmp_path)]
    server = subprocess.Popen(
        command, stdout=subprocess.PIPE, text=True, env={**os.environ, "PYTHONPATH": str(ROOT / "src")}
    )
    try:
        address = re.search(r"http://\S+", server.stdout.readline())[0]
        counted = Counter()
        work(address, random.Random(0), time.monotonic() + 3, counted)  # what is imported late is there now
        before, until = usage(server.pid), time.monotonic() + SOAK_S
        users = [threading.Thread(target=work, args=(address, random.Random(n), until, counted)) for n in range(3)]
        for user in users:
            user.start()
        for user in users:
            user.join()
        time.sleep(2)
        after = usage(server.pid)
    finally:
        server.terminate()
        server.wait(15)
    figures = [
        f"{name} {was:.0f} to {now:.0f}"
        for name, was, now in zip(("MB", "threads", "descriptors"), before, after, strict=True)
    ]
    print(f"{sum(counted.values())} answers in {SOAK_S:.0f} s, {dict(counted)}; {', '.join(figures)}")
    assert not [status for status in counted if isinstance(status, int) and status >= 400]
    assert after[0] < before[0] + 80
    assert after[1] <= before[1] + 45  # the pool of the server's own threads fills up to forty, and stays
    assert after[2] <= before[2] + 30
