"""A way for a browser to come from elsewhere: it asks here, and here asks the server from another address."""

import socket
import socketserver
import threading
from contextlib import contextmanager, suppress

from ..strangers import FROM, HOST


class _Passing(socketserver.StreamRequestHandler):
    """One request of a browser that takes this for its proxy; each has a connection of its own."""

    def handle(self):
        method, url, kind = self.rfile.readline().decode("latin-1").split(" ", 2)
        _, _, whole = url.partition("//")
        place, _, path = whole.partition("/")
        # A browser asks for things of its own too; they are not here.
        if not place.startswith(f"{HOST}:"):
            return
        head, size = [f"{method} /{path} {kind}".encode("latin-1"), b"Connection: close\r\n"], 0
        while (line := self.rfile.readline()) not in (b"\r\n", b""):
            name, _, value = line.partition(b":")
            if name.lower() == b"content-length":
                size = int(value)
            if name.lower() not in (b"connection", b"proxy-connection"):
                head.append(line)
        with socket.create_connection((HOST, int(place.partition(":")[2])), source_address=(FROM, 0)) as server:
            server.sendall(b"".join(head) + b"\r\n" + self.rfile.read(size))
            # Whoever left the page waits for nothing more.
            with suppress(ConnectionError):
                while piece := server.recv(65536):
                    self.wfile.write(piece)


class _Proxy(socketserver.ThreadingTCPServer):
    daemon_threads = True


@contextmanager
def tablet_of(browser, served, size):
    """A page of a browser that comes from elsewhere."""
    way = _proxy()
    address, port = way.server_address
    context = browser.new_context(
        viewport=size,
        base_url=f"http://{HOST}:{served.port}",
        proxy={"server": f"http://{address}:{port}", "bypass": "<-loopback>"},
    )
    context.set_default_timeout(60_000)
    yield context.new_page()
    context.close()
    way.shutdown()
    way.server_close()


def _proxy():
    """One that runs until it is shut down; its address is ``server_address``."""
    made = _Proxy(("127.0.0.1", 0), _Passing)
    threading.Thread(target=made.serve_forever, daemon=True).start()
    return made
