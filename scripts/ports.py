"""Ports on loopback, each taken by one installation."""

import socket

# What this process has taken, for whom. A name of Linux's own kind (unix(7), abstract sockets): nobody else can have
# it while we live, and it goes with us, however we end.
_taken: dict[int, str] = {}


def take_port(first: int, holder: str, *, tries: int = 200) -> int:
    """The first port from `first` on that nobody listens on and no other copy of ours has taken; it is taken then.

    To look for a free one is not enough: two copies that start at the same moment would find the same, and the
    redirect's port, which several processes may share, would send one copy's visitors to the other. A holder gets
    its own port again. Raises OSError when none of `tries` ports is free.
    """
    for port in range(first, first + tries):
        if (_taken[port] == holder if port in _taken else _take(port, holder)) and _is_free(port):
            return port
    raise OSError(f"no free port between {first} and {first + tries}")


def _take(port: int, holder: str) -> bool:
    name = socket.socket(socket.AF_UNIX)
    try:
        name.bind(f"\0dakika-port-{port}")
    except OSError:
        name.close()
        return False
    name.detach()  # open until we end
    _taken[port] = holder
    return True


def _is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
    return True
