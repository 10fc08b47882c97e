"""Serve the application: migrate, load the demo cars into an empty garage, then gunicorn."""

from __future__ import annotations

import os
from typing import Any

from flask_openapi3 import OpenAPI
from gunicorn.app.base import BaseApplication

from .. import collector, demo, store
from ..store.devices import offer
from .app import from_environment

#: Of a process: as many may send half a request, and others are still answered.
THREADS = 40


def prepare(url: str) -> None:
    """Tables to the newest revision; the demo cars when nothing was ever stored."""
    database = store.Database(url)
    database.migrate()
    with database.work() as session:
        if word := os.environ.get("UPHILL_SPARK_PAIR"):
            offer(session, word)
        if not store.ever_used(session):
            for name in demo.NAMES:
                store.create(session, demo.document(name), "Uphill Spark", "Demo car", demo=name)
    database.close()


class Server(BaseApplication):
    """Gunicorn without its command line."""

    def __init__(self, options: dict[str, Any]) -> None:
        self.options = options
        super().__init__()

    def load_config(self) -> None:
        """Settings of the server, from what it was made with."""
        for key, value in self.options.items():
            self.cfg.set(key, value)

    def load(self) -> OpenAPI:
        """The application, made in the worker."""
        app = from_environment()
        collector.calm()
        app.extensions["press"].warm()
        return app


def main() -> None:
    """Serve until told to stop."""
    collector.calm()
    prepare(os.environ["UPHILL_SPARK_DATABASE"])
    port = os.environ.get("UPHILL_SPARK_PORT", "8077")
    address = f"127.0.0.1:{port}"
    beyond = [f"{host}:{port}" for host in os.environ.get("UPHILL_SPARK_HOSTS", "").split(",") if host]

    def ready(_: Any) -> None:
        print(f"\n  Uphill Spark is at http://{address}\n  Stop it with Ctrl-C.\n", flush=True)

    workers = int(os.environ.get("UPHILL_SPARK_WORKERS", "2"))
    Server(
        {
            "bind": [address, *beyond],
            "workers": workers,
            "worker_class": "uphill_spark.web.patient.PatientWorker",
            "threads": THREADS,
            "when_ready": ready,
            "loglevel": "warning",
            "graceful_timeout": 5,
            "timeout": 60,
            "control_socket_disable": True,  # nobody steers it but the start command
        }
    ).run()
