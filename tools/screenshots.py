"""Takes docs/screenshots anew, on the demo data. Arguments: names of pictures to take; none takes all."""

import sys
import tempfile
from pathlib import Path

from playwright.sync_api import Page

from headless import ROOT, chromium, context_of, running_app

FOLDER = ROOT / "docs" / "screenshots"

# name: (path, with {lamp} and so on for the demo conversions, width, height, dark)
PICTURES = {
    "projects": ("/", 1280, 800, False),
    "survey": ("/conversion/{Moth-trap lamp}/survey", 1280, 800, False),
    "cell": ("/conversion/{Bat-call detector}/cell", 1280, 800, False),
    "power": ("/conversion/{Moth-trap lamp}/power", 1280, 800, False),
    "charge": ("/conversion/{Moth-trap lamp}/charge", 1280, 800, False),
    "years-dark": ("/conversion/{Water-turbidity wand}/years", 1280, 800, True),
    "fit": ("/conversion/{Moth-trap lamp}/fit", 1280, 800, False),
    "what-if": ("/conversion/{Pocket anemometer}/what-if", 1280, 800, False),
    "verdict": ("/conversion/{Pocket anemometer}/verdict", 1280, 800, False),
    "wire": ("/conversion/{Pocket anemometer}/wire", 1280, 800, False),
    "build": ("/conversion/{Pond thermometer}/build", 1280, 800, False),
    "prove": ("/conversion/{Bat-call detector}/prove", 1280, 800, False),
    "proposals": ("/conversion/{Bat-call detector}/proposals", 1280, 800, False),
    "parts": ("/parts", 1280, 800, False),
    "compare": ("/conversion/{Moth-trap lamp}/compare", 1280, 800, False),
    "begin": ("/new?name=Rain+gauge", 1280, 800, False),
    "survey-phone": ("/conversion/{Moth-trap lamp}/survey", 390, 844, False),
    "sheet": ("/conversion/{Moth-trap lamp}/sheet?build=0", 1280, 800, False),
    "clock": ("/clock", 1280, 800, False),
}


def main(names: list[str], folder: Path = FOLDER) -> None:
    folder.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as data, running_app(Path(data)) as address, chromium() as browser:
        for name in names or PICTURES:
            path, width, height, dark = PICTURES[name]
            page = context_of(browser, width=width, height=height, dark=dark).new_page()
            page.goto(address)
            page.goto(address + path.format_map(_Conversions(page)))
            if name == "proposals":
                page.get_by_text("; nothing beats these").wait_for(timeout=120_000)
                page.get_by_role("button", name="Stop here").wait_for(state="hidden", timeout=300_000)
            if name == "clock":
                page.get_by_label("with what is ready to build").check()
                page.get_by_role("link", name="Calendar file").wait_for()
            settle(page)
            if name == "prove":
                page.get_by_role("button", name="Practise on a copy").click()
                page.get_by_role("button", name="All at once").click()
                page.get_by_role("img", name="Measured over predicted").wait_for()
                settle(page)
            page.screenshot(path=folder / f"{name}.png", animations="disabled")
            page.context.close()


def settle(page: Page) -> None:
    """Fonts in, numbers in, charts drawn."""
    page.wait_for_load_state("networkidle")
    page.evaluate("document.fonts.ready")
    page.wait_for_timeout(250)


class _Conversions(dict[str, str]):
    """Names of the demo conversions to their addresses on this server."""

    def __init__(self, page: Page) -> None:
        lines = page.request.get(page.url + "api/projects").json()
        super().__init__({line["name"]: str(line["id"]) for line in lines})


if __name__ == "__main__":
    main(sys.argv[1:])
