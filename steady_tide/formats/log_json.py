"""The log as JSON."""

from __future__ import annotations

import json

from pydantic import ValidationError

from steady_tide.core.log.log_file import LogFile
from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.formats.decoded import decoded


def write_log_json(log: LogFile) -> str:
    """A log as JSON."""
    return json.dumps(log.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"


def read_log_json(data: bytes, source: str) -> LogFile:
    """Read a log's file. data: its content; source: for messages. Returns it. Raises BadFile."""
    try:
        return LogFile.model_validate(decoded(data, source, sizes.LOG))
    except ValidationError as error:
        raise BadFile(*faults_of(error, (source,))) from None
