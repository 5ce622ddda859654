"""The one script: what it says where something is missing, and where a command is not known."""

import re
import shutil
import subprocess
from pathlib import Path

import pytest

from pocketspark.cli import app

ROOT = Path(__file__).resolve().parents[1]
TOOLS = ("bash", "cat", "cut", "sha256sum", "dirname", "find", "sort", "xargs", "mkdir", "id")


def started(command, **options):
    return subprocess.run(command, capture_output=True, text=True, check=False, **options)


@pytest.fixture
def bare_machine(tmp_path):
    """A copy of the checkout on a machine with neither Python nor Node; `install` adds a stand-in program."""
    programs = tmp_path / "bin"
    programs.mkdir()
    for name in TOOLS:
        (programs / name).symlink_to(shutil.which(name))
    checkout = tmp_path / "checkout"
    checkout.mkdir()
    for name in ("spark", "requirements.txt", "requirements-dev.txt"):
        shutil.copy(ROOT / name, checkout / name)
    frontend = checkout / "frontend"
    frontend.mkdir()
    for name in ("package-lock.json", "index.html", "vite.config.ts"):
        shutil.copy(ROOT / "frontend" / name, frontend / name)
    (frontend / "src").mkdir()
    (frontend / "words").mkdir()
    (frontend / "public").mkdir()

    def run(*words, **programs_and_answers):
        for name, script in programs_and_answers.items():
            (programs / name).write_text(f"#!{programs}/bash\n{script}\n")
            (programs / name).chmod(0o755)
        environment = {"PATH": str(programs), "HOME": str(tmp_path)}
        return started([checkout / "spark", *words], env=environment)

    return run


def test_no_python_is_one_clear_sentence(bare_machine):
    told = bare_machine("assess", "x.json")
    assert told.returncode == 1
    assert told.stderr.strip() == "Pocket Spark needs Python 3.11 or newer as python3; install it and try again."


def test_an_old_python_is_the_same_sentence(bare_machine):
    told = bare_machine("assess", "x.json", python3="exit 1")
    assert "needs Python 3.11 or newer" in told.stderr


def test_no_node_is_one_clear_sentence(bare_machine, tmp_path):
    checkout = tmp_path / "checkout"
    lock = (checkout / "requirements.txt").read_bytes()
    stamp = subprocess.run(["sha256sum"], input=lock, capture_output=True, check=True).stdout.split()[0].decode()
    (checkout / ".venv").mkdir()
    (checkout / ".venv" / ".installed").write_text(f"requirements.txt {stamp}\n")
    told = bare_machine("demo")
    assert told.returncode == 1
    assert told.stderr.strip() == "Pocket Spark needs Node 20 or newer, with npm; install it and try again."


def test_an_unknown_command_lists_the_known_ones():
    told = started([ROOT / "spark", "dance"])
    assert told.returncode == 2
    assert "There is no command 'dance'." in told.stderr
    commands = ("demo", "serve", "assess FILE", "test", "lint", "bench", "screenshots")
    assert all(command in told.stderr for command in commands)


def test_a_file_is_judged_from_wherever_the_maker_stands(tmp_path):
    (tmp_path / "plan.json").write_text('{"format": "pocket-spark/1", "gadget": {"name": "Rain gauge"}}')
    told = started([ROOT / "spark", "assess", "plan.json"], cwd=tmp_path)
    assert told.returncode == 0, told.stderr
    assert told.stdout.startswith("Rain gauge: First build")


def test_ci_calls_the_readme_test_command():
    assert "./spark test" in (ROOT / ".ci" / "run").read_text()
    assert "./spark test" in (ROOT / "README.md").read_text()


def test_help_names_all_that_it_can():
    """By the labels of the script's own branches, and the commands that the program behind it says it has."""
    script = (ROOT / "spark").read_text()
    branches = re.findall(r"^  ([a-z|-]+)\)$", script.split('case "${1:-help}"')[1], re.MULTILINE)
    can = {name for branch in branches for name in branch.split("|")}
    behind = {command.name or command.callback.__name__ for command in app.registered_commands}
    named = set(re.findall(r"^  ([a-z-]+) ", started([ROOT / "spark", "help"]).stdout, re.MULTILINE))
    assert behind <= can
    assert can <= named
