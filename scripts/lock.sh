#!/usr/bin/env bash
# Resolve requirements/*.in anew into the locks (hashes, no addresses). Needs the environment of `./dakika test`.
set -eu
cd "$(dirname "${BASH_SOURCE[0]}")/.."
uv=.dakika/venv/bin/uv
compile() { "$uv" pip compile "$@" --python-version 3.11 --generate-hashes --no-header -q; }
compile requirements/run.in -o requirements/run.lock
compile requirements/standins.in -c requirements/run.lock -o requirements/demo.lock
compile requirements/test.in -c requirements/demo.lock -o requirements/test.lock
compile requirements/data.in --no-deps --no-annotate >>requirements/test.lock
