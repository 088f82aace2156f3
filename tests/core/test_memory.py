"""Memory: large blocks go back to the system when they are freed, though small ones lie between them."""

import subprocess
import sys

import pytest

SCRIPT = """
import sys, threading
import numpy as np
from latespin.memory import settle_allocator

def resident():
    return int(open("/proc/self/statm").read().split()[1]) * 4096

if sys.argv[1] == "settled":
    settle_allocator()
kept = []

def work():
    np.ones(30 << 20, np.uint8)  # freed at once: from now on such blocks come from the thread's pool
    for _ in range(12):
        blocks = [np.ones(6 << 20, np.uint8) for _ in range(4)]
        kept.append(bytes(64 << 10))
        del blocks

before = resident()
threads = [threading.Thread(target=work) for _ in range(6)]
for thread in threads:
    thread.start()
for thread in threads:
    thread.join()
print((resident() - before) >> 20)
"""


def grown_mb(how: str) -> int:
    done = subprocess.run([sys.executable, "-c", SCRIPT, how], capture_output=True, text=True, check=True)
    return int(done.stdout)


@pytest.mark.skipif(sys.platform != "linux", reason="the C library of Linux")
def test_blocks_of_sound_that_come_and_go_leave_nothing_behind() -> None:
    """72 small things that stay are 4.5 MB; without the setting the pools of six threads keep the blocks around them."""
    assert grown_mb("settled") < 12
    assert grown_mb("as it comes") > 2 * grown_mb("settled")
