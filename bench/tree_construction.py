"""Hold the markup layer against tree-construction data: ``python bench/tree_construction.py FOLDER``.

FOLDER holds ``.dat`` files in the form that general-purpose HTML parsers ship with their sources ("#data", "#errors",
"#document-fragment", "#document"). Prints how many trees agree, how many have exact places, and the cases that differ.
"""

from __future__ import annotations

import sys
from pathlib import Path

from verse_tray.markup.parse import parse_document, parse_fragment
from verse_tray.markup.tree import Comment, Element, Text, Tree

SECTIONS = ("data", "errors", "new-errors", "document-fragment", "document", "script-on", "script-off")


def dump(tree: Tree) -> str:
    lines: list[str] = []
    stack: list[tuple[int, object]] = [(0, node) for node in reversed(tree.root.children)]
    while stack:
        depth, node = stack.pop()
        indent = "| " + "  " * depth
        if isinstance(node, Element):
            space = {"html": "", "svg": "svg ", "mathml": "math "}[node.namespace]
            lines.append(f"{indent}<{space}{node.name}>")
            for name, value in sorted(node.attributes.items()):
                foreign = node.namespace != "html" and name.startswith(("xlink:", "xml:", "xmlns:"))
                shown = name.replace(":", " ", 1) if foreign else name
                lines.append(f'{indent}  {shown}="{value}"')
            inner = depth + 1
            if node.name == "template" and node.namespace == "html":
                lines.append(f"{indent}  content")
                inner += 1
            stack += [(inner, child) for child in reversed(node.children)]
        elif isinstance(node, Text):
            lines.append(f'{indent}"{node.data}"')
        else:
            assert isinstance(node, Comment)
            markup = node.markup
            lines.append(f"{indent}<!-- {markup[4:-3]} -->" if node.kind == "comment" else f"{indent}{markup}")
    return "\n".join(lines)


def cases(path: Path) -> list[dict[str, str]]:
    found: list[dict[str, str]] = []
    section = ""
    for line in path.read_bytes().decode("utf-8", "surrogatepass").split("\n"):
        if line == "#data":
            found.append({})
        if line.startswith("#") and line[1:] in SECTIONS:
            section = line[1:]
            found[-1][section] = ""
        elif section:
            found[-1][section] += line + "\n"
    return found


def main(folder: str) -> None:
    good = total = exact = 0
    differing = []
    for path in sorted(Path(folder).glob("**/*.dat")):
        for case in cases(path):
            context = case.get("document-fragment", "").strip()
            if "document" not in case or "script-on" in case or " " in context:
                continue
            data = case["data"][:-1]
            expected = case["document"].strip("\n")
            expected = "\n".join(line for line in expected.split("\n") if not line.startswith("| <!DOCTYPE"))
            parsed = parse_fragment(data, context) if context else parse_document(data)
            ours = "\n".join(line for line in dump(parsed.tree).split("\n") if not line.startswith("| <!DOCTYPE"))
            total += 1
            exact += parsed.places.exactness == "exact"
            if ours == expected:
                good += 1
            else:
                differing.append(f"{path.name}: {data!r}\n--- expected\n{expected}\n--- ours\n{ours}\n")
    if "-v" in sys.argv:
        print("\n".join(differing))
    print(f"{good} of {total} trees agree ({good / total:.1%}); {exact} ({exact / total:.1%}) with every place exact")


if __name__ == "__main__":
    main(sys.argv[1])
