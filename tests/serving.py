"""The real application, served from a data folder of its own."""

import json
import os
import socket
import subprocess
import sys
import time
import urllib.request

from .projects import ROOT


class Served:
    """A server and its worker on a free port, with the demo loaded."""

    def __init__(self, data):
        self.environment = {**os.environ, "NOTCH_DATA": str(data)}
        manage = [sys.executable, str(ROOT / "server" / "manage.py")]
        subprocess.run([*manage, "prepare"], check=True, env=self.environment, capture_output=True)
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        command = [*manage, "serve", "--port", str(self.port)]
        self.process = subprocess.Popen(command, env=self.environment, stdout=subprocess.DEVNULL)
        self._await()

    @property
    def url(self):
        return f"http://127.0.0.1:{self.port}"

    def _await(self):
        until = time.monotonic() + 60
        while time.monotonic() < until:
            try:
                self.get("/api/projects")
                return
            except OSError:
                time.sleep(0.1)
        raise RuntimeError("the server did not start")

    def get_bytes(self, path):
        with urllib.request.urlopen(self.url + path) as answer:
            return answer.read()

    def get(self, path):
        return json.loads(self.get_bytes(path))

    def post_bytes(self, path, body):
        request = urllib.request.Request(self.url + path, body, {"Content-Type": "application/json"})
        with urllib.request.urlopen(request) as answer:
            return json.load(answer)

    def post(self, path, body):
        return self.post_bytes(path, json.dumps(body).encode())

    def stop(self):
        self.process.terminate()
        self.process.wait()
