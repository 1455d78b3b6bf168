"""Usual uses as JSON."""

from __future__ import annotations

import json

from pydantic import ValidationError

from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.core.quantities.frozen import faults_of
from steady_tide.core.uses.uses_file import FORMAT, UsesFile
from steady_tide.formats.decoded import decoded


def read_uses_file(data: bytes, name: str) -> UsesFile:
    """Read usual uses. data: JSON; name: of the file, for messages. Returns them. Raises BadFile with the path of every fault."""
    doc = decoded(data, name)
    if not isinstance(doc, dict) or doc.get("format") != FORMAT:
        raise BadFile(Fault(name, "holds no usual uses", f'It begins with {{"format": "{FORMAT}"}}.'))
    try:
        read = UsesFile.model_validate(doc)
    except ValidationError as error:
        raise BadFile(*faults_of(error, (name,))) from None
    faults: list[Fault] = []
    for place, entry in enumerate(read.uses):
        try:
            entry.read()
        except ValidationError as error:
            faults.extend(faults_of(error, (name, f"uses[{place}]")))
    if faults:
        raise BadFile(*faults)
    return read


def write_uses_file(uses: UsesFile) -> str:
    """Write usual uses. Returns the text."""
    return json.dumps(uses.model_dump(mode="json"), ensure_ascii=False, indent=1) + "\n"
