"""JSON and YAML from outside, decoded defensively: bounded, without tags, aliases or doubled keys."""

from __future__ import annotations

import json
import re
from typing import Any

import yaml

from steady_tide.core.quantities import sizes
from steady_tide.core.quantities.errors import BadFile, Fault
from steady_tide.formats.nesting import is_too_deep

DEEPEST = 20


class NotTaken(ValueError):
    """What cannot be taken as JSON, and why, in our own words that stand behind a colon."""


def json_of(data: bytes, *, strict: bool = False) -> Any:
    """Decode JSON from outside. data: UTF-8; strict: no key twice, no NaN. Returns plain values. Raises NotTaken."""
    if is_too_deep(data):
        raise NotTaken("it is nested too deep")
    hooks: dict[str, Any] = {"object_pairs_hook": _once, "parse_constant": _finite} if strict else {}
    try:
        return json.loads(data, **hooks)
    except json.JSONDecodeError as error:
        where = f"line {error.lineno}, column {error.colno}"
        raise NotTaken(f"{where} cannot be read; a bracket, comma, quote or value is wrong there") from None
    except UnicodeDecodeError:
        raise NotTaken("it is no text in UTF-8") from None
    except NotTaken:
        raise
    except ValueError:
        raise NotTaken("it holds a number of too many digits") from None


class _NoYaml(yaml.MarkedYAMLError):
    """What is YAML and is not taken all the same. what: in our own words; mark: where."""

    def __init__(self, what: str, mark: Any) -> None:
        super().__init__(None, None, what, mark)


# The parser of the C library, which PyYAML's wheels bring along, takes a tenth of the time of the one in Python.
_Fast: Any = getattr(yaml, "CSafeLoader", yaml.SafeLoader)


class _Plain(_Fast):  # type: ignore[misc]
    """YAML with the few scalars of JSON: "off" and "1:30" stay text, and nothing refers to anything."""

    yaml_implicit_resolvers: dict[str, Any] = {}  # noqa: RUF012

    def construct_mapping(self, node: Any, deep: bool = False) -> dict[Any, Any]:
        seen = set()
        for key_node, _ in node.value:
            key = self.construct_object(key_node, deep=True)
            if not isinstance(key, str | int | float | bool):
                raise _NoYaml("a key is no plain text", key_node.start_mark)
            if key in seen:
                raise _NoYaml(f"the key '{key}' stands twice", key_node.start_mark)
            seen.add(key)
        made: dict[Any, Any] = super().construct_mapping(node, deep=deep)
        return made


for _tag, _pattern, _first in (
    ("tag:yaml.org,2002:null", r"^(?:~|null|)$", ["~", "n", ""]),
    ("tag:yaml.org,2002:bool", r"^(?:true|false)$", list("tf")),
    ("tag:yaml.org,2002:int", r"^[-+]?(?:0|[1-9][0-9]*)$", list("-+0123456789")),
    (
        "tag:yaml.org,2002:float",
        r"^[-+]?(?:(?:0|[1-9][0-9]*)(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][-+]?[0-9]+)?$",
        list("-+.0123456789"),
    ),
):
    _Plain.add_implicit_resolver(_tag, re.compile(_pattern), _first)


def _looked_over(text: str) -> None:
    """Raise MarkedYAMLError on what refers to something, is tagged, or lies too deep."""
    depth = 0
    events: Any = yaml.parse(text, Loader=_Fast)
    for event in events:
        here: Any = event.start_mark
        if isinstance(event, yaml.AliasEvent):
            raise _NoYaml("an alias (*name) is not taken", here)
        if getattr(event, "tag", None) is not None:
            raise _NoYaml(f"a tag ({event.tag}) is not taken", here)
        if isinstance(event, yaml.CollectionStartEvent):
            depth += 1
            if depth > DEEPEST:
                raise _NoYaml("it is nested too deep", here)
        elif isinstance(event, yaml.CollectionEndEvent):
            depth -= 1


def decoded(data: bytes, name: str, most: int = sizes.KIT) -> Any:
    """Decode JSON or YAML.

    data: UTF-8; name: of the file, for messages; most: bytes, as much as a whole kit unless said otherwise. Returns plain values.
    Raises BadFile where it is too large, is neither, or uses what only YAML's machinery needs.
    """
    if len(data) > most:
        raise _too_large(name, most, "A sheet or a kit is some kilobytes of text.")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadFile(Fault(name, "is no text in UTF-8", "Save it as JSON or YAML.")) from None
    if text.lstrip()[:1] in ("{", "["):
        try:
            return json_of(data, strict=True)
        except NotTaken as error:
            raise BadFile(Fault(name, f"is not JSON: {error}", "Mend it there, or export it again.")) from None
    if len(data) > sizes.YAML:
        raise _too_large(name, sizes.YAML, "Write a kit of this size as JSON.")
    try:
        _looked_over(text)
        return yaml.load(text, Loader=_Plain)
    except yaml.MarkedYAMLError as error:
        mark = error.problem_mark
        where = f"{name}, line {mark.line + 1}" if mark else name
        what = error.problem if isinstance(error, _NoYaml) else "its blanks, colons, brackets or quotes do not fit"
        raise BadFile(Fault(where, f"is not plain YAML: {what}", "Write plain keys, lists and values.")) from None
    except (yaml.YAMLError, ValueError, RecursionError):
        raise BadFile(Fault(name, "is neither JSON nor YAML", "Check the file with an editor.")) from None


def _too_large(name: str, most: int, mend: str) -> BadFile:
    return BadFile(Fault(name, f"is larger than {sizes.in_mb(most)} MB", mend))


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found: dict[str, Any] = {}
    for key, value in pairs:
        if key in found:
            raise NotTaken(f"the key '{key[:80]}' stands twice")
        found[key] = value
    return found


def _finite(text: str) -> Any:
    raise NotTaken(f"{text} is not a finite number")
