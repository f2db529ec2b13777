"""The faults that can be put into a source: a bound that takes in its end, a plus for a minus, another number."""

import ast
import copy
from collections.abc import Iterator
from typing import NamedTuple

#: Comparisons, and those that are put in their place.
COMPARED = {
    ast.Lt: (ast.LtE, ast.Gt), ast.LtE: (ast.Lt, ast.Gt), ast.Gt: (ast.GtE, ast.Lt), ast.GtE: (ast.Gt, ast.Lt),
    ast.Eq: (ast.NotEq,), ast.NotEq: (ast.Eq,), ast.In: (ast.NotIn,), ast.NotIn: (ast.In,),
    ast.Is: (ast.IsNot,), ast.IsNot: (ast.Is,),
}  # fmt: skip
RECKONED = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}
NAMED = {
    "min": "max", "max": "min", "any": "all", "all": "any", "real": "imag", "imag": "real", "left": "right",
    "right": "left", "bottom": "top", "top": "bottom", "width": "height", "height": "width", "start": "end",
    "end": "start", "thickness": "thickest", "thickest": "thickness",
}  # fmt: skip
#: Less than this is rounding: that nobody notices it is meant.
ROUNDING = 1e-3


class Fault(NamedTuple):
    """What stands in the source from one place (line, column) to another, and what is put there instead."""

    line: int
    column: int
    last_line: int
    last_column: int
    was: str
    instead: str

    def put_into(self, source: str) -> str:
        lines = source.encode().splitlines(keepends=True)
        before = b"".join(lines[: self.line - 1]) + lines[self.line - 1][: self.column]
        after = lines[self.last_line - 1][self.last_column :] + b"".join(lines[self.last_line :])
        return (before + f"({self.instead})".encode() + after).decode()


def faults(source: str) -> Iterator[Fault]:
    """Every fault of a source, in its order; none in sentences, annotations, or what is kept of memory."""
    yield from _faults(ast.parse(source))


#: What is no rule: types; so is what is said of a refusal or in a sentence, and that two lists are equally long.
NO_RULE = ("annotation", "returns", "decorator_list", "type_params")


def _faults(node: ast.AST) -> Iterator[Fault]:
    if isinstance(node, ast.Raise | ast.JoinedStr) or (isinstance(node, ast.keyword) and node.arg == "strict"):
        return
    if isinstance(node, ast.expr):
        yield from (_fault(node, other) for other in _others(node))
    for name, field in ast.iter_fields(node):
        for below in field if isinstance(field, list) else [field]:
            if name not in NO_RULE and isinstance(below, ast.AST):
                yield from _faults(below)


def _fault(node: ast.expr, other: ast.expr) -> Fault:
    assert node.end_lineno is not None and node.end_col_offset is not None
    place = node.lineno, node.col_offset, node.end_lineno, node.end_col_offset
    return Fault(*place, ast.unparse(node), ast.unparse(other))


def _others(node: ast.expr) -> Iterator[ast.expr]:
    """The expression with one fault in it, in every way."""
    match node:
        case ast.Compare(ops=[op]):
            # Whether a bound that is off by rounding takes in its end is nothing that anybody meets.
            others = COMPARED[type(op)][1:] if _is_rounded(node) else COMPARED[type(op)]
            yield from (_changed(node, ops=[instead()]) for instead in others)
        case ast.BinOp(op=op) if type(op) in RECKONED and not _is_text(node):
            yield _changed(node, op=RECKONED[type(op)]())
        case ast.BoolOp(op=op):
            yield _changed(node, op=ast.Or() if isinstance(op, ast.And) else ast.And())
        case ast.UnaryOp(op=ast.Not() | ast.USub(), operand=operand):
            yield operand
        case ast.IfExp(test=test):
            yield _changed(node, test=ast.UnaryOp(ast.Not(), test))
        case ast.Constant(value=value):
            yield from (_changed(node, value=other) for other in _other_values(value))
        case ast.Attribute(attr=name) if name in NAMED:
            yield _changed(node, attr=NAMED[name])
        case ast.Call(func=ast.Name(id=name)) if name in NAMED:
            yield _changed(node, func=ast.Name(NAMED[name]))


def _other_values(value: object) -> Iterator[object]:
    """A number a little larger; what is rounding may be any."""
    if isinstance(value, bool):
        yield not value
    elif isinstance(value, int):
        yield value + max(1, round(value / 5))
    elif isinstance(value, float) and (value == 0 or abs(value) >= ROUNDING):
        yield round(value * 1.2, 6) if value else 0.2


def _changed(node: ast.expr, **fields: object) -> ast.expr:
    other = copy.copy(node)
    for name, value in fields.items():
        setattr(other, name, value)
    return other


def _is_rounded(node: ast.Compare) -> bool:
    """Whether a comparison has rounding in it."""
    values = (getattr(one, "value", None) for one in ast.walk(node))
    return any(isinstance(value, float) and 0 < abs(value) < ROUNDING for value in values)


def _is_text(node: ast.BinOp) -> bool:
    sides = node.left, node.right
    return any(isinstance(one, ast.JoinedStr) or isinstance(getattr(one, "value", None), str) for one in sides)
