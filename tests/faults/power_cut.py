"""A disk that loses its power: whatever was not synced may be there, missing, or torn in the middle.

A shim of SQLite's file system (sqlite.org/vfs.html and sqlite.org/c3ref/io_methods.html, from memory), put before the
real one in the very library that Python uses. It passes everything on, and keeps a list of each write, cut, deletion
and sync, from which the disk is made anew as it may stand after the power went at any moment of that list.
"""

import ctypes
import os
import random
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

SECTOR = 512
_POINTER, _INT, _WIDE = ctypes.c_void_p, ctypes.c_int, ctypes.c_int64

# In the order of sqlite3_io_methods, after its version. Each takes the file first.
_IO = (
    ("xClose", ()),
    ("xRead", (_POINTER, _INT, _WIDE)),
    ("xWrite", (_POINTER, _INT, _WIDE)),
    ("xTruncate", (_WIDE,)),
    ("xSync", (_INT,)),
    ("xFileSize", (_POINTER,)),
    ("xLock", (_INT,)),
    ("xUnlock", (_INT,)),
    ("xCheckReservedLock", (_POINTER,)),
    ("xFileControl", (_INT, _POINTER)),
    ("xSectorSize", ()),
    ("xDeviceCharacteristics", ()),
    ("xShmMap", (_INT, _INT, _INT, _POINTER)),
    ("xShmLock", (_INT, _INT, _INT)),
    ("xShmBarrier", ()),
    ("xShmUnmap", (_INT,)),
    ("xFetch", (_WIDE, _INT, _POINTER)),
    ("xUnfetch", (_WIDE, _POINTER)),
)
_KINDS = {name: ctypes.CFUNCTYPE(_INT, _POINTER, *takes) for name, takes in _IO}


class _Methods(ctypes.Structure):
    _fields_ = [("iVersion", _INT), *((name, _KINDS[name]) for name, _ in _IO)]


# Names go on as the pointers that they came as: SQLite keeps them as long as the file is open.
_OPEN = ctypes.CFUNCTYPE(_INT, _POINTER, _POINTER, _POINTER, _INT, _POINTER)
_DELETE = ctypes.CFUNCTYPE(_INT, _POINTER, _POINTER, _INT)


class _Vfs(ctypes.Structure):
    """As far as it is looked at; what comes after is copied as it stands."""

    _fields_ = [
        ("iVersion", _INT),
        ("szOsFile", _INT),
        ("mxPathname", _INT),
        ("pNext", _POINTER),
        ("zName", ctypes.c_char_p),
        ("pAppData", _POINTER),
        ("xOpen", _OPEN),
        ("xDelete", _DELETE),
        ("others", _POINTER * 14),
    ]


@dataclass(frozen=True)
class Event:
    """One thing that was asked of the disk. `what`: write, cut, sync or delete; `size`: the length after a cut."""

    what: str
    file: str
    at: int = 0
    data: bytes = b""


class Disk:
    """Everything that SQLite asked of the files within a folder, from `record` on until `stop`."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        self.events: list[Event] = []
        self._names: dict[int, str] = {}
        self._library = ctypes.CDLL("libsqlite3.so.0")
        self._library.sqlite3_vfs_find.restype = ctypes.POINTER(_Vfs)
        self._real = self._library.sqlite3_vfs_find(None)
        self._before = {file.name: file.read_bytes() for file in folder.iterdir() if file.is_file()}
        # The real file lies behind ours in the memory that SQLite gives.
        self._ours = _Vfs.from_buffer_copy(self._real.contents)
        self._ours.szOsFile = self._real.contents.szOsFile + 16
        self._ours.zName = b"power-cut"
        self._kept = [_OPEN(self._open), _DELETE(self._delete)]
        self._ours.xOpen, self._ours.xDelete = self._kept
        self._seen = {"xWrite": self._seen_write, "xTruncate": self._seen_cut, "xSync": self._seen_sync}
        self._methods = _Methods(3, *(self._passing_on(name) for name, _ in _IO))

    def record(self) -> None:
        self._library.sqlite3_vfs_register(ctypes.byref(self._ours), 1)

    def stop(self) -> None:
        self._library.sqlite3_vfs_register(self._real, 1)
        self._library.sqlite3_vfs_unregister(ctypes.byref(self._ours))

    def after_a_cut(self, moment: int, chance: random.Random, into: Path) -> None:
        """The folder as it may stand when the power went after so many events."""
        into.mkdir()
        files = {name: bytearray(content) for name, content in self._before.items()}
        happened = self.events[:moment]
        for place, event in enumerate(happened):
            later = happened[place + 1 :]
            is_safe = any(after.what == "sync" and after.file == event.file for after in later)
            _do(event, files, is_safe, chance)
        for name, content in files.items():
            (into / name).write_bytes(content)

    def _passing_on(self, name: str) -> object:
        seen: Callable[..., None] | None = self._seen.get(name)

        def method(file: int, *given: int) -> int:
            real = file + 16
            methods = ctypes.cast(real, ctypes.POINTER(ctypes.POINTER(_Methods)))[0].contents
            if seen is not None:
                seen(self._names.get(file), *given)
            if name == "xClose":
                self._names.pop(file, None)
            return int(getattr(methods, name)(real, *given))

        return _KINDS[name](method)

    def _open(self, _vfs: int, name: int | None, file: int, flags: int, out: int) -> int:
        done = int(self._real.contents.xOpen(ctypes.addressof(self._real.contents), name, file + 16, flags, out))
        inside = ctypes.cast(file + 16, ctypes.POINTER(_POINTER))[0]
        ctypes.cast(file, ctypes.POINTER(_POINTER))[0] = ctypes.addressof(self._methods) if inside else None
        if name and _path_at(name).parent == self.folder:
            self._names[file] = _path_at(name).name
        return done

    def _delete(self, _vfs: int, name: int, sync: int) -> int:
        if _path_at(name).parent == self.folder:
            self.events.append(Event("delete", _path_at(name).name))
        return int(self._real.contents.xDelete(ctypes.addressof(self._real.contents), name, sync))

    def _seen_write(self, name: str | None, data: int, size: int, at: int) -> None:
        if name:
            self.events.append(Event("write", name, at, ctypes.string_at(data, size)))

    def _seen_cut(self, name: str | None, size: int) -> None:
        if name:
            self.events.append(Event("cut", name, size))

    def _seen_sync(self, name: str | None, _flags: int) -> None:
        if name:
            self.events.append(Event("sync", name))


def _path_at(name: int) -> Path:
    return Path(os.fsdecode(ctypes.string_at(name)))


def _do(event: Event, files: dict[str, bytearray], is_safe: bool, chance: random.Random) -> None:
    """What was synced is there whole; of the rest each sector is there or is not, as chance will have it."""
    if event.what == "write":
        content = files.setdefault(event.file, bytearray())
        for start in range(0, len(event.data), SECTOR):
            if is_safe or chance.random() < 0.5:
                at, piece = event.at + start, event.data[start : start + SECTOR]
                content.extend(bytes(max(at + len(piece) - len(content), 0)))
                content[at : at + len(piece)] = piece
    elif event.what == "cut" and (is_safe or chance.random() < 0.5):
        del files.setdefault(event.file, bytearray())[event.at :]
    elif event.what == "delete" and chance.random() < 0.5:
        files.pop(event.file, None)
