from __future__ import annotations

import os

# Small matrices: threads of linear algebra would only wait for one another.
os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import pytest
from hypothesis import settings

import welbric as wb
from welbric.files.jobs import demo_text

settings.register_profile("welbric", deadline=None, max_examples=60, derandomize=True)
settings.load_profile("welbric")


@pytest.fixture(scope="session")
def demo_job() -> wb.Job:
    return wb.parse_job(demo_text(), "saltmarsh.toml")


@pytest.fixture(scope="session")
def demo_table(demo_job):
    return wb.check(demo_job)


@pytest.fixture(autouse=True)
def no_width_of_a_terminal(monkeypatch):
    monkeypatch.delenv("COLUMNS", raising=False)
