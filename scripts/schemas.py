"""Write the published JSON Schemas of the file forms into docs/schemas."""

import json
from pathlib import Path

from umbra_awl.core.plan.disk.file_form import schema
from umbra_awl.core.radio.memory import memory_schema
from umbra_awl.core.radio.profile_file import profile_schema

OUT = Path(__file__).parent.parent / "docs" / "schemas"


def main() -> None:
    """Write them."""
    OUT.mkdir(parents=True, exist_ok=True)
    for name, content in (("plan", schema()), ("memory", memory_schema()), ("profile", profile_schema())):
        (OUT / f"{name}.schema.json").write_text(json.dumps(content, indent=1, sort_keys=True) + "\n", "utf-8")


if __name__ == "__main__":
    main()
