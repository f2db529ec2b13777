"""``python -m tests.project_file`` writes docs/project-file.md: what a project's file may hold, by its model."""

from leannotch_core.project.project import Project

from .projects import ROOT

PAGE = ROOT / "docs" / "project-file.md"

HEAD = """# The project's file

A project is one JSON file; sizes are as they were typed, everything else follows from them. This is what it may hold,
by the model itself (`python -m tests.project_file` writes this page, and a test holds that it is so). A field with no
value to begin with has to be there.
"""

_BOUNDS = {
    "minimum": "from {}",
    "exclusiveMinimum": "more than {}",
    "maximum": "to {}",
    "exclusiveMaximum": "less than {}",
    "minLength": "at least {} letters",
    "maxLength": "at most {} letters",
    "minItems": "at least {}",
    "maxItems": "at most {}",
    "pattern": "as `{}`",
}


def page():
    schema = Project.model_json_schema()
    models = {"Project": schema, **schema["$defs"]}
    return HEAD + "".join(_model(name, models[name]) for name in models if "properties" in models[name])


def _model(name, model):
    told = model.get("description", "").split("\n\n")[0].replace("\n", " ").replace("``", "`")
    rows = [_row(field, told_of, model.get("required", [])) for field, told_of in model["properties"].items()]
    head = "| field | what it is | bounds | to begin with |\n| --- | --- | --- | --- |\n"
    return f"\n## {name}\n\n{told}\n\n{head}" + "\n".join(rows) + "\n"


def _row(field, told, required):
    begins = "" if field in required or "default" not in told else f"`{_short(told['default'])}`"
    return f"| `{field}` | {_kind(told)} | {_bounds(told)} | {begins} |".replace("||", "|\\|")


def _kind(told):
    if "$ref" in told:
        return told["$ref"].rpartition("/")[2]
    if "enum" in told:
        return ", ".join(f"`{one}`" for one in told["enum"])
    if "const" in told:
        return f"`{told['const']}`"
    if "anyOf" in told or "oneOf" in told:
        return " or ".join(dict.fromkeys(_kind(one) for one in told.get("anyOf") or told["oneOf"]))
    if told.get("type") == "array":
        return f"list of {_kind(told.get('items', {}))}{_of(told.get('items', {}))}"
    return str(told.get("type", "anything"))


def _of(items):
    bounds = _bounds(items)
    return f" ({bounds})" if bounds else ""


def _bounds(told):
    found = [words.format(_number(told[key])) for key, words in _BOUNDS.items() if key in told]
    inner = [_bounds(one) for one in told.get("anyOf", ())]
    return "; ".join([*found, *dict.fromkeys(one for one in inner if one)])


def _number(value):
    return f"{value:g}" if isinstance(value, float) else value


def _short(value):
    if isinstance(value, dict) and value.keys() >= {"text", "unit"}:
        return f"{value['text']} {value['unit']}"
    return str(value) if len(str(value)) < 60 else "…"


if __name__ == "__main__":
    PAGE.write_text(page())
