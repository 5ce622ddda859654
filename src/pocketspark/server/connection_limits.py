"""Connections from the network, bounded: whoever holds many open, or drips a request in, keeps nobody else out."""

import asyncio
from collections import Counter
from typing import Any

from uvicorn.protocols.http.auto import AutoHTTPProtocol

# A browser opens six at once; a family behind one address has some.
MOST_OF_AN_ADDRESS = 24
# Of all together, so that the descriptors of files and of this computer's own pages are there always.
MOST_IN_ALL = 200
# A request's head comes within this time, and its body within that.
HEAD_WITHIN_S, BODY_WITHIN_S = 10.0, 300.0
TOO_MANY = b"HTTP/1.1 503 Service Unavailable\r\ncontent-length: 0\r\nconnection: close\r\n\r\n"


def bounded_protocol(
    head_within_s: float = HEAD_WITHIN_S, body_within_s: float = BODY_WITHIN_S
) -> type[asyncio.Protocol]:
    """A class of connections of one listener, which counts them together."""
    open_now: Counter[str] = Counter()

    class Bounded(AutoHTTPProtocol):  # type: ignore[misc, valid-type]
        """A connection of uvicorn's that is closed where it asks too slowly, or too many of its address are open."""

        def connection_made(self, transport: Any) -> None:
            self.address = str((transport.get_extra_info("peername") or ("",))[0])
            self.is_counted = open_now[self.address] < MOST_OF_AN_ADDRESS and open_now.total() < MOST_IN_ALL
            if not self.is_counted:
                transport.write(TOO_MANY)
                transport.close()
                return
            open_now[self.address] += 1
            super().connection_made(transport)
            self.begun_s, self.last_cycle = self.loop.time(), None
            self.watch = self.loop.call_later(head_within_s / 2, self.look)

        def data_received(self, data: bytes) -> None:
            if self.is_counted:
                super().data_received(data)

        def connection_lost(self, exc: Exception | None) -> None:
            if self.is_counted:
                self.is_counted = False
                self.watch.cancel()
                open_now[self.address] -= 1
                if not open_now[self.address]:
                    del open_now[self.address]
                super().connection_lost(exc)

        def look(self) -> None:
            """Now and then: has a request been answered or begun since, and how long does its body take?"""
            if self.cycle is not self.last_cycle:
                self.last_cycle, self.begun_s = self.cycle, self.loop.time()
            taken_s = self.loop.time() - self.begun_s
            waits_for_head = self.cycle is None or self.cycle.response_complete
            waits_for_body = not waits_for_head and self.cycle.more_body
            if (waits_for_head and taken_s > head_within_s) or (waits_for_body and taken_s > body_within_s):
                self.transport.close()
                return
            if not waits_for_head and not waits_for_body:
                self.begun_s = self.loop.time()  # we are answering: the next head counts from the end of it
            self.watch = self.loop.call_later(head_within_s / 2, self.look)

    return Bounded
