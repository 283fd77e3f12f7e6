"""The application's own modules as trees, for tests of what may stand where; only those are parsed that have a word in them."""

import ast
from pathlib import Path

SOURCE = Path(__file__).parent.parent / "src" / "umbra_awl"


def nodes_of_modules_with(word):
    """Every node of every module that has a word in its text, with the module's path below the package."""
    for path in sorted(SOURCE.rglob("*.py")):
        text = path.read_text("utf-8")
        if word in text:
            for node in ast.walk(ast.parse(text)):
                yield path.relative_to(SOURCE), node
