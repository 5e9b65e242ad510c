from __future__ import annotations

import pytest
from hypothesis import settings

import welbric as wb
from welbric.jobs import demo_text

settings.register_profile("welbric", deadline=None, max_examples=60, derandomize=True)
settings.load_profile("welbric")


@pytest.fixture(scope="session")
def demo_job() -> wb.Job:
    return wb.parse_job(demo_text(), "saltmarsh.toml")


@pytest.fixture(scope="session")
def demo_table(demo_job):
    return wb.check(demo_job)
