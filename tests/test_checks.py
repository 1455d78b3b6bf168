"""Every test checks something, whatever it meets."""

from __future__ import annotations

import ast
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]


def surely_checks(body: list[ast.stmt], known: dict[str, ast.expr], helpers: set[str]) -> bool:
    """Whether a test's body checks something whatever it meets: not only in a loop over nothing, or in one branch."""
    return any(_checks(statement, known, helpers) for statement in body)


def _checks(statement: ast.stmt, known: dict[str, ast.expr], helpers: set[str]) -> bool:
    def inside(body: list[ast.stmt]) -> bool:
        return surely_checks(body, dict(known), helpers)

    match statement:
        case ast.Assign(targets=[ast.Name(id=name)], value=value):
            known[name] = value
            return _is_check(value, helpers)
        case ast.For(iter=iterated, body=body):
            return _is_some(iterated, known) and inside(body)
        case ast.While(test=ast.Constant(), body=body):
            return inside(body)
        case ast.While():
            return False
        case ast.If(body=body, orelse=others):
            return bool(others) and inside(body) and inside(others)
        case ast.With(items=items, body=body):
            return any(_is_check(item.context_expr, helpers) for item in items) or inside(body)
        case ast.Try(body=body, handlers=handlers, orelse=others, finalbody=last):
            met = all(inside(handler.body) or _leaves(handler.body) for handler in handlers)
            return inside(last) or (met and (inside(body) or inside(others)))
        case ast.FunctionDef():
            return False
        case _:
            return _is_check(statement, helpers)


def _leaves(body: list[ast.stmt]) -> bool:
    return isinstance(body[-1], ast.Continue | ast.Raise)


def _is_check(node: ast.AST, helpers: set[str]) -> bool:
    for inner in ast.walk(node):
        if isinstance(inner, ast.Assert | ast.Raise):
            return True
        if isinstance(inner, ast.Call) and ast.unparse(inner.func).rsplit(".", 1)[-1] in helpers:
            return True
    return False


def _is_some(iterated: ast.expr, known: dict[str, ast.expr]) -> bool:
    """Whether there is surely something to loop over."""
    match iterated:
        case ast.Tuple(elts=elements) | ast.List(elts=elements) | ast.Set(elts=elements):
            return any(not isinstance(element, ast.Starred) for element in elements)
        case ast.Dict(keys=keys):
            return bool(keys)
        case ast.Constant(value=str(text)):
            return bool(text)
        case ast.Name(id=name):
            return name in known and _is_some(known[name], {})
        case ast.Call(func=ast.Attribute(value=of, attr="items" | "values" | "keys")):
            return _is_some(of, known)
        case ast.Call(func=ast.Attribute(value=ast.Name(id="np"))):
            return True
        case ast.Call(func=ast.Name(id="at_least_one" | "range" | "examples_of")):
            return True
        case ast.Call(func=ast.Name(id="enumerate" | "reversed" | "sorted" | "zip" | "product"), args=args):
            return all(_is_some(arg, known) for arg in args)
        case _:
            return False


def test_every_test_checks_something() -> None:
    trees = {file: ast.parse(file.read_text()) for file in sorted((ROOT / "tests").rglob("*.py"))}
    helpers = {
        "raises",
        "expect",
        "raise_for_status",
        "fail",
        "validate_response",
        "assert_array_equal",
        "assert_allclose",
    }
    for tree in trees.values():
        for node in ast.walk(tree):
            if isinstance(node, ast.FunctionDef) and not node.name.startswith("test_") and _is_check(node, helpers):
                helpers.add(node.name)
    idle = []
    for file, tree in trees.items():
        known = {}
        for node in tree.body:
            match node:
                case ast.Assign(targets=[ast.Name(id=name)], value=value):
                    known[name] = value
                case ast.AnnAssign(target=ast.Name(id=name), value=ast.expr() as value):
                    known[name] = value
        for node in ast.walk(tree):
            a_test = isinstance(node, ast.FunctionDef) and node.name.startswith("test_")
            if a_test and not surely_checks(node.body, dict(known), helpers):
                idle.append(f"{file.name}: {node.name}")
    assert not idle, "may check nothing; see tests/checks.py: " + "; ".join(idle)


@pytest.mark.parametrize(
    ("body", "checks"),
    [
        ("assert a", True),
        ("for one in (1, 2):\n    assert one", True),
        ("for one in found:\n    assert one", False),
        ("for one in at_least_one(found):\n    assert one", True),
        ("if found:\n    assert found", False),
        ("try:\n    assert a\nexcept ValueError:\n    pass", False),
        ("with pytest.raises(ValueError):\n    a()", True),
        ("", False),
    ],
)
def test_what_may_check_nothing_is_seen(body: str, checks: bool) -> None:
    assert surely_checks(ast.parse(body).body, {}, {"raises"}) == checks
