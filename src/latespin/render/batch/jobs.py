"""A job of a set, and doing it in whichever process takes it."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from latespin.errors import Cancelled, LateSpinError
from latespin.jobs import Work
from latespin.language import Language, speak, spoken, tr

Function = Callable[[Any, Work], Any]


@dataclass(eq=False)
class Job:
    """function(argument, work) is called in a worker. Jobs with the same ``group`` go to the same worker where that costs nobody time.

    state : waiting, running, done, failed or cancelled.  message : why it failed, in the language of whoever asked for the job.
    """

    function: Function
    argument: Any
    group: str = ""
    state: str = "waiting"
    fraction: float = 0.0
    result: Any = None
    message: str = ""
    language: Language = field(default_factory=spoken, repr=False)
    tries: int = field(default=0, repr=False)
    wanted: bool = field(default=True, repr=False)

    def cancel(self) -> None:
        """Ask for it not to be done, or to be stopped."""
        self.wanted = False

    @property
    def ended(self) -> bool:
        """Whether nothing more will come of it."""
        return self.state in ("done", "failed", "cancelled")

    def settle(self, answer: "Answer") -> None:
        """Take what came of it."""
        self.state, value = answer
        self.result, self.message = (value, "") if self.state == "done" else (None, value)
        if self.state == "done":
            self.fraction = 1.0


Answer = tuple[str, Any]  # the state a job ended in, and its result or what went wrong


def attempt(function: Function, argument: Any, language: Language, work: Work) -> Answer:
    """Do a job and tell what came of it; nothing is raised, since what is raised may not survive the way back."""
    try:
        speak(language)
        return "done", function(argument, work)
    except Cancelled:
        return "cancelled", ""
    except LateSpinError as error:
        return "failed", str(error)
    except MemoryError:
        return "failed", tr("There is not enough memory for this. Close other programs, or do fewer at a time.")
    except Exception as error:
        return "failed", tr("Something went wrong in Late Spin itself ({0}: {1}).").format(type(error).__name__, error)
