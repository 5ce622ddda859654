"""A log cut into its charges, rests and run-downs: one file of a tester holds many, and each is read for itself."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.message import Message, _, say
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.units.figures import amp_hours, hours, volts

# Under this share of the most, or these amperes, nothing flows: a meter's zero, and what it draws for itself.
STILL_SHARE, STILL_A = 0.02, 0.006
# A pause of the same way that is no longer is part of it: a pulse, a step of a procedure, a hand at the switch.
PAUSE_S = 7200.0
# Shorter, or with less of the largest piece's charge than this, is no piece.
LEAST_S, LEAST_SHARE = 60.0, 0.03
# Of the rest before and after, what belongs to a piece: it shows the resistance, and how the cell settles.
REST_BEFORE_S, REST_AFTER_S = 300.0, 3600.0
# Volts rise by so much in a charge, and fall in a run-down: a meter that shows no sign.
UNSIGNED_V, UNSIGNED_PAUSE_S = 0.15, 300.0

PieceKind = Literal["charge", "discharge"]


@dataclass(frozen=True)
class Piece:
    """One charge or run-down, from its first row with current to its last."""

    kind: PieceKind
    first: int
    last: int
    seconds: float
    charge_ah: float
    from_v: float
    to_v: float
    starts_s: float = 0.0  # after the first row of the file

    @property
    def says(self) -> Message:
        return say(
            _CHARGE if self.kind == "charge" else _RUN,
            lasts=hours(self.seconds / 3600),
            charge=amp_hours(self.charge_ah),
            low=volts(self.from_v),
            high=volts(self.to_v),
        )


_CHARGE = _("Charge: {lasts}, {charge}, {low} to {high}")
_RUN = _("Run-down: {lasts}, {charge}, {low} to {high}")


def pieces_of(time_s: Floats, volts_v: Floats, amps: Floats) -> list[Piece]:
    """In their order. `amps`: plus into the cell; one that never turns is told by the volts."""
    signed = _signed(time_s, volts_v, amps)
    ways = _ways(signed)
    found = _pieces(time_s, volts_v, signed, ways)
    # A moment the other way, a pulse of a test or a meter's zero, parts nothing.
    for piece in found:
        if not _counts(piece, found):
            ways[piece.first : piece.last + 1] = 0
    joined = _pieces(time_s, volts_v, signed, ways)
    return [piece for piece in joined if _counts(piece, joined)]


def _pieces(time_s: Floats, volts_v: Floats, amps: Floats, ways: NDArray[np.int_]) -> list[Piece]:
    return [_piece(time_s, volts_v, amps, stretch) for stretch in _stretches(time_s, ways)]


def _counts(piece: Piece, among: Sequence[Piece]) -> bool:
    most_ah = max(one.charge_ah for one in among)
    return piece.seconds >= LEAST_S and piece.charge_ah >= LEAST_SHARE * most_ah


def rows_of(piece: Piece, time_s: Floats, amps: Floats) -> slice:
    """Its rows, and of the rests beside it what shows how the cell settles."""
    flows = np.abs(amps) > _still_a(amps)
    first, last = piece.first, piece.last
    while first > 0 and not flows[first - 1] and time_s[piece.first] - time_s[first - 1] <= REST_BEFORE_S:
        first -= 1
    while last + 1 < len(amps) and not flows[last + 1] and time_s[last + 1] - time_s[piece.last] <= REST_AFTER_S:
        last += 1
    return slice(first, last + 1)


def _still_a(amps: Floats) -> float:
    known = np.abs(amps[np.isfinite(amps)])
    most = float(np.quantile(known, 0.99)) if len(known) else 0.0
    return max(STILL_SHARE * most, min(STILL_A, 0.1 * most))


def _ways(amps: Floats) -> NDArray[np.int_]:
    """1 into the cell, -1 out of it, 0 where nothing flows."""
    still_a = _still_a(amps)
    return np.where(amps > still_a, 1, np.where(amps < -still_a, -1, 0))


def _stretches(time_s: Floats, ways: NDArray[np.int_], pause_s: float = PAUSE_S) -> Iterator[tuple[int, int, int]]:
    """Way, first and last row of each stretch of one way, its pauses in it."""
    flowing = np.flatnonzero(ways)
    if not len(flowing):
        return
    turns = (np.diff(ways[flowing]) != 0) | (np.diff(time_s[flowing]) > pause_s)
    starts = np.concatenate([[0], np.flatnonzero(turns) + 1])
    ends = np.concatenate([np.flatnonzero(turns), [len(flowing) - 1]])
    for start, end in zip(starts.tolist(), ends.tolist(), strict=True):
        yield int(ways[flowing[start]]), int(flowing[start]), int(flowing[end])


def _piece(time_s: Floats, volts_v: Floats, amps: Floats, stretch: tuple[int, int, int]) -> Piece:
    way, first, last = stretch
    time_h, flows = time_s[first : last + 1] / 3600, np.abs(amps[first : last + 1])
    charge_ah = float(np.sum(np.diff(time_h) * (flows[1:] + flows[:-1]) / 2))
    return Piece(
        kind="charge" if way > 0 else "discharge",
        first=first,
        last=last,
        seconds=float(time_s[last] - time_s[first]),
        charge_ah=charge_ah,
        from_v=float(volts_v[first]),
        to_v=float(volts_v[last]),
        starts_s=float(time_s[first] - np.nanmin(time_s)),
    )


def _signed(time_s: Floats, volts_v: Floats, amps: Floats) -> Floats:
    """A current that never turns its sign, turned where the volts fall while it flows, if elsewhere they rise."""
    known = amps[np.isfinite(amps)]
    still_a = _still_a(amps)
    if not len(known) or (known < -still_a).any():
        return amps
    stretches = list(_stretches(time_s, _ways(amps), UNSIGNED_PAUSE_S))
    trends = [_trend_v(volts_v[first : last + 1]) for _way, first, last in stretches]
    if not (any(trend > UNSIGNED_V for trend in trends) and any(trend < -UNSIGNED_V for trend in trends)):
        return amps
    signed, way = amps.copy(), 1
    for (_way, first, last), trend in zip(stretches, trends, strict=True):
        # One that hardly moves the volts goes on as the one before.
        way = way if abs(trend) < UNSIGNED_V else -1 if trend < 0 else 1
        signed[first : last + 1] *= way
    return signed


def _trend_v(volts_v: Floats) -> float:
    """From the middle of its first tenth to that of its last."""
    tenth = max(len(volts_v) // 10, 1)
    return float(np.median(volts_v[-tenth:]) - np.median(volts_v[:tenth]))
