"""Makes what is derived from the models: the front end's types and the published schemas.

With --check it writes nothing and fails where the committed files are not current.
"""

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from pocketspark.formats.schemas import schemas
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from sources import sources_page

ROOT = Path(__file__).resolve().parents[1]
TYPES = ROOT / "frontend/src/api/schema.d.ts"
DOCS = ROOT / "docs"


def main() -> int:
    made = {DOCS / f"{name}.schema.json": json.dumps(schema, indent=2) + "\n" for name, schema in schemas().items()}
    made |= {DOCS / "sources.md": sources_page(), TYPES: typescript()}
    if "--check" not in sys.argv:
        for file, text in made.items():
            file.parent.mkdir(parents=True, exist_ok=True)
            file.write_text(text)
        return 0
    stale = [file for file, text in made.items() if not file.is_file() or file.read_text() != text]
    for file in stale:
        print(f"{file.relative_to(ROOT)} is not current: run ./spark types", file=sys.stderr)
    return 1 if stale else 0


def typescript() -> str:
    """The front end's types, from the app's own OpenAPI description."""
    with tempfile.TemporaryDirectory() as folder:
        app = create_app(Settings(data=Path(folder)))
        openapi, types = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        openapi.write_text(json.dumps(app.openapi()))
        command = [
            "npx",
            "--no-install",
            "openapi-typescript",
            str(openapi),
            "--default-non-nullable=false",
            "-o",
            str(types),
        ]
        subprocess.run(command, cwd=ROOT / "frontend", check=True, capture_output=True)
        return types.read_text()


if __name__ == "__main__":
    sys.exit(main())
