"""The locks are complete: what they install needs nothing that they do not name, extras included."""

from __future__ import annotations

import json
import re
import unittest
from importlib.metadata import distribution
from pathlib import Path

from packaging.requirements import Requirement
from packaging.utils import canonicalize_name

ROOT = Path(__file__).resolve().parents[2]
PINNED = re.compile(r"^([A-Za-z0-9._-]+)==(\S+)", re.MULTILINE)


def locked(name: str) -> dict[str, str]:
    text = (ROOT / "requirements" / name).read_text()
    return {canonicalize_name(name): version for name, version in PINNED.findall(text)}


def asked(name: str) -> list[str]:
    lines = (ROOT / "requirements" / name).read_text().splitlines()
    return [line for line in lines if line and not line.startswith(("#", "-r"))]


def wanted_by(requirement: Requirement) -> list[Requirement]:
    """What a package needs on this machine with the extras it is asked for."""
    found = []
    for text in distribution(requirement.name).requires or ():
        need = Requirement(text)
        extras = [*requirement.extras, ""]
        if need.marker is None or any(need.marker.evaluate({"extra": extra}) for extra in extras):
            found.append(need)
    return found


class Locks(unittest.TestCase):
    def test_every_requirement_and_extra_of_what_is_installed_is_in_the_lock(self) -> None:
        """So that installing with the lock alone, resolving nothing, is enough on any later day."""
        for source, lock in (("run.in", "run.txt"), ("test.in", "test.txt")):
            pins = locked(lock)
            waiting = [Requirement(line) for line in asked("run.in")]
            waiting += [Requirement(line) for line in asked(source)]
            seen: set[str] = set()
            while waiting:
                one = waiting.pop()
                if str(one) in seen:
                    continue
                seen.add(str(one))
                name = canonicalize_name(one.name)
                self.assertIn(name, pins, f"{lock} lacks {one}")
                self.assertTrue(
                    one.specifier.contains(pins[name], prereleases=True),
                    f"{lock} has {name} {pins[name]}, which is not {one}",
                )
                waiting += wanted_by(one)
            self.assertGreater(len(seen), 30)

    def test_what_is_installed_is_what_the_lock_says(self) -> None:
        for name, version in locked("test.txt").items():
            self.assertEqual(distribution(name).version, version, name)

    def test_every_pin_has_its_hashes(self) -> None:
        for lock in ("run.txt", "test.txt"):
            text = (ROOT / "requirements" / lock).read_text()
            for block in re.split(r"\n(?=\S)", text):
                if PINNED.match(block):
                    self.assertIn("--hash=sha256:", block, block.splitlines()[0])
            self.assertNotIn("index-url", text)

    def test_the_web_lock_holds_a_checksum_for_every_package(self) -> None:
        """`npm ci` refuses a lock that does not fit package.json; with a checksum it takes nothing else."""
        lock = json.loads((ROOT / "web" / "package-lock.json").read_text())
        packages = {k: v for k, v in lock["packages"].items() if k and not v.get("link")}
        self.assertGreater(len(packages), 100)
        for name, package in packages.items():
            self.assertIn("integrity", package, name)
        own = json.loads((ROOT / "web" / "package.json").read_text())
        for group in ("dependencies", "devDependencies"):
            self.assertEqual(own[group], lock["packages"][""][group])


if __name__ == "__main__":
    unittest.main()
