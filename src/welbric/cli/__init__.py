"""The command line: reads, calls, prints; it computes nothing.

Every command imports what it needs when it runs, so that start-up stays short.
"""

from __future__ import annotations

import gc
import os
import sys

import click

from welbric import __version__
from welbric.cli import books, choosing, frames, members, reference, schedules

COMMANDS = (
    *(
        members.demo,
        members.new,
        members.check,
        members.reactions,
        members.combinations,
        members.takeoff,
        members.explain,
        members.segments,
        members.draw,
    ),
    *(frames.frame, frames.expand, frames.gather),
    *(books.book, books.changes),
    *(choosing.size, choosing.reserve, choosing.compare, choosing.curve),
    schedules.schedule,
    *(reference.sections, reference.reconcile, reference.scope, reference.schema),
)


@click.group(context_settings={"help_option_names": ["-h", "--help"], "max_content_width": 100})
@click.version_option(__version__, prog_name="welbric")
def main() -> None:
    """Check steel members against a design standard, and show every step.

    A job file (TOML) describes the members. Exit status: 0 all within limits, 1 something over or
    outside the standard's scope, 2 the input was wrong.
    """
    # The matrices of members are small: threads of linear algebra would wait for one another.
    for library in ("OPENBLAS", "MKL", "OMP"):
        os.environ.setdefault(f"{library}_NUM_THREADS", "1")
    # A command lives for a second: looking for garbage while it loads only costs time.
    gc.set_threshold(200_000)
    for stream in (sys.stdout, sys.stderr):
        if hasattr(stream, "reconfigure"):
            stream.reconfigure(errors="replace")


for command in COMMANDS:
    main.add_command(command)
