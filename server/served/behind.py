"""How a call comes from the server to one of its workplaces: by HTTP on this machine, with a key that they share."""

from __future__ import annotations

import secrets
from collections.abc import Callable, Iterable
from contextlib import suppress
from http import HTTPStatus
from http.client import HTTPConnection, HTTPException, IncompleteRead
from queue import Empty, LifoQueue
from select import select
from time import monotonic
from typing import IO, Any, NamedTuple
from urllib.parse import quote

Environ = dict[str, Any]
Wsgi = Callable[[Environ, Any], Iterable[bytes]]

#: What a call bears besides its own headers: the key, and from which address it came to the server.
KEY, FROM = "Notch-Key", "Notch-From"

#: What is said of a connection, and not of what is carried on it (RFC 9110, 7.6.1); the server says its own.
_OF_THE_CONNECTION = {"connection", "keep-alive", "transfer-encoding", "upgrade", "te", "trailer", "server", "date"}

#: A connection that was not used for so long (s) is not used again: the other end may be closing it.
_KEPT = 30.0
#: So long (s) an answer is waited for: the longest that is worked out while somebody waits takes minutes.
_PATIENCE = 900.0


class Unreached(Exception):  # noqa: N818 - it is a state, and read as one
    """There was nobody who could have taken the call."""


class CutOff(Exception):  # noqa: N818 - it is a state, and read as one
    """The call was on its way when the other end was gone: what it asked for may be done or not."""


class Answer(NamedTuple):
    """What came back, whole."""

    status: int
    headers: list[tuple[str, str]]
    body: bytes


class Wire:
    """How a workplace at a port of this machine is reached; connections that nobody uses are kept for a while."""

    def __init__(self, port: int, key: str) -> None:
        self._port, self._key = port, key
        self._idle: LifoQueue[tuple[HTTPConnection, float]] = LifoQueue()

    def ask(self, environ: Environ) -> Answer:
        """What a call is answered. Raises `Unreached` and `CutOff`."""
        connection = self._connected()
        try:
            connection.request(
                environ["REQUEST_METHOD"], _target(environ), _body(environ), _headers(environ, self._key)
            )
            found = connection.getresponse()
            if found.length is None and not found.chunked:
                raise IncompleteRead(b"")  # its head is not whole: ours say how long they are
            body = found.read()
        except (OSError, HTTPException) as fault:
            connection.close()
            raise CutOff from fault
        if connection.sock is not None:
            self._idle.put((connection, monotonic()))
        return Answer(found.status, _carried(found.getheaders()), body)

    def _connected(self) -> HTTPConnection:
        with suppress(Empty):
            while True:
                connection, used = self._idle.get_nowait()
                # What can be read of a connection on which nothing was asked is that the other end is gone.
                if monotonic() - used < _KEPT and not select([connection.sock], [], [], 0)[0]:
                    return connection
                connection.close()
        connection = HTTPConnection("127.0.0.1", self._port, timeout=_PATIENCE, blocksize=65536)
        try:
            connection.connect()
        except OSError as fault:
            raise Unreached from fault
        return connection


def _target(environ: Environ) -> str:
    path = quote(environ["PATH_INFO"].encode("latin-1"))
    query = quote(environ.get("QUERY_STRING", "").encode("latin-1"), safe="%=&+,;:@!$'()*/?~-._")
    return f"{path}?{query}" if query else path


def _body(environ: Environ) -> IO[bytes] | None:
    if not environ.get("CONTENT_LENGTH"):
        return None
    body: IO[bytes] = environ["wsgi.input"]
    # It may have been on its way to another workplace before.
    body.seek(0)
    return body


def _headers(environ: Environ, key: str) -> dict[str, str]:
    own = {name[5:].replace("_", "-").title(): value for name, value in environ.items() if name.startswith("HTTP_")}
    own |= {"Content-Type": environ.get("CONTENT_TYPE", ""), "Content-Length": environ.get("CONTENT_LENGTH", "")}
    carried = {name: value for name, value in _carried(own.items()) if value}
    # Whatever the caller wrote there himself.
    return {**carried, KEY: key, FROM: environ["REMOTE_ADDR"]}


def _carried(headers: Iterable[tuple[str, str]]) -> list[tuple[str, str]]:
    return [(name, value) for name, value in headers if name.lower() not in _OF_THE_CONNECTION]


def behind(application: Wsgi, key: str) -> Wsgi:
    """An application that answers whoever has the key, as if the calls had come to it from where they came."""

    def answer(environ: Environ, start_response: Any) -> Iterable[bytes]:
        given = environ.pop("HTTP_NOTCH_KEY", "")
        if not secrets.compare_digest(given.encode("latin-1"), key.encode("latin-1")):
            start_response(f"{HTTPStatus.FORBIDDEN} Forbidden", [("Content-Type", "text/plain")])
            return [b"This is for the server alone."]
        environ["REMOTE_ADDR"] = environ.pop("HTTP_NOTCH_FROM", "")
        return application(environ, start_response)

    return answer
