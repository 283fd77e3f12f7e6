"""Write docs/glossary.md from the words."""

from pathlib import Path

from umbra_awl.core.facts.glossary import page

if __name__ == "__main__":
    (Path(__file__).parent.parent / "docs" / "glossary.md").write_text(page(), "utf-8")
