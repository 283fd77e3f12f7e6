"""Names that become paths, made safe in one place: what a file or a plan calls a thing never decides where a file goes.

What few callers need is imported where it is used: it is slow to load, and most starts do without it.
"""

from pathlib import Path

_PLAIN = frozenset("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-_. ")
LONGEST = 80


def path_name(text: str, otherwise: str = "item") -> str:
    """A single path part for a key or a name: itself when it is plain, else its plain part with a mark that tells it apart.

    Never empty, never hidden, never with a slash or going upwards; two different texts never share a name, whatever their case
    was made of.
    """
    plain = "".join(char if char in _PLAIN else "-" for char in text).strip(" .-")
    if plain == text and 0 < len(text) <= LONGEST:
        return text
    from hashlib import sha256

    mark = sha256(text.encode("utf-8", "surrogatepass")).hexdigest()[:8]
    return f"{plain[: LONGEST - 9].rstrip(' .-') or otherwise}-{mark}"


def readable_name(text: str, otherwise: str) -> str:
    """A file's name without ending, of letters, digits and hyphens, for something with a name."""
    made = "".join(char if char.isalnum() else "-" for char in text.lower()).strip("-")
    return made[:LONGEST].strip("-") or otherwise


def free_path(folder: Path, stem: str, suffix: str) -> Path:
    """A path in a folder that nothing has yet: the stem, or the stem with the first free number behind it."""
    path, number = folder / f"{stem}{suffix}", 2
    while path.exists() or path.is_symlink():
        path, number = folder / f"{stem} {number}{suffix}", number + 1
    return path
