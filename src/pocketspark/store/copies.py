"""Copies that are made by themselves, beside the data and in a second folder where one is named.

They go by number: whatever the clock says, a copy is added, and those that go are the ones before many others. Each is
read back before it gets its name.
"""

import filecmp
import re
import shutil
import time
from collections.abc import Callable, Iterable
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from sqlalchemy import Engine

from pocketspark.core.error import PocketSparkError
from pocketspark.store.database import COPIES, why_not
from pocketspark.store.whole_copy import copy_whole, give_its_name

# The newest so many stay, and of those before them every sixth, four times.
NEWEST_KEPT, EVERY, OLDER_KEPT = 6, 6, 4
# While the server runs, what was changed is copied after so long.
AGAIN_AFTER_S = 4 * 3600.0
_NUMBERED = re.compile(r"pocket-spark-(\d{6})\.sqlite")
# An earlier release named them by the day.
_OF_A_DAY = re.compile(r"pocket-spark-\d{4}-\d\d-\d\d\.sqlite")


@dataclass(frozen=True)
class Copy:
    """One copy that is there. `number` is 0 for those of an earlier release; `made_at` is as the clock was then."""

    number: int
    file: Path
    size: int
    made_at: datetime


class Copies:
    """The copies of one database. `second`: a folder elsewhere, on a stick or another disk, that gets each as well."""

    def __init__(
        self, engine: Engine, data: Path, second: Path | None = None, monotonic: Callable[[], float] = time.monotonic
    ) -> None:
        self._engine, self._monotonic = engine, monotonic
        self.folder, self.second = data / COPIES, second
        # Why the second folder has not got the newest one; empty where it has.
        self.problem = ""
        self._looked_s: float | None = None

    def all(self) -> list[Copy]:
        """Those beside the data, the newest first."""
        return list(reversed(copies_in(self.folder)))

    def make_if_due(self) -> Path | None:
        """Once after each start, and every four hours while something changes; None where nothing has."""
        moment = self._monotonic()
        if self._looked_s is not None and moment - self._looked_s < AGAIN_AFTER_S:
            return None
        made = self.make()
        self._looked_s = moment
        return made

    def make(self) -> Path | None:
        """A copy now; None where it would be the newest one again. Raises BadBackup where it cannot be read back."""
        self.folder.mkdir(exist_ok=True, mode=0o700)
        file = _next_in(self.folder)
        copy_whole(self._engine, file)
        *earlier, newest = copies_in(self.folder)
        is_new = not earlier or not filecmp.cmp(file, earlier[-1].file, shallow=False)
        if is_new:
            _let_go(self.folder)
        else:
            file.unlink()
            newest = earlier[-1]
        self._into_the_second(newest.file)
        return file if is_new else None

    def _into_the_second(self, newest: Path) -> None:
        """Unless it is there, by its content; a folder that is away just now gets it next time."""
        self.problem = ""
        if self.second is None:
            return
        try:
            if not self.second.is_dir():
                self.problem = (
                    f"{self.second} cannot be found, so the newest copy is not in it. It is tried again with the next."
                )
                return
            there = copies_in(self.second)
            if there and filecmp.cmp(newest, there[-1].file, shallow=False):
                return
            # By its own numbers: it may hold copies of other data.
            file = _next_in(self.second)
            half = file.with_suffix(".half")
            shutil.copyfile(newest, half)
            give_its_name(half, file)
            _let_go(self.second)
        except OSError as error:
            self.problem = f"No copy was put into {self.second}. {why_not(error, self.second)}"
        except PocketSparkError as refusal:
            self.problem = f"No copy was put into {self.second}: {refusal}"


def copies_in(folder: Path) -> list[Copy]:
    """The copies of a folder in the order in which they were made, whatever their dates say."""
    found = []
    for file in folder.glob("pocket-spark-*.sqlite"):
        numbered = _NUMBERED.fullmatch(file.name)
        if numbered or _OF_A_DAY.fullmatch(file.name):
            there = file.stat()
            made_at = datetime.fromtimestamp(there.st_mtime, UTC)
            found.append(Copy(int(numbered[1]) if numbered else 0, file, there.st_size, made_at))
    return sorted(found, key=lambda copy: (copy.number, copy.file.name))


def superfluous_copies(numbers: Iterable[int]) -> set[int]:
    """Of copies in the order of their making, by number, those that may go."""
    in_order = sorted(numbers)
    older = in_order[:-NEWEST_KEPT]
    milestones = [number for number in older if number % EVERY == 0][-OLDER_KEPT:]
    return set(older) - set(milestones)


def _let_go(folder: Path) -> None:
    there = copies_in(folder)
    superfluous = superfluous_copies(copy.number for copy in there if copy.number)
    for copy in there:
        # Those of an earlier release go once as many numbered ones are there.
        if copy.number in superfluous or (not copy.number and there[-1].number > NEWEST_KEPT):
            copy.file.unlink()


def _next_in(folder: Path) -> Path:
    there = copies_in(folder)
    return folder / f"pocket-spark-{there[-1].number + 1 if there else 1:06}.sqlite"
