"""The page writes the same text for the same number as the core does.

Reference: the front end's own format.ts, run by Node as the page would run it.
"""

import json
import subprocess
from pathlib import Path

from chances import dice
from pocketspark.core.units import figures
from pocketspark.core.units.reading import ReadersUnits, read_as

FRONT = Path(__file__).resolve().parents[2] / "frontend"
# The page's function, and the core's for the same quantity.
SAME = {
    "volts": figures.volts,
    "amps": figures.amps,
    "milliampHours": figures.amp_hours,
    "percent": figures.percent,
    "duration": figures.hours,
    "days": figures.days,
    "millimetres": figures.bare_length,
}
PROGRAM = """
const ts = require('typescript'), fs = require('fs')
const source = ts.transpileModule(fs.readFileSync('src/format.ts', 'utf8'), { compilerOptions: { module: 'CommonJS' } })
const kept = {
  useLocalStorage: () => ({ value: process.argv[1] }),
  formatDate: () => '',
  language: 'en',
  t: (text, values) => text.replace(/\\{(\\w+)\\}/g, (_, name) => values[name]),
}
const page = {}
new Function('exports', 'require', source.outputText)(page, () => kept)
const asked = JSON.parse(fs.readFileSync(0, 'utf8'))
console.log(JSON.stringify(asked.map(([name, value]) => page[name](value))))
"""


def written_by_the_page(asked, mark):
    run = ["node", "-e", PROGRAM, mark]
    done = subprocess.run(run, input=json.dumps(asked), capture_output=True, text=True, cwd=FRONT, check=True)
    return json.loads(done.stdout)


def test_the_same_number_is_the_same_text_on_the_page():
    thrown = dice("numbers")
    values = {
        "volts": [thrown.uniform(0, 60) for _ in range(300)]
        # All but a half: the same number, come by another way, is the same text.
        + [half * (1 + off) for half in (43.965, 3.705, 1.115) for off in (-1e-8, -1e-9, -1e-10, 1e-10, 1e-8)],
        "amps": [10 ** thrown.uniform(-6, 1.5) for _ in range(300)]
        + [size * near for size in (1e-6, 1e-3, 1) for near in (0.99, 0.9949, 0.9951, 0.997, 0.9994, 0.9996, 1.004)],
        "milliampHours": [10 ** thrown.uniform(-4, 2) for _ in range(300)],
        "percent": [thrown.uniform(0.0005, 1.5) for _ in range(300)],
        "duration": [10 ** thrown.uniform(-1, 4) for _ in range(300)] + [72, 80, 5, 24, 1, 238.7, 238.9, 239.4, 240.1],
        "days": [10 ** thrown.uniform(-1, 4) for _ in range(300)] + [90, 730, 10, 9.94, 9.96],
        "millimetres": [round(10 ** thrown.uniform(-1, 2.5), 2) for _ in range(300)] + [0, 0.04, 2, 62, 99.96],
    }
    asked = [(name, value) for name, some in values.items() for value in some]
    for mark in ("point", "comma"):
        with read_as(ReadersUnits(decimals=mark)):
            ours = [str(SAME[name](value)) for name, value in asked]
        differ = [
            (name, value, page, core)
            for (name, value), page, core in zip(asked, written_by_the_page(asked, mark), ours, strict=True)
            if page != core
        ]
        assert not differ, differ[:20]


def test_inches_too():
    asked = [("inches", round(mm * 0.13, 2)) for mm in range(1, 1200)]
    with read_as(ReadersUnits(length="in")):
        ours = [str(figures.bare_length(mm)) for _, mm in asked]
    assert written_by_the_page(asked, "point") == ours
