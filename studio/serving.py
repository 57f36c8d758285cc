"""How gunicorn serves the site, but for where; it reads this file as its settings.

A worker takes a connection only when it has a thread for it, and lets go of it with the answer. So all requests wait in
one line, whoever asks, and none waits behind others while a worker is idle. A connection on which nobody has spoken yet
(browsers open some in advance) stays with the kernel and takes no thread. See docs/decisions/0060-one-line.md.
"""

import os
import socket

SPEAKS_WITHIN_S = 10

preload_app = True
worker_class = "gthread"
workers = min(max(2, os.cpu_count() or 2), 4)  # as many as reckon at once
threads = 3
worker_connections = threads
keepalive = 0
worker_tmp_dir = "/dev/shm" if os.access("/dev/shm", os.W_OK) else None
control_socket_disable = True
graceful_timeout = 4
timeout = 60
loglevel = "warning"
max_requests, max_requests_jitter = 20_000, 2_000


def when_ready(server: object) -> None:
    """Connections are handed over when the first bytes are there (Linux)."""
    for listener in server.LISTENERS:  # type: ignore[attr-defined]
        if hasattr(socket, "TCP_DEFER_ACCEPT"):
            listener.sock.setsockopt(socket.IPPROTO_TCP, socket.TCP_DEFER_ACCEPT, SPEAKS_WITHIN_S)
