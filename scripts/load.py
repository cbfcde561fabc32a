"""Visitors who follow a short link: over connections that stay open, bare sockets, so that the server is what is measured.

python -m scripts.load ADDRESS CODE SECONDS CLIENTS RATE      prints one line of JSON
"""

import asyncio
import json
import sys
import time
from urllib.parse import urlsplit

PERSON = "Mozilla/5.0 (Linux; Android 14) AppleWebKit/537.36 (KHTML, like Gecko) Mobile Safari/537.36"


async def main(address: str, code: str, seconds: float, clients: int, rate: int) -> dict[str, float]:
    """As fast as answers come (rate 0), or that many a second over all clients."""
    host, port = urlsplit(address).hostname or "", urlsplit(address).port or 80
    request = f"GET /{code} HTTP/1.1\r\nHost: {host}:{port}\r\nUser-Agent: {PERSON}\r\n\r\n".encode()
    times: list[float] = []
    end = time.perf_counter() + seconds

    async def visit(number: int) -> None:
        reader, writer = await asyncio.open_connection(host, port)
        due = time.perf_counter() + number / max(1, rate)
        while (now := time.perf_counter()) < end:
            if rate:
                await asyncio.sleep(max(0.0, due - now))
            begun = due if rate else now  # late is late, also when the answer before it was slow
            writer.write(request)
            head = await reader.readuntil(b"\r\n\r\n")
            assert head.startswith(b"HTTP/1.1 302"), head
            times.append(time.perf_counter() - begun)
            due += clients / max(1, rate)
        writer.close()

    await asyncio.gather(*(visit(i) for i in range(clients)))
    times.sort()
    return {"done": len(times), "p50_ms": times[len(times) // 2] * 1000, "p99_ms": times[int(len(times) * 0.99)] * 1000}


if __name__ == "__main__":
    import uvloop

    given = sys.argv[1:]
    print(json.dumps(uvloop.run(main(given[0], given[1], float(given[2]), int(given[3]), int(given[4])))))
