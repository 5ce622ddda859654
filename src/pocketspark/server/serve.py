"""Runs the app until it is told to stop: on the loopback address, and with --lan encrypted on the network too."""

import asyncio
import resource
import socket
from contextlib import suppress
from typing import Any

import typer
import uvicorn

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.server.app import create_app
from pocketspark.server.connection_limits import bounded_protocol
from pocketspark.server.keystrokes import Keystrokes
from pocketspark.server.pairing import qr_text
from pocketspark.server.settings import Settings
from pocketspark.server.tls_certificate import certificate_in, fingerprint_in_words, own_names

LOOPBACK = ("127.0.0.1", "localhost", "::1")


class NotOnTheNetwork(PocketSparkError, RuntimeError):
    """This machine has no address that another could reach."""


def serve_until_stopped(settings: Settings, host: str, port: int, lan_host: str | None = None) -> None:
    """Raises UnusableData, NotOnTheNetwork."""
    names = own_names() if lan_host else []
    if lan_host and lan_host != "0.0.0.0":
        names = [lan_host, *(name for name in names if name != lan_host)]
    if lan_host and not names:
        raise NotOnTheNetwork(say("this computer is on no network now; start without --lan, or join one first"))
    settings.hosts = [*settings.hosts, *names]
    _allow_many_files()
    keystrokes = Keystrokes()
    keystrokes.start()
    app = create_app(settings, keystrokes)
    listener = _listen(host, port)
    address, actual = listener.getsockname()[:2]
    servers = [_server(app, listener)]
    if lan_host:
        open_listener = _listen(lan_host, actual + 1)
        certificate, key = certificate_in(settings.data, names)
        app.state.pairing.fingerprint = fingerprint_in_words(certificate)
        app.state.pairing.address = f"https://{names[0]}:{open_listener.getsockname()[1]}"
        servers.append(
            _server(
                app,
                open_listener,
                ssl_certfile=str(certificate),
                ssl_keyfile=str(key),
                lifespan="off",
                http=bounded_protocol(),
            )
        )
    typer.echo(f"Pocket Spark is at http://{address}:{actual}  (Ctrl+C ends it; data in {settings.data})")
    if lan_host:
        pairing = app.state.pairing
        typer.echo(f"Other devices: open {pairing.address}/pair and type {pairing.code}, or point a phone here:")
        typer.echo(qr_text(pairing.link))
        typer.echo("Their browser will say that it does not know the certificate: it is this computer's own.")
        typer.echo(f"Both screens must show the same six words: {pairing.fingerprint}")
    asyncio.run(_run(servers))


def _allow_many_files() -> None:
    """As many descriptors as this user may have, so that connections of the network leave some for everything else."""
    most = resource.getrlimit(resource.RLIMIT_NOFILE)[1]
    with suppress(ValueError, OSError):
        resource.setrlimit(resource.RLIMIT_NOFILE, (most, most))


class _Server(uvicorn.Server):
    """A server together with the listener that it answers on."""

    def __init__(self, config: uvicorn.Config, listener: socket.socket) -> None:
        super().__init__(config)
        self.listener = listener


def _server(app: object, listener: socket.socket, **more: Any) -> _Server:
    listener.listen(128)  # so that whoever reads the address may connect at once
    config = uvicorn.Config(app, log_level="warning", timeout_graceful_shutdown=1, **more)  # type: ignore[arg-type]
    return _Server(config, listener)


async def _run(servers: list[_Server]) -> None:
    """All of them until one is told to stop, which only the last one started hears of."""

    async def until_stopped(server: _Server) -> None:
        await server.serve(sockets=[server.listener])
        for other in servers:
            other.should_exit = True

    await asyncio.gather(*(until_stopped(server) for server in servers))


def _listen(host: str, port: int) -> socket.socket:
    """Bind the wanted port, or the next free one where it is taken."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    # Named as TCP, or asyncio leaves its small-packet delay on and every answer takes 40 ms longer.
    listener = socket.socket(family, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
    except OSError:
        typer.echo(f"Port {port} is taken; using a free one.", err=True)
        listener.bind((host, 0))
    return listener
