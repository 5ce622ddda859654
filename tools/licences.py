"""build/web/licences.txt: the licence of every package and font whose code is part of the built front end."""

import json
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
FRONTEND = ROOT / "frontend"
NOTICES = ROOT / "build" / "web" / "licences.txt"
HEAD = "Pocket Spark is under the MIT licence. It ships with the packages and fonts below, each under its own.\n"


def notices() -> str:
    """One block a package: name, version, kind of licence, and its text as the package has it."""
    lock = json.loads((FRONTEND / "package-lock.json").read_text())
    shipped = sorted(path for path, about in lock["packages"].items() if path and not about.get("dev"))
    return HEAD + "".join(_block(FRONTEND / path) for path in shipped if (FRONTEND / path / "package.json").is_file())


def _block(folder: Path) -> str:
    about = json.loads((folder / "package.json").read_text())
    title = f"{about['name']} {about['version']}, {about.get('license', 'licence in its text')}"
    return "\n".join(["", "=" * len(title), title, "=" * len(title), "", *_texts(folder), ""])


def _texts(folder: Path) -> Iterator[str]:
    texts = sorted(file for file in folder.iterdir() if file.name.lower().startswith(("license", "licence", "notice")))
    for file in texts:
        if file.is_file() and file.suffix in ("", ".md", ".txt"):
            yield file.read_text().strip()


if __name__ == "__main__":
    NOTICES.write_text(notices())
