"""What the machine must have: Debian packages, the Python environment, the built web app."""

from __future__ import annotations

import importlib.util
import os
import shutil
import subprocess
import sys
from pathlib import Path

from .stages import PYTHON, ROOT, VENV, Failure, fingerprint, run, stage, stamped, write_stamp

WEB = ROOT / "web"
CHROMIUM = Path("/usr/bin/chromium-headless-shell")
"""The browser without its windows: half the work of the whole one."""


def postgres_bin() -> Path | None:
    """The newest PostgreSQL server's folder of programs, as Debian lays them."""
    found = [p.parent for p in Path("/usr/lib/postgresql").glob("*/bin/initdb")]
    return max(found, key=lambda p: int(p.parent.name), default=None)


def debian_packages(*, browser: bool = False) -> None:
    """Install what is missing, as root or through sudo; else say the exact command."""
    missing = []
    if importlib.util.find_spec("ensurepip") is None and not PYTHON.exists():
        missing.append("python3-venv")
    if postgres_bin() is None:
        missing.append("postgresql")
    if browser and not CHROMIUM.exists():
        missing.append("chromium-headless-shell")
    if not missing:
        return
    command = ["apt-get", "install", "-y", "--no-install-recommends", *missing]
    shown = "apt-get update && " + " ".join(command)
    if os.geteuid() != 0:
        if (
            shutil.which("sudo") is None
            or subprocess.run(["sudo", "-n", "true"], stderr=subprocess.DEVNULL).returncode
        ):
            raise Failure(f"Missing: {', '.join(missing)}. Run as root:\n  {shown}")
        command = ["sudo", "-n", *command]
    with stage(f"Installing {', '.join(missing)} from Debian"):
        env = {"DEBIAN_FRONTEND": "noninteractive"}
        advice = f"Try by hand:\n  {shown}"
        update = (["sudo", "-n"] if os.geteuid() else []) + ["apt-get", "update", "-qq"]
        run(update, "Reading Debian's package lists", advice, env=env)
        run(command, "Installing Debian packages", advice, env=env)


def python_environment(*, checks: bool = False) -> None:
    """A virtual environment exactly as the lock says, hashes checked; made anew only if the lock moved."""
    lock = ROOT / "requirements" / ("test.txt" if checks else "run.txt")
    now = f"{sys.version}\n{fingerprint([lock])}"
    stamps = [VENV / ".lock-test", VENV / ".lock-run"]
    if stamped(stamps[0], f"{sys.version}\n{fingerprint([ROOT / 'requirements' / 'test.txt'])}"):
        return
    if not checks and stamped(stamps[1], now):
        return
    with stage("Preparing Python packages"):
        if not PYTHON.exists():
            run(
                [sys.executable, "-m", "venv", VENV],
                "Making the virtual environment",
                "Is python3-venv installed?",
            )
        # The lock alone decides: resolving again would take what was released since, which has no hash.
        run(
            [
                PYTHON,
                "-m",
                "pip",
                "install",
                "-q",
                "--no-compile",
                "--disable-pip-version-check",
                "--no-deps",
                "--require-hashes",
                "-r",
                lock,
            ],
            "Installing Python packages",
            "Is the package index reachable?",
        )
        run(
            [PYTHON, "-m", "pip", "check", "--disable-pip-version-check"],
            "Checking Python packages",
            f"The lock {lock.name} is not complete: make it again, see docs/developing.md.",
        )
        (VENV / "lib").joinpath(*_site(), "cabrio.pth").write_text(f"{ROOT / 'src'}\n")
    write_stamp(stamps[0] if checks else stamps[1], now)


def _site() -> tuple[str, str]:
    return f"python{sys.version_info[0]}.{sys.version_info[1]}", "site-packages"


def node_env() -> dict[str, str]:
    """The pinned Node of the virtual environment first on the path, whatever the machine has."""
    return {"PATH": f"{VENV / 'bin'}:{os.environ.get('PATH', '')}"}


def web_packages() -> None:
    lock = fingerprint([WEB / "package-lock.json", WEB / "package.json"])
    if stamped(WEB / "node_modules" / ".lock", lock):
        return
    with stage("Preparing the web app's packages"):
        run(
            [VENV / "bin" / "npm", "ci"],
            "Installing the web app's packages",
            "Is the npm registry reachable?",
            cwd=WEB,
            env=node_env(),
        )
    write_stamp(WEB / "node_modules" / ".lock", lock)


def web_app() -> None:
    """Build the web app where its sources moved since the last build."""
    sources = [WEB / "src", WEB / "index.html", WEB / "vite.config.ts", WEB / "package-lock.json"]
    now = fingerprint(sources)
    if stamped(WEB / "dist" / ".built", now):
        return
    web_packages()
    with stage("Building the web app"):
        run([VENV / "bin" / "npm", "run", "build"], "Building the web app", cwd=WEB, env=node_env())
    write_stamp(WEB / "dist" / ".built", now)
