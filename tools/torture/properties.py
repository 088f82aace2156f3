"""All property tests again and again, with other examples each time, and many more of them."""

import os
import subprocess
import sys
import time
from collections import Counter
from collections.abc import Callable
from pathlib import Path

LONGEST_SECONDS = 1_800  # for one property: many more examples than in the tests
ROOT = Path(__file__).resolve().parents[2]


def torture_properties(
    seeds: int, examples: int, seconds: float, first: int, kept: Path, tell: Callable[[str], object] = lambda _: None
) -> Counter[str]:
    """Run them with each seed; counts of runs, and of what failed. ``tell`` is told of each at once, and what pytest says of failures is kept."""
    found, until = Counter[str](), time.monotonic() + seconds
    for seed in range(first, first + seeds):
        if time.monotonic() > until:
            break
        done = subprocess.run(
            [sys.executable, "-m", "pytest", "-q", "-o", f"faulthandler_timeout={LONGEST_SECONDS}", "-p", "no:cacheprovider", "-n", "2", "-m", "hypothesis", f"--hypothesis-seed={seed}", "tests"],
            capture_output=True, text=True, check=False, cwd=ROOT,
            env={**os.environ, "LATESPIN_EXAMPLES": str(examples), "QT_QPA_PLATFORM": "offscreen", "LATESPIN_DEVICE": "silent"},
        )  # fmt: skip
        found["seeds"] += 1
        tell(f"seed {seed}: {done.stdout.strip().splitlines()[-1:]}")
        if done.returncode:
            failed = [line for line in done.stdout.splitlines() if line.startswith(("FAILED", "ERROR"))]
            kept.mkdir(parents=True, exist_ok=True)
            (kept / f"properties, seed {seed}.txt").write_text(done.stdout)
            tell("\n".join(failed))
            found[f"seed {seed}: {failed or done.stdout[-500:]}"] += 1
    return found
