"""Start one redirect process: python -m dakika_redirect --port 8200. Several may run side by side."""

import argparse
import asyncio
import contextlib
import socket

import uvicorn

from dakika_redirect.app import Redirect
from dakika_redirect.config import from_environment
from dakika_redirect.proxies import behind

BACKLOG = 2048


def listening(host: str, port: int) -> socket.socket:
    """A socket that other processes may share: the kernel spreads the visitors."""
    made = socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    made.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    made.bind((host, port))
    return made


async def serve(host: str, port: int) -> None:
    """Until SIGTERM: what waits is answered, and the journal is taken in once more."""
    config = from_environment()
    redirect = Redirect(config)
    redirect.start()
    following = asyncio.create_task(redirect.follower.run())
    server = uvicorn.Server(
        uvicorn.Config(
            redirect if config.hops is None else behind(redirect, config.hops),
            http="httptools",
            loop="none",
            lifespan="off",
            log_level="warning",
            access_log=False,
            proxy_headers=config.hops is None,
            forwarded_allow_ips=config.proxies,
            server_header=False,
            backlog=BACKLOG,
            timeout_graceful_shutdown=5,
        )
    )
    try:
        await server.serve(sockets=[listening(host, port)])
    finally:
        following.cancel()
        with contextlib.suppress(asyncio.CancelledError):
            await following
        await redirect.follower.close()
        await asyncio.to_thread(redirect.stop)


def main() -> None:
    """Read the arguments and serve."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=8200)
    given = parser.parse_args()
    import uvloop

    uvloop.run(serve(given.host, given.port))


if __name__ == "__main__":
    main()
