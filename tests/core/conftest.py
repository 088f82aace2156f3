"""The command line, run as a process or in this one."""

import json
import subprocess
import sys
from collections.abc import Callable

import pytest

from latespin.cli.main import main

#: Before a command, so that it hears SIGINT though whoever runs the tests ignores it, as shells have background jobs do.
INTERRUPTIBLE = ("env", "--default-signal=INT")


def latespin(*words: object, **more: object) -> subprocess.CompletedProcess[str]:
    """Run the command."""
    return subprocess.run(
        [sys.executable, "-m", "latespin", *map(str, words)],
        capture_output=True,
        text=True,
        check=False,
        **more,
    )  # type: ignore[call-overload]


@pytest.fixture
def here(
    monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> Callable[..., subprocess.CompletedProcess[str]]:
    """Run the command in this process, which is quicker."""

    def run(*words: object) -> subprocess.CompletedProcess[str]:
        monkeypatch.setattr(sys, "argv", ["latespin", *map(str, words)])
        with pytest.raises(SystemExit) as ended:
            main()
        said = capsys.readouterr()
        return subprocess.CompletedProcess(words, int(ended.value.code or 0), said.out, said.err)

    return run


def facts(done: subprocess.CompletedProcess[str]) -> dict:
    """The JSON of a command that went well."""
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout)
