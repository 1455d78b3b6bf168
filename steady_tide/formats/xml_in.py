"""XML from outside: bounded, and without what can hurt."""

from __future__ import annotations

from typing import Any
from xml.etree.ElementTree import ParseError

from defusedxml import ElementTree
from defusedxml.common import DefusedXmlException

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault

DEEPEST, MOST_ELEMENTS, MOST_NAMES = 40, 1_000_000, 60


def read_xml(data: bytes, what: str) -> Any:
    """Parse a document.

    data: the file; what: it should be, for messages. Returns the root element.
    Raises BadFile where it is too large, no XML, or declares entities or a document type.
    """
    if len(data) > sizes.TRACK_OR_DIVE:
        raise BadFile(Fault("the file", f"is larger than {sizes.in_mb(sizes.TRACK_OR_DIVE)} MB", "Cut it to the day."))
    if data.count(b"xmlns:") > MOST_NAMES:  # readers go through all of them again and again
        raise BadFile(
            Fault("the file", f"declares more than {MOST_NAMES} name spaces", f"A {what} needs a few; export it again.")
        )
    try:
        return ElementTree.fromstring(data, forbid_dtd=True)
    except DefusedXmlException:
        raise BadFile(
            Fault("the file", "declares a document type or entities", f"A {what} needs none; export it again.")
        ) from None
    except ParseError as error:
        line, column = error.position
        said = f"is no {what}: line {line}, column {column} cannot be read as XML"
        raise BadFile(Fault("the file", said, "Check that it was exported whole.")) from None
    except (ValueError, RecursionError, LookupError):
        raise BadFile(Fault("the file", f"is no {what}", "Check that it was exported whole, as UTF-8.")) from None
