"""Starts the built app on a free port with its own data, and Debian's Chromium without a screen."""

import os
import re
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Browser, BrowserContext, sync_playwright

ROOT = Path(__file__).resolve().parents[1]
CHROMIUM_ARGS = [
    *("--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run"),
    *("--disable-background-networking", "--disable-component-update", "--disable-sync"),
]


@contextmanager
def running_app(data: Path, *, demo: bool = True) -> Iterator[str]:
    """The address of `serve` on a free port, as its own first line tells it."""
    process = subprocess.Popen(
        [sys.executable, "-m", "pocketspark.cli", "serve", "--port", "0", "--data", str(data)],
        env={
            **os.environ,
            "PYTHONPATH": str(ROOT / "src"),
            "POCKETSPARK_DEMO": str(demo).lower(),
            "POCKETSPARK_PORTS": str(data / "ports"),
        },
        stdout=subprocess.PIPE,
        text=True,
    )
    try:
        assert process.stdout is not None
        told = re.search(r"http://\S+", process.stdout.readline())
        if told is None:
            raise RuntimeError("the server ended before it told its address; its words are above")
        yield told[0]
    finally:
        process.terminate()
        process.wait(10)


@contextmanager
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=CHROMIUM_ARGS)
        yield browser
        browser.close()


def context_of(
    browser: Browser, *, width: int = 1280, height: int = 800, dark: bool = False, locale: str = "en-GB"
) -> BrowserContext:
    """A fresh profile, the same wherever and whenever it runs."""
    return browser.new_context(
        viewport={"width": width, "height": height},
        color_scheme="dark" if dark else "light",
        reduced_motion="reduce",
        locale=locale,
        timezone_id="UTC",
    )
