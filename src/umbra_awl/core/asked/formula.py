"""Formulas as they are shown, worked out: numbers, names, + − × ÷ powers, comparisons, and a few functions. Nothing else."""

import ast
import math
import operator
from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import Any

_BINARY: dict[type[ast.operator], Callable[[Any, Any], Any]] = {
    ast.Add: operator.add, ast.Sub: operator.sub, ast.Mult: operator.mul, ast.Div: operator.truediv, ast.Pow: operator.pow,
}  # fmt: skip
_COMPARED: dict[type[ast.cmpop], Callable[[Any, Any], bool]] = {
    ast.LtE: operator.le, ast.Lt: operator.lt, ast.GtE: operator.ge, ast.Gt: operator.gt,
}  # fmt: skip
FUNCTIONS: Mapping[str, Callable[..., float]] = MappingProxyType({
    "sqrt": math.sqrt, "log10": math.log10, "ln": math.log, "max": max, "min": min, "ceil": math.ceil,
    "sum": lambda *all_: sum(all_),
})  # fmt: skip
NAMES: Mapping[str, float] = MappingProxyType({"pi": math.pi})
MOST_LETTERS, MOST_DEEP = 2_000, 60


class FormulaError(ValueError):
    """A formula that cannot be worked out; the message says why."""


def worked_out(
    formula: str, values: Mapping[str, float], functions: Mapping[str, Callable[..., float]] = FUNCTIONS
) -> float:
    """The value of a formula with these values for its names. Raises FormulaError."""
    if len(formula) > MOST_LETTERS:
        raise FormulaError("The formula is too long.")
    try:
        tree = ast.parse(formula, mode="eval")
        return float(_value(tree.body, {**NAMES, **values}, functions, 0))
    except (SyntaxError, TypeError, ValueError, ZeroDivisionError, OverflowError, MemoryError, RecursionError) as error:
        raise FormulaError(
            f"“{formula[:60]}” cannot be worked out ({str(error)[:60] or type(error).__name__})."
        ) from None


def _value(  # noqa: PLR0911  (one for each part of a formula)
    node: ast.expr, values: Mapping[str, float], functions: Mapping[str, Callable[..., float]], deep: int
) -> Any:
    if deep > MOST_DEEP:
        raise FormulaError("The formula is nested too deeply.")

    def inner(one: ast.expr) -> Any:
        return _value(one, values, functions, deep + 1)

    match node:
        case ast.Constant(value=int() | float() as number):
            return float(number)  # powers of whole numbers could go on for ever
        case ast.Name(id=name) if name in values:
            return values[name]
        case ast.UnaryOp(op=ast.USub(), operand=one):
            return -inner(one)
        case ast.BinOp(left=left, op=op, right=right) if type(op) in _BINARY:
            return _BINARY[type(op)](inner(left), inner(right))
        case ast.Compare(left=left, ops=[op], comparators=[right]) if type(op) in _COMPARED:
            return _COMPARED[type(op)](inner(left), inner(right))
        case ast.IfExp(test=test, body=body, orelse=other):
            return inner(body) if inner(test) else inner(other)
        case ast.Call(func=ast.Name(id=name), args=args, keywords=[]) if name in functions:
            return functions[name](*map(inner, args))
    raise FormulaError(f"“{ast.unparse(node)[:60]}” is no part of a formula.")
