"""How headings of tables are compared: as plain words in small letters."""

import re
import unicodedata
from functools import lru_cache


@lru_cache(maxsize=4_096)
def plain_words(text: str) -> str:
    """A heading's words by a-z and 0-9 alone: "±" becomes "plus minus", "Ü" "ue", other accents fall away."""
    plain = re.sub(r"\+\s*/?\s*[-−–]|±", " plus minus ", text.lower())
    plain = plain.replace("ä", "ae").replace("ö", "oe").replace("ü", "ue").replace("ß", "ss")
    plain = "".join(char for char in unicodedata.normalize("NFKD", plain) if not unicodedata.combining(char))
    return " ".join(re.findall(r"[a-z0-9]+", plain))
