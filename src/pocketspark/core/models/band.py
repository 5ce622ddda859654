"""Bands that gadgets receive in, and what a converter beside the aerial puts into them. One entry is one band."""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class RadioBand:
    """From `low_hz` to `high_hz` (ITU Radio Regulations, region 1, from memory)."""

    label: str
    detail: str
    low_hz: float
    high_hz: float


BANDS: Mapping[str, RadioBand] = {
    "time": RadioBand("Time signal", "40 to 80 kHz: clocks that set themselves", 40e3, 80e3),
    "long_wave": RadioBand("Long wave", "150 to 280 kHz", 148.5e3, 283.5e3),
    "medium_wave": RadioBand("Medium wave, AM", "530 to 1600 kHz", 526.5e3, 1606.5e3),
    "short_wave": RadioBand("Short wave", "2 to 26 MHz", 2.3e6, 26.1e6),
    "model_27": RadioBand("27 MHz", "toys, walkie-talkies", 26.9e6, 27.5e6),
    "fm": RadioBand("FM broadcast", "88 to 108 MHz", 87.5e6, 108e6),
    "remote_433": RadioBand("433 MHz", "remote controls, sensors", 433.05e6, 434.79e6),
    "remote_868": RadioBand("868 MHz", "sensors, alarms", 863e6, 870e6),
    "wireless_2g4": RadioBand("2.4 GHz", "short-range data", 2.4e9, 2.4835e9),
}
