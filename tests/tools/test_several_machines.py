"""Two web servers and two workers with folders of their own and one database, as on four machines."""

from __future__ import annotations

import shutil
import socket
import time
import unittest

from tools.bench import Maker
from tools.database import Database, free_port, memory_folder
from tools.parts import ServerPart, until_it_answers, web_command, worker_command
from tools.runtime import environment, manage

KITCHENS = 4
FORM = "application/x-www-form-urlencoded"


class SeveralMachines(unittest.TestCase):
    def setUp(self) -> None:
        self.home = memory_folder("test-machines")
        self.addCleanup(shutil.rmtree, self.home, ignore_errors=True)
        self.database = Database(self.home / "mariadb", durable=False)
        self.addCleanup(self.database.stop)
        self.database.start()
        self.ports = [free_port(), free_port()]
        first = self.machine(0)
        manage(first, "migrate", "--noinput", "-v0")
        webs = [ServerPart(f"web {i}", web_command("127.0.0.1", port), kindly_s=1) for i, port in enumerate(self.ports)]
        for i, web in enumerate(webs):
            env = self.machine(i)
            manage(env, "collectstatic", "--noinput", "-v0")
            web.start(env)
            self.addCleanup(web.end)
        for web, port in zip(webs, self.ports, strict=True):
            until_it_answers(web, port, "127.0.0.1")

    def machine(self, number: int) -> dict[str, str]:
        """What a machine runs with: the database and the secret are the same for all, its folder is its own."""
        folder = self.home / f"machine-{number}"
        folder.mkdir(exist_ok=True)
        env = environment(self.database, port=self.ports[number % 2])
        own = {"OLIVE_RUNTIME": str(folder), "OLIVE_SECRET_KEY": "one secret for all of them"}
        return {**env, **own, "OLIVE_PLANNING_S": "3,6"}

    def test_one_site(self) -> None:
        """Asked for on one web server, planned by either worker, seen on the other; nothing is planned twice. Who
        opens connections and says nothing keeps nobody waiting."""
        silent = [socket.create_connection(("127.0.0.1", self.ports[0])) for _ in range(24)]
        begun = time.monotonic()
        self.assertEqual(Maker(self.ports[0]).ask("GET", "/")[0], 200)
        self.assertLess(time.monotonic() - begun, 4, "a thread waits 5 s for a first word")
        for connection in silent:
            connection.close()
        for i in range(KITCHENS):
            here, there = Maker(self.ports[i % 2]), Maker(self.ports[1 - i % 2])
            here.open_demo()
            there.cookies = here.cookies
            day = here.ask("GET", "/day/")[2]
            self.assertEqual(there.ask("POST", f"{day}plan/", "begin=9:00&hands=1&fridge=1&freezer=0", FORM)[0], 302)
        self.assertGreater(self.count("status = 'READY'"), KITCHENS)
        workers = [ServerPart(f"worker {i}", worker_command(), kindly_s=1) for i in range(2)]
        for i, worker in enumerate(workers):
            worker.start(self.machine(2 + i))
            self.addCleanup(worker.end)
        until = time.monotonic() + 120
        while self.count("status <> 'SUCCESSFUL'") and time.monotonic() < until:
            time.sleep(0.5)
        self.assertEqual(self.count("status <> 'SUCCESSFUL'"), 0)
        self.assertEqual(self.count("JSON_LENGTH(worker_ids) = 1"), self.count("1"), "each by one worker, once")
        ask = "SELECT DISTINCT JSON_VALUE(worker_ids, '$[0]') FROM django_tasks_database_dbtaskresult"
        ids = self.database.sql(ask, database="olive").split()
        self.assertEqual(len(ids), 2, "both of them")
        self.assertIn("Planned", there.ask("GET", day)[1])

    def count(self, where: str) -> int:
        ask = f"SELECT COUNT(*) FROM django_tasks_database_dbtaskresult WHERE {where}"
        return int(self.database.sql(ask, database="olive"))
