"""The shape of the project: layers, sizes, documents and what the wheel holds."""

from __future__ import annotations

import ast
import doctest
import json
import re
import subprocess
import sys
import tomllib
import zipfile
from functools import cache
from pathlib import Path
from typing import Any

import jsonschema
import pytest
import typer.main

sys.path.insert(0, str(Path(__file__).parent.parent / "tools"))
from commands_page import commands
from stand_ins_page import shown_by_editor
from write_pages import pages

import verse_tray
from verse_tray.checks.find import find
from verse_tray.checks.table import RULES
from verse_tray.cli.app import COMMANDS, build
from verse_tray.editors.load import STAND_INS, known_editors
from verse_tray.editors.schema import profile_schema
from verse_tray.fields import in_script, places
from verse_tray.journeys import outcome, pipeline
from verse_tray.journeys.journey import journey
from verse_tray.journeys.steps import STEPS
from verse_tray.markup import parser_limits
from verse_tray.media import picture_size
from verse_tray.model import decoding
from verse_tray.model.decoding import Source
from verse_tray.model.findings import Verdict
from verse_tray.piece.piece import Piece
from verse_tray.preview.browser import flags, session
from verse_tray.preview.live import application
from verse_tray.preview.pages import offline
from verse_tray.preview.trials import messages, trial
from verse_tray.reading import made_text, pairing
from verse_tray.reports.check_json import report as check_json
from verse_tray.reports.formats import Wanted
from verse_tray.reports.results import PieceResult
from verse_tray.style import cascade, variables
from verse_tray.style.source import DEEPEST_BRACKETS

ROOT = Path(__file__).parent.parent
PACKAGE = ROOT / "src" / "verse_tray"
MODULES = sorted(PACKAGE.rglob("*.py"))
PAGE = (ROOT / "docs" / "architecture.md").read_text("utf-8")
LAYERS = [
    re.findall(r"(\w+)/", row) for row in re.findall(r"^ {4}((?:\w+/ ?)+) {2,}", PAGE.split("## Layers")[1], re.M)
]
INTERFACE = {"typer", "click", "rich", "playwright"}
MAY_KNOW_IT = {"cli", "tasks", "reports", "preview"}


def layer(folder: str) -> int:
    """Return how far down a folder stands in the table of the page."""
    return next(depth for depth, names in enumerate(LAYERS) if folder in names)


def test_the_page_names_every_folder_and_no_other() -> None:
    folders = {path.name for path in PACKAGE.iterdir() if path.is_dir() and path.name != "__pycache__"}
    assert sorted(name for names in LAYERS for name in names) == sorted(folders)


@cache
def read(path: Path) -> tuple[set[str], list[str]]:
    """Return what a module imports, and its columns of which it is not said what becomes of long words."""
    imported: set[str] = set()
    columns = []
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.Import):
            imported |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            imported |= {f"{node.module}.{alias.name}" for alias in node.names}
        elif isinstance(node, ast.Call):
            name = getattr(node.func, "attr", getattr(node.func, "id", ""))
            if name in ("add_column", "Column") and not {"overflow", "no_wrap"} & {each.arg for each in node.keywords}:
                columns.append(f"{path.name}:{node.lineno}")
    return imported, columns


def test_imports_run_downward() -> None:
    wrong = []
    for path in MODULES:
        own = path.relative_to(PACKAGE).parts[0]
        if own.endswith(".py"):  # the package's own face
            continue
        for name in read(path)[0]:
            other = name.split(".")[1] if name.startswith("verse_tray.") else own
            is_upward = other != own and (PACKAGE / other).is_dir() and layer(other) <= layer(own)
            if is_upward or (own not in MAY_KNOW_IT and name.split(".")[0] in INTERFACE):
                wrong.append(f"{path.relative_to(PACKAGE)} imports {name}")
    assert wrong == []


def test_no_module_is_long() -> None:
    assert [path.name for path in MODULES if path.read_text("utf-8").count("\n") > 500] == []


def test_the_core_loads_no_interface() -> None:
    code = "import sys, verse_tray; verse_tray.journey('<p>x</p>', 'blog-post').findings; print(*sys.modules)"
    loaded = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout.split()
    assert not INTERFACE & set(loaded)
    code = "import sys; from verse_tray.cli.app import main; main()"
    told = [sys.executable, "-X", "importtime", "-c", code, "check", "-", "--editor", "blog-post"]
    ended = subprocess.run(told, input=b"<p>Low water</p>", capture_output=True)
    assert (ended.returncode, re.search(rb"\| +rich$", ended.stderr, re.MULTILINE)) == (0, None)


def test_every_command_and_option_has_help() -> None:
    for names, command in commands(typer.main.get_command(build())):
        assert command.help, names
        for parameter in command.params:
            assert getattr(parameter, "help", ""), (names, parameter.name)


def test_the_generated_pages_are_fresh() -> None:
    for path, text in pages().items():
        assert path.read_text("utf-8") == text, f"{path.name}: run python tools/write_pages.py"


def test_every_rule_stands_in_the_table() -> None:
    files = {path for path in (PACKAGE / "checks").glob("*/*.py") if "RULE = Rule(" in path.read_text("utf-8")}
    names = {f"{path.parent.name}/{path.stem.replace('_', '-')}" for path in files}
    assert names == set(RULES)
    assert len(RULES) == len(set(RULES))


def test_the_hooks_name_commands_that_exist() -> None:
    hooks = (ROOT / ".pre-commit-hooks.yaml").read_text("utf-8")
    entries = re.findall(r"entry: verse-tray (\S+)", hooks)
    assert entries
    assert set(entries) <= set(COMMANDS)


def test_commands_and_records_are_annotated_with_what_is_loaded() -> None:
    future = "from __future__ import annotations"  # what reads them as it runs would compile each of them again
    texts = {path: path.read_text("utf-8") for path in PACKAGE.rglob("*.py")}
    commands = {path for path, text in texts.items() if path.is_relative_to(PACKAGE / "cli") and "typer." in text}
    records = {
        path
        for path, text in texts.items()
        if re.search(r"^class \w+\((Record|Opening|Building|Filter)\b", text, re.MULTILINE)
    }
    assert len(commands) > 20 and len(records) > 5
    assert [path.name for path in commands | records if future in texts[path]] == []


def test_the_profile_guide_names_every_key() -> None:
    schema = profile_schema()
    guide = (ROOT / "docs" / "profiles.md").read_text("utf-8")
    for record in (schema, *schema["$defs"].values()):
        for key in record["properties"]:
            assert f"`{key}`" in guide or f"{key} =" in guide, key


def test_the_schema_takes_the_stand_ins_and_what_it_refuses_is_refused() -> None:
    schema = profile_schema()
    jsonschema.Draft202012Validator.check_schema(schema)
    validator = jsonschema.Draft202012Validator(schema)
    assert json.loads((ROOT / "docs" / "editor.schema.json").read_text("utf-8")) == json.loads(json.dumps(schema))
    for name in known_editors():
        validator.validate(tomllib.loads((STAND_INS / name / "editor.toml").read_text("utf-8")))
    faulty: list[dict[str, Any]] = [{"save": {"elemnts": []}}, {"limits": [{"unit": "letters"}]}]
    for wrong in (*faulty, {"variants": {"x": {"sav": {}}}}):
        with pytest.raises(jsonschema.ValidationError):
            validator.validate({"format": "verse-tray-editor/1", "title": "t", "summary": "s", **wrong})


def test_the_stand_ins_show_every_step() -> None:
    shown = {step for steps in shown_by_editor().values() for step in steps}
    assert shown >= {step.name for steps in STEPS.values() for step in steps} - {"typing"}
    assert len(known_editors()) >= 11


def test_columns_of_tables_fold_or_keep_their_line() -> None:
    assert [column for path in MODULES for column in read(path)[1]] == []


def test_links_of_the_documents_lead_somewhere() -> None:
    for page in [ROOT / "README.md", *(ROOT / "docs").glob("*.md")]:
        for target in re.findall(r"\]\(([^)#:]+)\)", page.read_text("utf-8")):
            assert (page.parent / target).exists(), f"{page.name}: {target}"


def test_the_example_of_the_readme_runs() -> None:
    code = (ROOT / "README.md").read_text("utf-8").split("```python\n")[1].split("```")[0]
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.startswith("damaged <p>Low water</p>\n1 4 onclick on <p> goes")


def shape(value: object) -> object:
    """Return the keys of a JSON value, all the way down; of a list those of its first item."""
    if isinstance(value, dict):
        return {key: shape(inner) for key, inner in value.items()}
    return [shape(value[0])] if isinstance(value, list) and value else type(value).__name__


def test_the_json_guide_shows_what_is_printed() -> None:
    guide = json.loads((ROOT / "docs" / "json.md").read_text("utf-8").split("```json\n")[1].split("```")[0])
    piece = Piece(Source("<script>1</script>"))
    printed = json.loads(check_json([PieceResult(piece, find(piece), (journey(piece, "course-page"),))], Wanted()))
    assert shape(guide) == shape(printed)


def test_the_verdict_table_is_the_code_s() -> None:
    page = (ROOT / "docs" / "architecture.md").read_text("utf-8").split("| verdict | when |")[1].split("\n\n")[0]
    assert re.findall(r"^\| `([a-z]+)`", page, re.MULTILINE) == [verdict.value for verdict in Verdict]


def test_the_wheel_holds_the_data(tmp_path: Path) -> None:
    command = [sys.executable, "-m", "hatchling", "build", "-t", "wheel", "-d", str(tmp_path)]
    subprocess.run(command, cwd=ROOT, check=True, capture_output=True)
    (wheel,) = tmp_path.glob("*.whl")
    held = set(zipfile.ZipFile(wheel).namelist())
    data = [path for path in PACKAGE.rglob("*") if path.is_file() and path.suffix not in (".pyc",)]
    assert {f"verse_tray/{path.relative_to(PACKAGE).as_posix()}" for path in data} <= held
    assert not any(name.startswith("tests") for name in held)


def test_the_examples_of_the_python_page_run() -> None:
    page = (ROOT / "docs" / "python.md").read_text("utf-8").replace("```", "")
    example = doctest.DocTestParser().get_doctest(page, {"verse_tray": verse_tray}, "python.md", None, 0)
    results = doctest.DocTestRunner(verbose=False).run(example)
    assert results.attempted >= 8
    assert results.failed == 0
    for name in verse_tray.__all__:
        assert name == "__version__" or f"## `{name}`" in page


BOUNDS = {
    "a piece; its data": (decoding.LARGEST_BYTES, decoding.LARGEST_DATA_BYTES),
    "elements inside one another": (parser_limits.DEEPEST,),
    "attributes in a tag": (parser_limits.MOST_ATTRIBUTES,),
    "formatting elements open at once": (parser_limits.MOST_FORMATTING,),
    "formatting elements made anew": (parser_limits.MOST_ANEW,),
    "brackets in a style inside one another": (DEEPEST_BRACKETS,),
    "matching selectors of a sheet": (cascade._MOST_TESTS, cascade._MOST_LOOKED_DOWN),
    "elements of a piece whose look is read": (outcome.MOST_READ,),
    "text that one style makes of an element": (made_text._LONGEST,),
    "words of a text that are aligned in their order": (pairing._MOST_ALIGNED,),
    "a value with `var()` resolved": (variables._LONGEST,),
    "a picture file": (picture_size.LARGEST_BYTES, picture_size.LARGEST_SIDE),
    "a picture that is unpacked to see whether it is whole": (
        picture_size.MOST_PIXELS,
        picture_size.MOST_PIXELS_A_BYTE,
    ),
    "documents inside one another in a sheet": (offline._DEEPEST,),
    "a string of a script that a value is filled into": (in_script._LONGEST,),
    "documents inside one another that a value is filled into": (places._DEEPEST,),
    "a trial": (trial.LONGEST_TRIAL, int(session._LONGEST), int(session._LONGEST_STILL), int(session._LONGEST_LOOK)),
    "objects of a page's scripts": (flags.MOST_MEMORY,),
    "what a page says in a trial": (messages._MOST_SAID,),
    "controls that are clicked in a trial": (trial._MOST,),
    "pages kept up to date by `live`": (application.MOST_STREAMS,),
    "rounds of an editor that cleans until no forbidden code is left": (pipeline._MOST_ROUNDS,),
}


def test_the_bounds_on_the_page_are_those_of_the_code() -> None:
    page = (ROOT / "docs" / "safety.md").read_text("utf-8").partition("## Bounds")[2]
    rows = {row.split("|")[1].strip(): row.split("|")[2] for row in page.splitlines() if row.startswith("| ")}
    assert set(rows) == {"what", *BOUNDS}
    for what, numbers in BOUNDS.items():
        assert re.findall(r"[0-9][0-9,]*", rows[what]) == [f"{number:,}" for number in numbers], what


def test_tests_do_not_import_each_other() -> None:
    for path in (ROOT / "tests").glob("test_*.py"):
        assert not re.search(r"^(?:from|import) test_", path.read_text("utf-8"), re.MULTILINE), path.name
