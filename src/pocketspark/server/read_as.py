"""The units and language of whoever asks: its page keeps them in a cookie, so that answers, files and streams know."""

from http.cookies import CookieError, SimpleCookie

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send

from pocketspark.core.units.reading import METRIC, ReadersUnits, read_as
from pocketspark.wording import reader_named

COOKIE = "units"


class AsTheyRead:
    """Answers each request in the units and language that its cookie names ("in.F.comma.de").

    Where it names no units: mm and Celsius. Where it names no language: what the browser says it accepts.
    """

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        with read_as(_wanted(Headers(scope=scope)) if scope["type"] == "http" else METRIC):
            await self._app(scope, receive, send)


def _wanted(headers: Headers) -> ReadersUnits:
    """Anybody may send a cookie: one that is none of ours is left aside."""
    accepted = [part.partition(";")[0] for part in headers.get("accept-language", "").split(",")]
    try:
        sent = SimpleCookie(headers.get("cookie", ""))
    except CookieError:
        return reader_named("", accepted)
    return reader_named(sent[COOKIE].value if COOKIE in sent else "", accepted)
