"""Write docs/findings.md from the rules."""

from pathlib import Path

from umbra_awl.core.findings.rules import page

if __name__ == "__main__":
    (Path(__file__).parent.parent / "docs" / "findings.md").write_text(page(), "utf-8")
