"""A PostgreSQL server of the tests' own on loopback, run without rights, thrown away after; and a link to it that can be cut."""

from __future__ import annotations

import contextlib
import os
import pwd
import shutil
import socket
import subprocess
import tempfile
import threading
from pathlib import Path

from candor.notebook.server.server_setup import prepare, put_person

FOUND = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"))
INITDB = shutil.which("initdb") or (str(FOUND[-1]) if FOUND else "")
SECRET = "for the tests alone"


def _user() -> str | None:
    """Who runs it: the server refuses to run as root."""
    if os.getuid():
        return None
    known = {entry.pw_name for entry in pwd.getpwall()}
    return next(name for name in ("postgres", "nobody") if name in known)


def free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return probe.getsockname()[1]


class Server:
    """One server process with its data in memory, and a keeper who is its superuser."""

    def __init__(self, on_disk: bool = False) -> None:
        memory = "/dev/shm" if os.access("/dev/shm", os.W_OK) and not on_disk else None
        self.folder = Path(tempfile.mkdtemp(prefix="candor-pg-", dir=memory))
        self.user = _user()
        if self.user:
            shutil.chown(self.folder, self.user)
        self.bin, self.port, self.made = Path(INITDB).resolve().parent, free_port(), 0
        (self.folder / "word").write_text(SECRET)
        (self.folder / "word").chmod(0o644)
        self._run(
            "initdb", "-D", self.data, "-U", "keeper", "--auth=scram-sha-256", f"--pwfile={self.folder / 'word'}",
            "--no-sync", "--encoding=UTF8", "--locale=C",
        )  # fmt: skip
        with (self.folder / "data" / "postgresql.conf").open("a") as conf:
            conf.write(
                f"port = {self.port}\nlisten_addresses = '127.0.0.1'\nunix_socket_directories = ''\n"
                f"fsync = {'on' if on_disk else 'off'}\n"
                "max_connections = 40\nshared_buffers = 32MB\n"
            )
        self.start()

    @property
    def data(self) -> str:
        return str(self.folder / "data")

    def _run(self, program: str, *words: str) -> None:
        subprocess.run(
            [str(self.bin / program), *words], user=self.user, check=True, stdout=subprocess.DEVNULL, stderr=subprocess.STDOUT,
            cwd=self.folder, timeout=60,
        )  # fmt: skip

    def start(self) -> None:
        self._run("pg_ctl", "-D", self.data, "-w", "-l", str(self.folder / "log"), "start")

    def stop(self, how: str = "immediate") -> None:
        """As it ends when it is killed: nothing is written out, what was committed is found again in its journal."""
        self._run("pg_ctl", "-D", self.data, "-w", "-m", how, "stop")

    def url(self, who: str = "keeper", database: str = "postgres", port: int | None = None) -> str:
        return f"postgresql://{who}:{SECRET.replace(' ', '%20')}@127.0.0.1:{port or self.port}/{database}"

    def notebook(self, **people: str) -> str:
        """Make a notebook of its own on the server, and people with their roles; return the name of its database."""
        import psycopg

        self.made += 1
        name = f"shop{self.made}"
        with psycopg.connect(self.url(), autocommit=True) as connection:
            connection.execute(f"create database {name}".encode())
        prepare(self.url(database=name))
        for who, role in people.items():
            put_person(self.url(database=name), who, role, SECRET)
        return name

    def ask(self, database: str, asked: str) -> list:
        import psycopg

        with psycopg.connect(self.url(database=database), autocommit=True) as connection:
            found = connection.execute(asked.encode())
            return found.fetchall() if found.description else []

    def close(self) -> None:
        self.stop()
        shutil.rmtree(self.folder, ignore_errors=True)


class Line:
    """A link to a server that can be cut and mended: what is sent while it is cut is lost."""

    def __init__(self, port: int) -> None:
        self._there, self._ends, self._lock = port, [], threading.Lock()
        self.is_cut = False
        self._listening = socket.create_server(("127.0.0.1", 0))
        self.port = self._listening.getsockname()[1]
        threading.Thread(target=self._take, daemon=True).start()

    def _take(self) -> None:
        while True:
            try:
                near, _ = self._listening.accept()
            except OSError:
                return
            if self.is_cut:
                near.close()
                continue
            try:
                far = socket.create_connection(("127.0.0.1", self._there))
            except OSError:  # the server itself is down
                near.close()
                continue
            with self._lock:
                if self.is_cut:  # while it was being joined
                    near.close()
                    far.close()
                    continue
                self._ends += [near, far]
            for one, other in ((near, far), (far, near)):
                threading.Thread(target=self._carry, args=(one, other), daemon=True).start()

    def _carry(self, one: socket.socket, other: socket.socket) -> None:
        with contextlib.suppress(OSError):
            while data := one.recv(65536):
                other.sendall(data)
        for end in (one, other):  # closed alone, an end that another thread reads stays open
            with contextlib.suppress(OSError):
                end.shutdown(socket.SHUT_RDWR)
            end.close()

    def cut(self) -> None:
        with self._lock:
            self.is_cut = True
            for end in self._ends:
                with contextlib.suppress(OSError):
                    end.shutdown(socket.SHUT_RDWR)
            self._ends.clear()

    def mend(self) -> None:
        self.is_cut = False

    def close(self) -> None:
        self._listening.close()
        self.cut()
