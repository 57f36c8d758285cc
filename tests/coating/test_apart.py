"""What is read apart comes back, refuses, or is ended at its limits; nothing is left behind."""

import multiprocessing
import os
import signal
import threading
import time
import unittest

from coating.apart import Limits, apart
from coating.errors import TakesTooMuch, Unreadable

SMALL = Limits(processor_s=1, wall_s=3.0, memory_mb=128)


def _twice(number: int) -> tuple[int, int]:
    return 2 * number, os.getpid()


def _refuses(_: int) -> None:
    raise Unreadable("It says nothing.", field="file", line=3)


def _breaks(_: int) -> None:
    raise KeyError("a mistake of ours")


def _runs(_: int) -> None:
    while True:
        pass


def _sleeps(_: int) -> None:
    signal.alarm(0)
    time.sleep(60)


def _eats(_: int) -> int:
    return len([bytearray(2**20) for _ in range(4096)])


def _dies(_: int) -> None:
    os.kill(os.getpid(), signal.SIGSEGV)


class Apart(unittest.TestCase):
    def read(self, reader: object, *, limits: Limits = SMALL) -> object:
        return apart(reader, 21, limits=limits, too_much="Far too much.", field="file")  # type: ignore[arg-type]

    def test_what_it_read_comes_back_from_another_process(self) -> None:
        doubled, pid = self.read(_twice)  # type: ignore[misc]
        self.assertEqual(doubled, 42)
        self.assertNotEqual(pid, os.getpid())

    def test_what_it_refuses_keeps_its_fields(self) -> None:
        with self.assertRaises(Unreadable) as caught:
            self.read(_refuses)
        self.assertEqual(
            caught.exception.as_dict(),
            {"code": "unreadable", "message": "It says nothing.", "field": "file", "line": 3},
        )
        with self.assertRaisesRegex(RuntimeError, "a mistake of ours"):
            self.read(_breaks)

    def test_it_is_ended_at_each_limit(self) -> None:
        for reader in (_runs, _sleeps, _eats, _dies):
            with self.subTest(reader.__name__):
                begun = time.monotonic()
                with self.assertRaisesRegex(TakesTooMuch, "Far too much"):
                    self.read(reader)
                self.assertLess(time.monotonic() - begun, 10)
        self.assertEqual(multiprocessing.active_children(), [])

    def test_from_a_process_with_threads(self) -> None:
        stop = threading.Event()
        other = threading.Thread(target=stop.wait)
        other.start()
        try:
            self.assertEqual(self.read(_twice, limits=Limits())[0], 42)  # type: ignore[index]
            with self.assertRaises(TakesTooMuch):
                self.read(_eats)
        finally:
            stop.set()
            other.join()
