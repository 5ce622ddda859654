"""Who may ask what: every request passes here first, and every answer gets its safety headers here.

A page from elsewhere can send requests to a server on the loopback address. So names other than our own are not
answered, writes come from our own pages or from no page at all, and nobody frames us.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from ipaddress import ip_address

from starlette.datastructures import Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.requests import HTTPConnection
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from pocketspark.formats import photograph, project_json, project_zip
from pocketspark.formats.log_csv import LARGEST_BYTES as LARGEST_LOG
from pocketspark.server.problems import problem

# Everything ships with the app: nothing may be loaded from elsewhere, and no page may show us inside itself.
SAFETY_HEADERS: Mapping[str, str] = {
    "Content-Security-Policy": (
        "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
        "frame-ancestors 'none'; base-uri 'none'; form-action 'self'; object-src 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}
READS = frozenset({"GET", "HEAD", "OPTIONS"})
# What a form of any page can send without asking first; our own pages send none of these.
OF_ANY_FORM = ("text/plain", "application/x-www-form-urlencoded")

# A document travels inside a question, with a reading or two beside it.
LARGEST_QUESTION = project_json.LARGEST_BYTES + 100_000
# A log within a question, as text; a larger one is uploaded once, and asked about by its number.
LARGEST_TEXT = 12_000_000
LARGEST_BODIES: tuple[tuple[str, int], ...] = (
    ("/api/projects/import", project_zip.LARGEST_BYTES),
    ("/api/questions/log", LARGEST_TEXT + LARGEST_QUESTION),
    ("/api/labels", photograph.LARGEST_BYTES),
    ("/pair", 2_000),
)
# What is taken under a conversion as the body itself, by the end of the path.
OF_A_PROJECT = "/api/projects/"
LARGEST_FILES: Mapping[str, Callable[[], int]] = {
    "/photos": lambda: photograph.LARGEST_BYTES,
    "/logs": lambda: LARGEST_LOG,
}


class TooLarge(HTTPException):
    """The body is larger than this route takes. The framework lets its own kind of exception pass while it reads."""

    def __init__(self, largest: int) -> None:
        super().__init__(413, _too_large(largest))


@dataclass(frozen=True)
class Refused:
    """A request that is not answered, and why."""

    status: int
    sentence: str


class Doorway:
    """The outermost layer of the app. `hosts`: names that are ours; `stranger`: why this one may not, or None."""

    def __init__(
        self, app: ASGIApp, hosts: frozenset[str], stranger: Callable[[HTTPConnection], Refused | None]
    ) -> None:
        self.app, self._hosts, self._stranger = app, hosts, stranger

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        safely = _with_safety_headers(send)
        if refused := self._refused(scope):
            await problem(refused.status, refused.sentence)(scope, receive, safely)
            return
        await self.app(scope, _at_most(receive, largest_body(scope["path"])), safely)

    def _refused(self, scope: Scope) -> Refused | None:
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        if _name_of(host) not in self._hosts:
            return Refused(
                400, f"Pocket Spark does not answer to the name {host[:80]!r}; open it as it says at its start"
            )
        # A picture of another page would start whatever costs us time: a backup, an export.
        if scope["path"].startswith("/api/") and not _from_our_own_page(headers, host):
            return Refused(403, "this came from another page: only Pocket Spark's own pages are answered")
        if scope["method"] not in READS:
            if not _from_our_own_page(headers, host):
                return Refused(403, "this came from another page: only Pocket Spark's own pages may change anything")
            kind = headers.get("content-type", "").partition(";")[0].strip().lower()
            if kind in OF_ANY_FORM and scope["path"] != "/pair":
                return Refused(415, f"a body is sent as JSON or as the file itself, not as {kind}")
        announced = headers.get("content-length", "")
        if announced.isdecimal() and int(announced[:20]) > (largest := largest_body(scope["path"])):
            return Refused(413, _too_large(largest))
        return self._stranger(HTTPConnection(scope))


def largest_body(path: str) -> int:
    """How many bytes may be sent to this path."""
    if path.startswith(OF_A_PROJECT):
        for end, largest in LARGEST_FILES.items():
            if path.endswith(end):
                return largest()
    return next((largest for place, largest in LARGEST_BODIES if path == place), LARGEST_QUESTION)


def is_loopback(address: str) -> bool:
    """Whether a client's address is of this very machine. What is no address (a pipe, say) is."""
    try:
        return ip_address(address.partition("%")[0]).is_loopback
    except ValueError:
        return True


def _too_large(largest: int) -> str:
    return f"that is over {largest / 1e6:.0f} MB, the most that is taken here" if largest > 1e6 else "that is too large"


def _name_of(host: str) -> str:
    """The host without its port."""
    return host[: host.rindex("]") + 1] if "]" in host else host.partition(":")[0].lower()


def _from_our_own_page(headers: Headers, host: str) -> bool:
    """A program that is no browser sends neither header."""
    origin, site = headers.get("origin"), headers.get("sec-fetch-site")
    if origin is not None and origin not in (f"http://{host}", f"https://{host}"):
        return False
    return site in (None, "same-origin", "none")


def _with_safety_headers(send: Send) -> Send:
    async def sending(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in SAFETY_HEADERS.items():
                headers[name] = value
        await send(message)

    return sending


def _at_most(receive: Receive, largest: int) -> Receive:
    """The body as it comes in, until it is more than that."""
    taken = 0

    async def receiving() -> Message:
        nonlocal taken
        message = await receive()
        taken += len(message.get("body", b""))
        if taken > largest:
            raise TooLarge(largest)
        return message

    return receiving
