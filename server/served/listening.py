"""Where the application listens: on this machine, and at an address for others, who cannot take each other's turn or
this machine's.
"""

from __future__ import annotations

import errno
import ipaddress
import socket
import threading
import time
from collections.abc import Callable
from typing import Any, cast

import waitress
from django.conf import settings
from django.http.cookie import parse_cookie
from handin import gate
from leannotch_core.said import Said
from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.server import TcpWSGIServer

#: The most that is received of a request, in bytes; and of one from elsewhere that comes without a session.
LARGEST, LARGEST_STRANGERS = 64_000_000, 20_000
#: A request from elsewhere has to be here in so many seconds: its head, and its body for each MB of it.
SECONDS, SECONDS_EACH_MB = 10.0, 10.0
#: So many connections from elsewhere are open at once, and so many of one address.
MOST, MOST_OF_ONE = 200, 24
#: How often (s) it is looked at what takes too long.
_EVERY = 2


class CannotListen(Said):
    """An address that cannot be listened at; the message is a sentence to show."""


def address_of(host: str) -> str:
    """An address of this machine as it is listened at. Raises `CannotListen`."""
    bare = host.strip().removeprefix("[").removesuffix("]")
    try:
        found = ipaddress.ip_address(bare)
    except ValueError as error:
        raise CannotListen(
            f"“{host}” is no address; give one of this machine's own, such as 192.168.1.20 (ip addr, or ipconfig)."
        ) from error
    if found.is_unspecified:
        raise CannotListen(f"{bare} stands for all addresses; give the one of the network that others are in.")
    if bare in gate.LOOPBACK:
        raise CannotListen(f"{bare} is this machine alone, which is served always; give the address that others reach.")
    return f"[{bare}]" if found.version == 6 else bare


class _Smaller:
    """The adjustments of a server, but for how large a body may be."""

    max_request_body_size = LARGEST_STRANGERS

    def __init__(self, whole: Any) -> None:
        self._whole = whole

    def __getattr__(self, name: str) -> Any:
        return getattr(self._whole, name)


class _Request(HTTPRequestParser):
    """A request from elsewhere: of those who said no word, a large one is refused by its head."""

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        # Other programs at this address leave cookies of every kind, and none of them may stop a request.
        if parse_cookie(self.headers.get("COOKIE", "")).get(settings.SESSION_COOKIE_NAME) not in gate.LET_IN:
            self.adj: Any = _Smaller(self.adj)


class _Channel(HTTPChannel):
    """A connection from elsewhere; what it asks has to be here in time."""

    parser_class = _Request
    _began = 0.0

    def received(self, data: bytes) -> Any:
        if self.request is None:
            self._began = time.time()
        return super().received(data)

    def is_late(self, now: float) -> bool:
        if self.requests or self.total_outbufs_len:
            return False
        if self.request is None:
            return bool(now - self.last_activity > SECONDS)
        return bool(now - self._began > SECONDS + SECONDS_EACH_MB * self.request.content_length / 1e6)


class _Elsewhere(TcpWSGIServer):
    """Serves one address to others, with connections and workers of its own."""

    channel_class = _Channel

    def set_socket_options(self, conn: socket.socket) -> None:
        super().set_socket_options(conn)
        address = conn.getpeername()[0]
        if sum(channel.addr[0] == address for channel in self.active_channels.values()) >= MOST_OF_ONE:
            conn.close()
            # What accepts connections goes on after this, as after any that is gone already.
            raise ConnectionAbortedError(f"{address} has {MOST_OF_ONE} connections already")

    def maintenance(self, now: float) -> None:
        for channel in list(self.active_channels.values()):
            if channel.is_late(now):
                channel.will_close = True


def here(application: Any, port: int) -> Any:
    """A server on this machine alone. Raises `CannotListen`."""
    return _listening(
        lambda: waitress.create_server(
            application, listen=f"127.0.0.1:{port}", threads=16, max_request_body_size=LARGEST
        ),
        f"port {port}",
        port,
    )


def elsewhere(application: Any, host: str, port: int) -> _Elsewhere:
    """A server for others at an address of this machine; it runs beside the other one. Raises `CannotListen`."""
    address = address_of(host)
    adjusted = Adjustments(
        listen=f"{address}:{port}",
        threads=48,
        connection_limit=MOST,
        cleanup_interval=_EVERY,
        max_request_body_size=LARGEST,
        log_socket_errors=False,
    )
    return cast(
        _Elsewhere,
        _listening(lambda: _Elsewhere(application, adj=adjusted), f"{host}, port {port},", port),
    )


def begin(server: _Elsewhere) -> None:
    """Lets a server run beside the one of this machine."""
    threading.Thread(target=server.run, daemon=True, name="elsewhere").start()


def _listening(make: Callable[[], Any], what: str, port: int) -> Any:
    try:
        return make()
    except OSError as error:
        if error.errno == errno.EADDRINUSE:
            why = f"{what} is in use by another program; try --port {port + 1}"
        elif error.errno == errno.EADDRNOTAVAIL:
            why = f"{what} is no address of this machine (ip addr, or ipconfig, lists them)"
        else:
            why = f"{what} cannot be used ({error.strerror}); try --port {port + 1}"
        raise CannotListen(why) from error
