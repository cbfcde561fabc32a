"""./dakika COMMAND: see help."""

import os
import shutil
import signal
import subprocess
import sys
import time
from collections.abc import Callable

from scripts import checks, postgres
from scripts.environment import (
    ensure_front_end,
    ensure_node_packages,
    ensure_python,
    node_environment,
)
from scripts.paths import BUILT, PYTHON, ROOT, STATE, VENV, WEB, python_path
from scripts.running import Serving, refusal, running_here, serving, status, stop
from scripts.serve import back_up_or_restore, everything, let_in, retain, serve, show_settings
from scripts.stack import TABLES, Stack, ensure_tables
from scripts.steps import guarded, step
from scripts.system import ensure_packages

HELP = """./dakika COMMAND

  serve        the same for one's own brands, without the demo: settings from the environment or from dakika.env
               ./dakika serve worker  that part alone: web, worker, links, events
  backup       everything of it in one file, while people work     ./dakika backup FILE
  restore      an installation from such a file, where nobody is yet
  settings     every setting, and what it is without one
  start        install what is missing, start everything, print the address (Ctrl-C stops)
  dev          the same with reloading, for people who change it
  stop         end what runs from this folder
  status       whether something runs from this folder, and where
  test         every test; what .ci/run calls      ./dakika test -k NAME  passes on to pytest
  bench        measure speed and print a table    ./dakika bench redirect  measures that part alone
               ./dakika bench statistics  holds the statistics against worlds whose truth is known
  shots        draw docs/screenshots/ anew from the demo
  let-in       somebody who lost their device, by their address: prints where they set a new password
  retention    what would go of what is kept for a time alone; --apply lets it go now
  export       everything of a brand as an archive, or of a person as JSON    ./dakika export brand SLUG FILE
  erase        everything of a brand or a person, for good                    ./dakika erase person ADDRESS
  install      what `serve` needs, without starting it
  reset-demo   throw the demo's data away; the next start loads it anew
  help         this
"""
RESTART_AFTER_SECONDS = 2.0


def set_up(*, for_tests: bool = False) -> None:
    """Everything that is installed or built, once."""
    STATE.mkdir(parents=True, exist_ok=True)
    ensure_packages(for_tests=for_tests)
    ensure_python(lock="test" if for_tests else "demo")


def start() -> int:
    """Install, start, and stay until Ctrl-C."""
    return _serve(has_reloading=False)


def dev() -> int:
    """As start; the web server and the front end reload when their sources change."""
    return _serve(has_reloading=True)


def _serve(*, has_reloading: bool) -> int:
    print("Dakika")
    with serving() as place:
        return _served(place, has_reloading=has_reloading)


def _served(place: Serving, *, has_reloading: bool) -> int:
    set_up()
    ensure_front_end()
    with postgres.running():
        stack = Stack(name="dakika")
        stack.choose_ports()
        # SIGTERM stops as Ctrl-C does, so that service managers can end us cleanly.
        signal.signal(signal.SIGTERM, signal.default_int_handler)
        try:
            stack.prepare()
            with step("Starting the stand-in networks"):
                stack.start_standins()
            stack.load_demo()
            with step("Starting web server and worker"):
                stack.start_rest()
            front = _front_end_server(stack) if has_reloading else None
            place.tell(stack.address)
            _greet(stack)
            _watch(stack, has_reloading=has_reloading, front=front)
        finally:
            with step("Stopping"):
                stack.stop()
    return 0


def _front_end_server(stack: Stack) -> "subprocess.Popen[bytes]":
    environment = {**node_environment(), "DAKIKA_PUBLIC_ADDRESS": stack.address}
    ensure_node_packages()
    return subprocess.Popen(["npm", "run", "dev"], cwd=WEB, env=environment)


def _greet(stack: Stack) -> None:
    print(
        f"\n  Dakika is at      {stack.address}\n"
        "  Sign in as        mira@ninthbell.example  (may change things)\n"
        "             or     guest@ninthbell.example (may only look)\n"
        "  Password          half past nine\n"
        f"  Networks' side    http://127.0.0.1:{stack.standins_port}/sites/orreryhouse\n"
        f"  Letters it sends  http://127.0.0.1:{stack.standins_port}/mail\n"
        "  Ctrl-C stops.\n",
        flush=True,
    )


def _watch(stack: Stack, *, has_reloading: bool, front: "subprocess.Popen[bytes] | None") -> None:
    """Start again whatever dies, until Ctrl-C; with reloading, also when a source file changes."""
    seen = _newest_source()
    try:
        while True:
            time.sleep(1.0)
            for name, process in list(stack.processes.items()):
                if process.poll() is not None:
                    print(f"  {name} ended with {process.returncode}; it is started again.", flush=True)
                    time.sleep(RESTART_AFTER_SECONDS)
                    stack.start(name)
            if has_reloading and (newest := _newest_source()) != seen:
                seen = newest
                for name in ("web", "worker"):
                    stack.processes[name].terminate()
                    stack.processes[name].wait()
                    stack.start(name)
                print("  Reloaded.", flush=True)
    except KeyboardInterrupt:
        print("", flush=True)
    finally:
        if front:
            front.terminate()


def _newest_source() -> float:
    return max(p.stat().st_mtime for room in ("core", "server") for p in (ROOT / room).rglob("*.py"))


def test() -> int:
    """All checks and tests; arguments go to pytest, and then pytest alone is run."""
    arguments = sys.argv[2:]
    set_up(for_tests=True)
    ensure_node_packages()
    ensure_front_end()
    environment = {
        **node_environment(),
        "PYTHONPATH": python_path(),
        "DAKIKA_INSECURE": "1",
        "OMP_NUM_THREADS": "1",
        "OPENBLAS_NUM_THREADS": "1",
    }
    environment["PATH"] = f"{VENV / 'bin'}{os.pathsep}{environment['PATH']}"
    with postgres.running():
        ensure_tables()
        environment |= {**postgres.connection("postgres"), "DAKIKA_TABLES": TABLES}
        return checks.picked(arguments, environment) if arguments else checks.everything(environment)


def _with_stack(module: str) -> int:
    """Run a script of ours in the environment of the tests (it needs the browser)."""
    set_up(for_tests=True)
    ensure_front_end()
    environment = {**node_environment(), "PYTHONPATH": python_path(), "DAKIKA_INSECURE": "1"}
    with postgres.running():
        command = [str(PYTHON), "-m", module, *sys.argv[2:]]
        return subprocess.run(command, cwd=ROOT, env=environment).returncode


def bench() -> int:
    """Measure."""
    return _with_stack("scripts.bench")


def shots() -> int:
    """Draw the pictures."""
    return _with_stack("scripts.shots")


def reset_demo() -> int:
    """Drop the demo's database and the stand-ins' memory. Raises StepError while it is being served."""
    if running_here():
        raise refusal()
    set_up()
    with postgres.running():
        postgres.sql('DROP DATABASE IF EXISTS "dakika" WITH (FORCE)')
    (STATE / "standins-dakika.json").unlink(missing_ok=True)
    shutil.rmtree(STATE / "links-dakika", ignore_errors=True)
    print("The demo's data is gone. ./dakika start loads it anew.")
    return 0


def serve_parts() -> int:
    """Serve an installation of one's own; arguments are its parts."""
    return serve(sys.argv[2:])


def install() -> int:
    """Install and build what `serve` needs, and end: for images, and before a machine loses its network."""
    BUILT.mkdir(parents=True, exist_ok=True)
    ensure_packages()
    ensure_python(lock="run")
    ensure_front_end()
    return 0


def let_somebody_in() -> int:
    """For who lost their device or gets no mail."""
    return let_in(sys.argv[2:])


def retention() -> int:
    """What has an end."""
    return retain(sys.argv[2:])


def give_out() -> int:
    """Everything of a brand or a person."""
    return everything("export", sys.argv[2:])


def take_out() -> int:
    """The same, for good."""
    return everything("erase", sys.argv[2:])


def backup() -> int:
    """Everything of an installation in one file."""
    return back_up_or_restore("backup", sys.argv[2:])


def restore() -> int:
    """An installation from such a file."""
    return back_up_or_restore("restore", sys.argv[2:])


def show_help() -> int:
    """What there is."""
    print(HELP)
    return 0


COMMANDS: dict[str, Callable[[], int]] = {
    "start": start,
    "dev": dev,
    "serve": serve_parts,
    "install": install,
    "let-in": let_somebody_in,
    "retention": retention,
    "export": give_out,
    "erase": take_out,
    "settings": show_settings,
    "backup": backup,
    "restore": restore,
    "stop": stop,
    "status": status,
    "test": test,
    "bench": bench,
    "shots": shots,
    "reset-demo": reset_demo,
    "help": show_help,
}


# Whose arguments are passed on.
TAKE_ARGUMENTS = ("test", "bench", "shots", "serve", "backup", "restore", "let-in", "retention", "export", "erase")


def main() -> int:
    """Find the command and run it."""
    name = sys.argv[1] if len(sys.argv) > 1 else "help"
    if name in ("-h", "--help"):
        name = "help"
    if name not in COMMANDS:
        print(f"There is no command {name}.\n\n{HELP}", file=sys.stderr)
        return 2
    if sys.argv[2:] and name not in TAKE_ARGUMENTS:
        print(f"{name} takes nothing more: {' '.join(sys.argv[2:])} is not understood.\n\n{HELP}", file=sys.stderr)
        return 2
    # Where a shell started us in the background and had Ctrl-C ignored, our children would ignore it as well.
    signal.signal(signal.SIGINT, signal.default_int_handler)
    return guarded(COMMANDS[name])


if __name__ == "__main__":
    raise SystemExit(main())
