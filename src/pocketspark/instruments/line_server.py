"""What stand-ins that speak SCPI have in common: a socket of the loopback that answers line by line."""

import socketserver
import threading
from collections.abc import Callable
from contextlib import suppress
from types import TracebackType
from typing import Self

# None: nothing is said. Raises EOFError to hang up.
Answers = Callable[[str], str | None]


class LineServer:
    """Serves `answers` until it ends, and ends its sessions with itself, as an instrument does that is switched off."""

    def __init__(self, answers: Answers, port: int = 0, end: str = "\n") -> None:
        class LineSession(socketserver.StreamRequestHandler):
            def handle(self) -> None:
                with suppress(OSError, ValueError, EOFError):
                    for line in self.rfile:
                        answer = answers(line.decode("latin-1").strip())
                        if answer is not None:
                            self.wfile.write((answer + end).encode())

        self._server = _SessionServer(("127.0.0.1", port), LineSession)
        self._thread = threading.Thread(target=self._server.serve_forever, args=(0.05,), daemon=True)

    @property
    def address(self) -> str:
        return f"127.0.0.1:{self._server.server_address[1]}"

    def __enter__(self) -> Self:
        self._thread.start()
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._server.shutdown()
        self._server.close_all()
        self._server.server_close()


class _SessionServer(socketserver.ThreadingTCPServer):
    daemon_threads = True
    allow_reuse_address = True

    def __init__(self, *args: object) -> None:
        self._open: list[object] = []
        super().__init__(*args)  # type: ignore[arg-type]

    def process_request(self, request: object, client_address: object) -> None:
        self._open.append(request)
        super().process_request(request, client_address)  # type: ignore[arg-type]

    def close_all(self) -> None:
        for request in self._open:
            with suppress(OSError):
                self.shutdown_request(request)  # type: ignore[arg-type]
