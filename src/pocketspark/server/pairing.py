"""Pairing: a one-time code that is shown at the server opens it to one phone or computer on the same network."""

import io
import secrets
import time
from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import datetime
from html import escape
from typing import Annotated
from urllib.parse import parse_qs

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import HTMLResponse, RedirectResponse
from pydantic import BaseModel
from starlette.requests import HTTPConnection

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models.model import RowNumber, Title
from pocketspark.server.doorway import READS, Refused, is_loopback
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store.devices import PAIRED_FOR, THIS_COMPUTER, Devices

# Letters and digits that are not taken for one another when read aloud.
ALPHABET = "23456789ABCDEFGHJKLMNPQRSTUVWXYZ"
CODE_LENGTH = 8
CODE_LASTS_S = 600.0
# So many wrong codes within a minute, and no code of that device is looked at until the minute is over.
MOST_TRIES, TRIES_WITHIN_S = 5, 60.0
# Of so many addresses wrong codes are remembered; beyond, of the newest ones.
MOST_ADDRESSES = 1000
COOKIE = "pocket_spark_key"
OPEN_PATHS = frozenset({"/pair"})
QUESTIONS = "/api/questions/"


class WrongCode(PocketSparkError, ValueError):
    """The code is not the one that is shown, or its time is over."""

    status = 403


class TooManyTries(PocketSparkError, RuntimeError):
    """Codes were tried too often."""

    status = 429


class OnlyHere(PocketSparkError, PermissionError):
    """Pairing is done at the computer on which Pocket Spark runs."""

    status = 403


@dataclass
class Pairing:
    """The one code that is good now. `address`: where other devices find us; empty where they cannot.

    `fingerprint`: of our certificate, in words, by which the other screen is known to be ours.
    """

    address: str = ""
    fingerprint: str = ""
    clock: Callable[[], float] = time.monotonic
    _code: str = ""
    _made_at: float = 0.0
    _tries: dict[str, deque[float]] = field(default_factory=dict)

    @property
    def code(self) -> str:
        """The code that is good now; a new one once the former is used or too old."""
        if not self._code or self.clock() - self._made_at > CODE_LASTS_S:
            self._code = "".join(secrets.choice(ALPHABET) for _ in range(CODE_LENGTH))
            self._made_at = self.clock()
        return self._code

    @property
    def link(self) -> str:
        return f"{self.address}/pair?code={self.code}"

    def use(self, code: str, address: str = "") -> None:
        """Spend the code. Raises WrongCode, and TooManyTries where this address has tried too often."""
        moment = self.clock()
        tries = self._tries.setdefault(address, deque())
        while tries and moment - tries[0] > TRIES_WITHIN_S:
            tries.popleft()
        if len(tries) >= MOST_TRIES:
            raise TooManyTries(say("that was tried too often; wait a minute, then take the code that is shown"))
        # Compared as a whole, so that the time taken says nothing of how much was right.
        plain = code.upper().replace("-", "").replace(" ", "").encode(errors="replace")
        if not secrets.compare_digest(plain, self.code.encode()):
            tries.append(moment)
            while len(self._tries) > MOST_ADDRESSES:
                del self._tries[next(iter(self._tries))]
            raise WrongCode(say("this is not the code that Pocket Spark shows now; look at its page or terminal again"))
        self._code = ""


class PairingOffer(BaseModel):
    """What is shown at the server. `address` is empty where Pocket Spark is open to this computer only."""

    address: str
    fingerprint: str
    code: str
    link: str
    qr_svg: str


class PairedDevice(BaseModel):
    """One paired device."""

    id: int
    name: str
    paired_at: datetime
    seen_at: datetime
    expires_at: datetime
    reads_only: bool


class DeviceRights(BaseModel):
    """What a device is called, and whether it may only read."""

    name: Title
    reads_only: bool = False


def stranger_check(pairing: Pairing, devices: Devices) -> Callable[[HTTPConnection], Refused | None]:
    """Why a request may not be answered: it comes from another machine without the key of a paired device."""

    def refused(request: HTTPConnection) -> Refused | None:
        if request.client is None or is_loopback(request.client.host):
            return None
        if not pairing.address:
            return Refused(403, "Pocket Spark is open to its own computer only; start it with --lan to change that")
        if request.scope["path"] in OPEN_PATHS:
            return None
        if device := devices.knows(request.cookies.get(COOKIE, "")):
            request.state.device, request.state.reads_only = device.id, device.reads_only
            return _refused_to_readers(request) if device.reads_only else None
        return Refused(401, "this device is not paired yet: open /pair and type the code that Pocket Spark shows")

    return refused


def _refused_to_readers(request: HTTPConnection) -> Refused | None:
    """Questions change nothing: who may only read may ask them all."""
    if request.scope["method"] in READS or request.scope["path"].startswith(QUESTIONS):
        return None
    return Refused(
        403, "this device may only read: nothing was changed; the page Safekeeping at the computer says who may"
    )


router = APIRouter(prefix="/api", tags=["devices"], responses=PROBLEM_RESPONSES)
page = APIRouter(include_in_schema=False)


def pairing_of(request: Request) -> Pairing:
    pairing: Pairing = request.app.state.pairing
    return pairing


def devices_of(request: Request) -> Devices:
    devices: Devices = request.app.state.devices
    return devices


def at_this_computer(request: Request) -> None:
    """Raises OnlyHere."""
    if request.client is not None and not is_loopback(request.client.host):
        raise OnlyHere(say("devices are paired and put off at the computer on which Pocket Spark runs"))


def device_of(request: Request) -> int:
    """Which paired device asks, by its number; this computer where none does."""
    return int(getattr(request.state, "device", THIS_COMPUTER))


OurDevice = Annotated[int, Depends(device_of)]
OurPairing = Annotated[Pairing, Depends(pairing_of)]
OurDevices = Annotated[Devices, Depends(devices_of)]


@router.get("/pairing", dependencies=[Depends(at_this_computer)])
def pairing_offer(pairing: OurPairing) -> PairingOffer:
    """The code that is good now, as text and as a QR code."""
    if not pairing.address:
        return PairingOffer(address="", fingerprint="", code="", link="", qr_svg="")
    return PairingOffer(
        address=pairing.address,
        fingerprint=pairing.fingerprint,
        code=pairing.code,
        link=pairing.link,
        qr_svg=qr_svg(pairing.link),
    )


@router.get("/devices", dependencies=[Depends(at_this_computer)])
def paired_devices(devices: OurDevices) -> list[PairedDevice]:
    return [PairedDevice.model_validate(device, from_attributes=True) for device in devices.all()]


@router.put("/devices/{device_id}", status_code=204, dependencies=[Depends(at_this_computer)])
def change_device(device_id: RowNumber, rights: DeviceRights, devices: OurDevices) -> None:
    devices.change(device_id, rights.name, reads_only=rights.reads_only)


@router.delete("/devices/{device_id}", status_code=204, dependencies=[Depends(at_this_computer)])
def revoke_device(device_id: RowNumber, devices: OurDevices) -> None:
    devices.revoke(device_id)


def qr_svg(link: str) -> str:
    """The link as a QR code (ISO/IEC 18004), drawn as SVG."""
    import segno

    out = io.BytesIO()
    segno.make(link, error="m").save(out, kind="svg", scale=5, border=3, xmldecl=False, svgns=True)
    return out.getvalue().decode()


def qr_text(link: str) -> str:
    """The same for a terminal."""
    import segno

    out = io.StringIO()
    segno.make(link, error="m").terminal(out, border=2, compact=True)
    return out.getvalue()


# The one page that a stranger gets: plain, without a script ------------------------------------------------------


@page.get("/pair")
def pair_page(pairing: OurPairing, code: str = "") -> HTMLResponse:
    return HTMLResponse(_page(pairing.fingerprint, code))


@page.post("/pair")
async def pair(request: Request, pairing: OurPairing, devices: OurDevices) -> Response:
    """Spends the code for a key, which the browser keeps and no script reads."""
    typed = parse_qs((await request.body()).decode(errors="replace"))
    code, name = (typed.get(field, [""])[0].strip() for field in ("code", "name"))
    try:
        pairing.use(code, request.client.host if request.client else "")
    except (WrongCode, TooManyTries) as error:
        return HTMLResponse(_page(pairing.fingerprint, "", name, str(error)), status_code=error.status)
    answer = RedirectResponse("/", status_code=303)
    answer.set_cookie(
        COOKIE,
        devices.pair(_plain(name) or "A device"),
        max_age=int(PAIRED_FOR.total_seconds()),
        httponly=True,
        samesite="strict",
        secure=request.url.scheme == "https",
    )
    return answer


def _plain(name: str) -> str:
    return "".join(letter for letter in name if letter.isprintable())[:60].strip()


def _page(fingerprint: str, code: str, name: str = "", refusal: str = "") -> str:
    said = f'<p role="alert">{escape(refusal)}</p>' if refusal else ""
    if fingerprint:
        said += (
            f"<p>This page and that computer must show the same six words: <b>{escape(fingerprint)}</b>. Where they do "
            f"not, somebody stands between: type nothing.</p>"
        )
    return f"""<!doctype html>
<html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>Pair with Pocket Spark</title>
<style>
* {{ box-sizing: border-box }}
h1 {{ font-size: 1.4rem; margin: 0 }}
body {{ font: 18px/1.5 system-ui, sans-serif; background: #f7f3ec; color: #22303a; margin: 0; padding: 2rem 1.2rem }}
main {{ max-width: 26rem; margin: auto }} label {{ display: block; margin-top: 1rem }}
input, button {{ font: inherit; width: 100%; min-height: 48px; border: 1px solid #8a8578; border-radius: 3px;
  padding: 0 .7rem }}
button {{ margin-top: 1.4rem; background: #9a4b1c; color: #fff; border: 0 }} [role=alert] {{ color: #a3211c }}
@media (prefers-color-scheme: dark) {{
  body {{ background: #14191f; color: #ece5d8 }} input {{ background: #1d252d; color: inherit }}
  [role=alert] {{ color: #ff9c93 }}
}}
</style>
<main><h1>Pair with Pocket Spark</h1>
<p>Type the code that Pocket Spark shows on its page Safekeeping and in its terminal.
It is good once, for ten minutes.</p>
{said}
<form method="post" action="/pair">
<label>Code
<input name="code" value="{escape(code[:20])}" required autocomplete="off" autocapitalize="characters"></label>
<label>What to call this device <input name="name" value="{escape(name[:60])}" placeholder="bench phone"></label>
<button>Pair this device</button>
</form></main></html>"""
