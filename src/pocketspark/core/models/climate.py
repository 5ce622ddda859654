"""Where a gadget lives: a temperature for each month of the year. One entry is one climate.

Our own tables, from memory: what a thermometer beside the gadget shows when it is used, averaged over a month.
"""

from collections.abc import Mapping
from dataclasses import dataclass

MONTHS = (
    *("January", "February", "March", "April", "May", "June"),
    *("July", "August", "September", "October", "November", "December"),
)


@dataclass(frozen=True)
class Climate:
    """`months_c`: January to December, degrees Celsius.

    `hottest_c`: for an hour or two on its worst day; None: hardly more than the hottest month. `wet`: rain or steam
    gets at it. `shaken`: it is carried or driven about.
    """

    label: str
    detail: str
    months_c: tuple[float, ...]
    hottest_c: float | None = None
    wet: bool = False
    shaken: bool = False


CLIMATES: Mapping[str, Climate] = {
    "indoors": Climate("Indoors", "a heated room", (20, 20, 20, 21, 22, 24, 25, 25, 23, 21, 20, 20)),
    "bathroom": Climate(
        "Bath or kitchen", "warm, and steam on it", (22, 22, 22, 22, 23, 24, 25, 25, 24, 23, 22, 22), wet=True
    ),
    "shed": Climate("Shed or cellar", "a roof and no heating", (3, 3, 6, 9, 14, 18, 21, 20, 16, 11, 7, 4)),
    "temperate": Climate(
        "Garden", "temperate: cold nights, mild days", (-4, -3, 1, 6, 12, 19, 24, 23, 16, 9, 3, -2), wet=True
    ),
    "cold": Climate("Outdoors, cold", "long frost", (-16, -14, -8, 0, 7, 13, 16, 14, 8, 1, -7, -13), wet=True),
    "hot": Climate(
        "Outdoors, hot", "summers over 35 °C", (14, 16, 20, 25, 31, 36, 38, 37, 33, 27, 20, 15), hottest_c=55, wet=True
    ),
    "car": Climate(
        "In a car",
        "parked in the sun and in frost",
        (-2, 1, 9, 18, 28, 37, 43, 41, 30, 18, 7, 0),
        hottest_c=75,
        shaken=True,
    ),
    "pocket": Climate(
        "Carried", "in a pocket or a bag", (24, 24, 25, 25, 26, 27, 28, 28, 27, 26, 25, 24), hottest_c=40, shaken=True
    ),
}
