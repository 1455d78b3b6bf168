"""Logs: one JSON line an event, on standard error; quiet unless a level is given."""

from __future__ import annotations

import logging
import sys

import structlog

LEVELS = ("debug", "info", "warning", "error")


def log_lines(level: str) -> None:
    """Write events of a level and above. level: one of `LEVELS`."""
    structlog.configure(
        processors=[
            structlog.contextvars.merge_contextvars,
            structlog.processors.add_log_level,
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(ensure_ascii=False),
        ],
        wrapper_class=structlog.make_filtering_bound_logger(logging.getLevelNamesMapping()[level.upper()]),
        logger_factory=structlog.PrintLoggerFactory(sys.stderr),
    )
