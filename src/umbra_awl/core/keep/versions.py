"""What is said of a file whose form is not the one that this program reads: the one sentence for all kinds of files."""


def form_fault(source: str, told: tuple[object, object], head: tuple[str, int]) -> str:
    """Why a file's form cannot be read, as a sentence with what to do; empty where it is the one.

    `told` is the form and version in the file, `head` what is read here.
    """
    if told == head:
        return ""
    form, version = str(told[0])[:40], told[1]
    if form == head[0] and isinstance(version, int) and not isinstance(version, bool) and version > head[1]:
        newer = f"{source} was written by a newer Umbra Awl (form {version}; this one reads {head[1]})"
        return f"{newer}. Update first; nothing was touched."
    return f"{source} has the form “{form}” {str(version)[:20]}; this version reads “{head[0]}” {head[1]}."
