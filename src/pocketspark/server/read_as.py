"""The units of whoever asks: its page keeps them in a cookie, so that answers, files and streams all know them."""

from http.cookies import CookieError, SimpleCookie

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Receive, Scope, Send

from pocketspark.core.units.reading import METRIC, ReadersUnits, read_as, reading_named

COOKIE = "units"


class InTheirUnits:
    """Answers each request in the units that its cookie names ("in.F"); in mm and Celsius where it names none."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        wanted = _wanted(Headers(scope=scope).get("cookie", "")) if scope["type"] == "http" else METRIC
        with read_as(wanted):
            await self._app(scope, receive, send)


def _wanted(cookies: str) -> ReadersUnits:
    """Anybody may send a cookie: one that is none of ours is left aside."""
    try:
        sent = SimpleCookie(cookies)
    except CookieError:
        return METRIC
    return reading_named(sent[COOKIE].value) if COOKIE in sent else METRIC
