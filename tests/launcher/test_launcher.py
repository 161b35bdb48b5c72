"""What the launcher promises: stages that tell, a server that survives, refusals that help."""

from __future__ import annotations

import contextlib
import errno
import io
import os
import socket
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch

from launcher.postgres import FAST, Server, folder_for, free_port, is_free

from launcher import machine, main, stages

PYTHON = sys.executable


class Stages(unittest.TestCase):
    def test_a_failed_command_shows_its_end_and_what_to_do(self) -> None:
        talk = "import sys; [print('line', i) for i in range(60)]; sys.exit(3)"
        with self.assertRaises(stages.Failure) as caught:
            stages.run([PYTHON, "-c", talk], "The build", "Try again.")
        said = str(caught.exception)
        self.assertTrue(said.startswith("The build failed:"))
        self.assertIn("line 59", said)
        self.assertNotIn("line 10\n", said)
        self.assertTrue(said.endswith("Try again."))

    def test_a_failed_command_shows_its_errors_and_no_warnings(self) -> None:
        said = "WARNING: old\nfetching\nnpm warn x\nERROR: no hash for a\n  a==1\nWARNING: slow\n"
        self.assertEqual(stages.errors_of(said), "ERROR: no hash for a\n  a==1")
        self.assertEqual(
            stages.errors_of("npm error code E404\nnpm error nothing"),
            "npm error code E404\nnpm error nothing",
        )
        self.assertEqual(stages.errors_of("one\ntwo"), "one\ntwo")

    def test_long_work_says_that_it_still_works(self) -> None:
        with (
            patch.object(stages, "STILL_WORKING", 0.1),
            contextlib.redirect_stdout(io.StringIO()) as said,
        ):
            stages.run([PYTHON, "-c", "import time; time.sleep(0.35)"], "Waiting")
        self.assertGreaterEqual(said.getvalue().count("Waiting: 0 s so far"), 2)

    def test_a_fingerprint_follows_content_and_name(self) -> None:
        with tempfile.TemporaryDirectory(dir=stages.ROOT) as name:
            folder = Path(name)
            (folder / "a").write_text("1")
            first = stages.fingerprint([folder])
            self.assertEqual(first, stages.fingerprint([folder]))
            (folder / "a").write_text("2")
            second = stages.fingerprint([folder])
            (folder / "a").rename(folder / "b")
            self.assertEqual(len({first, second, stages.fingerprint([folder])}), 3)

    def test_a_stamp_holds_only_for_what_it_was_written_for(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            stamp = Path(name) / "deep" / "stamp"
            self.assertFalse(stages.stamped(stamp, "x"))
            stages.write_stamp(stamp, "x")
            self.assertTrue(stages.stamped(stamp, "x"))
            self.assertFalse(stages.stamped(stamp, "y"))


class Machine(unittest.TestCase):
    def test_without_rights_the_exact_command_is_said(self) -> None:
        with (
            patch.object(machine, "postgres_bin", return_value=None),
            patch.object(machine, "CHROMIUM", Path("/nowhere")),
            patch.object(machine.os, "geteuid", return_value=1000),
            patch.object(machine.shutil, "which", return_value=None),
            self.assertRaises(stages.Failure) as caught,
        ):
            machine.debian_packages(browser=True)
        self.assertIn(
            "Missing: postgresql, chromium-headless-shell. Run as root:", str(caught.exception)
        )
        self.assertIn(
            "apt-get install -y --no-install-recommends postgresql chromium-headless-shell",
            str(caught.exception),
        )

    def test_the_pinned_node_comes_first(self) -> None:
        self.assertTrue(machine.node_env()["PATH"].startswith(str(stages.VENV / "bin")))


class Ports(unittest.TestCase):
    def test_a_taken_port_is_seen_and_said(self) -> None:
        with socket.socket() as taken:
            taken.bind(("127.0.0.1", 0))
            taken.listen()
            port = taken.getsockname()[1]
            self.assertFalse(is_free(port))
            with self.assertRaisesRegex(stages.Failure, f"Port {port} is in use"):
                main._port(["--port", str(port)])
        self.assertTrue(is_free(free_port()))
        self.assertFalse(is_free(99_999_999))

    def test_a_port_must_be_a_number(self) -> None:
        for words in (["--port"], ["--port", "eighty"]):
            with self.assertRaisesRegex(stages.Failure, "--port wants a number"):
                main._port(words)


class Commands(unittest.TestCase):
    def call(self, *words: str) -> tuple[int, str]:
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            code = main.main(list(words))
        return code, out.getvalue() + err.getvalue()

    def test_help_and_unknown_words(self) -> None:
        code, said = self.call("help")
        self.assertEqual(code, 0)
        self.assertIn("./cabrio demo", said)
        self.assertEqual(self.call("fly")[0], 2)
        for words in (("demo", "--prt", "5"), ("serve", "--port=5"), ("restore", "x", "-y")):
            code, said = self.call(*words)
            self.assertEqual(code, 2)
            self.assertIn(f"no option {words[-2] if words[0] == 'demo' else words[-1]}", said)

    def test_a_folder_that_cannot_be_written_is_said(self) -> None:
        for wrong in (PermissionError(13, "no", "/srv/x"), OSError(errno.EROFS, "no", "/srv/x")):
            with patch.object(Path, "mkdir", side_effect=wrong):
                code, said = self.call("schemas")
            self.assertEqual(code, 1)
            self.assertIn("/srv/x cannot be written", said)

    def test_a_backup_wants_a_file_and_a_restore_an_existing_one(self) -> None:
        self.assertIn("Name the file", self.call("backup")[1])
        code, said = self.call("restore", "/nowhere/at-all.dump")
        self.assertEqual(code, 1)
        self.assertIn("There is no file", said)


class KilledRuns(unittest.TestCase):
    def test_a_killed_run_s_server_is_stopped_and_cleared_away(self) -> None:
        gone = 4_000_000  # above any process number here
        server = Server(folder_for(f"test-{gone}"), FAST)
        server.start()
        self.addCleanup(main._remove, server.folder)
        self.addCleanup(server.stop)
        main._clear_killed_runs()
        self.assertFalse(server.folder.exists())
        self.assertTrue(is_free(server.port))


class OwnServer(unittest.TestCase):
    """One real server of our own, started, left, taken over and stopped."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.folder = folder_for(f"launcher-test-{os.getpid()}")
        cls.server = Server(cls.folder, FAST)
        cls.server.start()
        cls.addClassCleanup(main._remove, cls.folder)
        cls.addClassCleanup(cls.server.stop)

    def test_it_answers_on_loopback_with_its_password_only(self) -> None:
        self.assertEqual(self.server.psql("SHOW listen_addresses").strip(), "127.0.0.1")
        self.assertIn("app:", self.server.url("postgres"))
        wrong = os.environ | self.server.environment() | {"PGPASSWORD": "guess"}
        asked = subprocess.run(
            [self.server.program("psql"), "-c", "SELECT 1", "postgres"],
            env=wrong,
            capture_output=True,
        )
        self.assertNotEqual(asked.returncode, 0)

    def test_one_left_running_is_taken_over(self) -> None:
        again = Server(self.folder, FAST)
        again.start()
        self.assertEqual(again.port, self.server.port)

    def test_its_secrets_are_for_nobody_else(self) -> None:
        self.assertEqual((self.folder / "password").stat().st_mode & 0o077, 0)
        self.assertEqual(self.folder.stat().st_mode & 0o077, 0)

    def test_a_database_is_made_once(self) -> None:
        self.server.ensure_database("twice")
        self.server.psql("CREATE TABLE kept (n int)", "twice")
        self.server.ensure_database("twice")
        self.assertEqual(self.server.psql("SELECT count(*) FROM kept", "twice").strip(), "0")

    def test_what_the_server_refuses_is_said(self) -> None:
        with self.assertRaisesRegex(stages.Failure, "PostgreSQL refused: .*nowhere"):
            self.server.psql("SELECT * FROM nowhere")


if __name__ == "__main__":
    unittest.main()
