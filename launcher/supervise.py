"""Keeping what serves up: the app and its database, started again where they die or answer nobody."""

from __future__ import annotations

import ctypes
import signal
import subprocess
import time
import urllib.request
from collections.abc import Callable, Mapping
from contextlib import suppress

from .stages import ROOT, Failure

POLL_S = 5.0
"""Seconds between two looks at what runs."""
MAX_MISSED_CHECKS = 24
"""Looks in a row without an answer before the app is started again: two minutes."""
WAITS = (0.5, 2.0, 5.0, 15.0, 30.0)
"""Seconds before it is started again: longer each time that it dies soon after its start."""
EARLY_EXIT_S = 60.0
"""Seconds within which a death is soon."""
pause = time.sleep
SAID_EVERY = 15.0
"""Seconds after which a start that takes long says so again."""
SHUTDOWN_TIMEOUT_S = 25
"""Seconds the app has to finish what is at work when it is told to stop."""


def die_with_parent() -> None:
    """In the child, before it starts: end with the launcher, even where that is killed outright."""
    ctypes.CDLL(None).prctl(1, signal.SIGTERM)  # PR_SET_PDEATHSIG


class App:
    """The app's process, and whether it answers."""

    def __init__(self, command: list[str], env: Mapping[str, str], address: str) -> None:
        self.command, self.env, self.address = command, env, address
        self.opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
        self.process = self._begin()

    def _begin(self) -> subprocess.Popen[bytes]:
        self.started = time.monotonic()
        return subprocess.Popen(
            self.command,
            env=dict(self.env),
            cwd=ROOT,
            start_new_session=True,
            preexec_fn=die_with_parent,
        )

    def again(self) -> None:
        self.stop()
        self.process = self._begin()

    def answers(self, timeout: float = 2.0) -> bool:
        with suppress(OSError), self.opener.open(f"{self.address}/api/health", timeout=timeout):
            return True
        return False

    def wait_until_it_answers(self) -> None:
        """As long as it lives: a busy machine takes its time. Raises Failure where it ends instead."""
        said = self.started
        while self.process.poll() is None:
            if self.answers():
                return
            pause(0.05)
            if time.monotonic() - said > SAID_EVERY:
                said = time.monotonic()
                print(f"    the app is starting: {said - self.started:.0f} s so far", flush=True)
        raise Failure("The app stopped while starting: its message is above.")

    def stop(self) -> None:
        if self.process.poll() is None:
            self.process.terminate()
            try:
                self.process.wait(SHUTDOWN_TIMEOUT_S)
            except subprocess.TimeoutExpired:
                self.process.kill()
                self.process.wait()


def supervise_app(
    app: App,
    others: Callable[[], None],
    say: Callable[[str], None] = print,
    looks: int | None = None,
) -> None:
    """Look at the app again and again, for ever or so many times. `others` looks at what else has to run."""
    deaths = unheard = 0
    while looks is None or looks > 0:
        looks = None if looks is None else looks - 1
        try:
            code = app.process.wait(POLL_S)
        except subprocess.TimeoutExpired:
            others()
            unheard = 0 if app.answers() else unheard + 1
            if unheard >= MAX_MISSED_CHECKS:
                say("The app answers nobody: it is started again.")
                app.again()
                unheard = 0
            continue
        soon = time.monotonic() - app.started < EARLY_EXIT_S
        deaths = deaths + 1 if soon else 0
        wait = WAITS[min(deaths, len(WAITS) - 1)]
        say(f"The app ended by itself (code {code}): it is started again in {wait:g} s.")
        pause(wait)
        others()
        app.again()
