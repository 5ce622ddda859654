"""Starts the built app on a free port with its own data, and Debian's Chromium without a screen."""

import os
import socket
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import httpx
from playwright.sync_api import Browser, BrowserContext, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
CHROMIUM_ARGS = [
    *("--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"),
    *("--disable-background-networking", "--disable-component-update", "--disable-sync"),
]


@contextmanager
def running_app(data: Path, *, demo: bool = True) -> Iterator[str]:
    """The app's address. The port is bound here and handed over, so that no other process can take it."""
    with socket.socket() as listener:
        listener.bind(("127.0.0.1", 0))
        listener.listen(64)
        port = listener.getsockname()[1]
        command = [sys.executable, "-m", "uvicorn", "--factory", "pocketspark.server.app:create_app"]
        process = subprocess.Popen(
            [*command, "--fd", str(listener.fileno()), "--log-level", "warning"],
            cwd=ROOT,
            env={
                **os.environ,
                "PYTHONPATH": str(ROOT / "src"),
                "POCKETSPARK_DATA": str(data),
                "POCKETSPARK_DEMO": str(demo).lower(),
            },
            pass_fds=[listener.fileno()],
        )
    address = f"http://127.0.0.1:{port}"
    try:
        _wait(address, process)
        yield address
    finally:
        process.terminate()
        process.wait(10)


def _wait(address: str, process: subprocess.Popen[bytes]) -> None:
    for _ in range(200):
        if process.poll() is not None:
            raise RuntimeError("the server ended before it answered; its words are above")
        try:
            httpx.get(f"{address}/api/trade", timeout=5)
            return
        except httpx.TransportError:
            time.sleep(0.05)
    raise RuntimeError("the server did not answer within ten seconds")


@contextmanager
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=CHROMIUM_ARGS)
        yield browser
        browser.close()


def context_of(browser: Browser, *, width: int = 1280, height: int = 800, dark: bool = False) -> BrowserContext:
    """A fresh profile, the same wherever and whenever it runs."""
    return browser.new_context(
        viewport={"width": width, "height": height},
        color_scheme="dark" if dark else "light",
        reduced_motion="reduce",
        locale="en-GB",
        timezone_id="UTC",
    )
