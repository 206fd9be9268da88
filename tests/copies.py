"""A copy of the program, changed: whether a thing is added where the guide says, and nowhere else."""

import shutil
import subprocess
import sys
from pathlib import Path

import baugrund


def in_a_copy(folder, change, code):
    """Run code with a copy of the package in which something was changed; what it prints when it fails is told."""
    copy = folder / "baugrund"
    # with its machine code, or the copy would make its own
    shutil.copytree(Path(baugrund.__file__).parent, copy)
    change(copy)
    done = subprocess.run(
        [sys.executable, "-c", code], cwd=folder, env={"PYTHONPATH": str(folder), "PATH": "/usr/bin:/bin"},
        capture_output=True, text=True, check=False,
    )  # fmt: skip
    assert done.returncode == 0, done.stderr[-2000:]
