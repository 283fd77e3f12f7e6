"""The example driver as if it were installed: its folder on the path, with the description that an installer would lay down."""

import sys
import tomllib
from pathlib import Path

EXAMPLE = Path(__file__).parent.parent / "examples" / "fen-driver"


def lay_down(folder: Path, monkeypatch) -> None:
    """Describe it in a folder of the path, as `pip install` does; without a network nothing can be built here."""
    project = tomllib.loads((EXAMPLE / "pyproject.toml").read_text("utf-8"))["project"]
    info = folder / f"fen_driver-{project['version']}.dist-info"
    info.mkdir()
    (info / "METADATA").write_text(f"Metadata-Version: 2.1\nName: {project['name']}\nVersion: {project['version']}\n")
    told = [
        f"[{group}]\n" + "\n".join(f"{name} = {where}" for name, where in points.items())
        for group, points in project["entry-points"].items()
    ]
    (info / "entry_points.txt").write_text("\n\n".join(told) + "\n")
    monkeypatch.setattr(sys, "path", [*sys.path, str(folder), str(EXAMPLE)])
