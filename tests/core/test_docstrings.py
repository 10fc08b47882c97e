"""Public functions say what they do: what a declaration already says (a check, an address) is not said twice, and numbers of the core have their units."""

import ast
import pathlib
import re
import unittest
from collections.abc import Iterator

import uphill_spark
from uphill_spark.core.findings import CHECKS

PACKAGE = pathlib.Path(uphill_spark.__file__).parent
#: Names that end in their unit, or are one.
TELLS_UNIT = re.compile(
    r"(?:^|_)(?:pa|kpa|m|m2|m3|mm|s|ms|k|v|a|w|j|hz|deg|degrees|ohm|ohms|kg|kg_s|m3_s|m_s|rev_s|l_h|g|c|min|minutes|hours|seconds|share|kelvin|watts|metres|amps|volts|rpm)$"
)
#: Decorators that carry the words themselves.
DECLARES = ("check(", "api.get(", "api.post(", "api.put(", "api.patch(", "api.delete(", "letters.get(", "app.")


def public() -> Iterator[tuple[str, ast.FunctionDef | ast.ClassDef]]:
    """Every public function, class and method, by where it stands; those inside functions are nobody's but their own."""
    for path in sorted(PACKAGE.rglob("*.py")):
        if "migrations" in path.parts:
            continue
        module = ast.parse(path.read_text())
        for owner in (module, *(n for n in module.body if isinstance(n, ast.ClassDef) and not n.name.startswith("_"))):
            for node in owner.body:
                if isinstance(node, ast.FunctionDef | ast.ClassDef) and not node.name.startswith("_"):
                    yield f"{path.relative_to(PACKAGE)}:{node.lineno} {node.name}", node


class Docstrings(unittest.TestCase):
    def test_everything_public_says_what_it_is(self) -> None:
        silent = [
            where
            for where, node in public()
            if ast.get_docstring(node) is None and not any(ast.unparse(d).startswith(DECLARES) for d in node.decorator_list)
        ]
        self.assertEqual(silent, [])

    def test_numbers_of_the_core_have_their_units(self) -> None:
        """In the name, in square brackets, or in an example that can be run."""
        unsaid = []
        for where, node in public():
            if (
                not where.startswith("core/")
                or isinstance(node, ast.ClassDef)
                or any("check(" in ast.unparse(d) for d in node.decorator_list)
            ):
                continue
            given = [
                a.arg for a in (*node.args.args, *node.args.kwonlyargs) if a.annotation is not None and "float" in ast.unparse(a.annotation)
            ]
            bare = [name for name in given if not TELLS_UNIT.search(name)]
            returns = ast.unparse(node.returns) if node.returns else ""
            if (bare or ("float" in returns and not TELLS_UNIT.search(node.name))) and not re.search(
                r"\[|>>>", ast.get_docstring(node) or ""
            ):
                unsaid.append(where)
        self.assertEqual(unsaid, [])

    def test_a_check_is_told_by_its_declaration(self) -> None:
        for check in CHECKS:
            self.assertEqual(check.body.__doc__, f"{check.code}: {check.title}. Source: {check.source}.")


if __name__ == "__main__":
    unittest.main()
