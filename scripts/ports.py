"""Ports on loopback."""

import socket


def free_port(first: int, *, tries: int = 200) -> int:
    """The first port from `first` on that nobody listens on.

    Raises OSError when none of `tries` ports is free.
    """
    for port in range(first, first + tries):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return port
    raise OSError(f"no free port between {first} and {first + tries}")
