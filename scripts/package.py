"""What is given away, made in a folder: a source archive that is the same each time, and a Debian-style package.

`package.py FOLDER` makes both; the source archive twice, to see that nothing of the moment is in it. Needs `dpkg-buildpackage`
with debhelper for the package, and says so where they are not there.
"""

import gzip
import io
import os
import shutil
import subprocess
import sys
import tarfile
import tempfile
from pathlib import Path

ROOT = Path(__file__).parent.parent


def told(*words: str) -> str:
    """What a command says. Raises CalledProcessError."""
    return subprocess.run(words, cwd=ROOT, check=True, capture_output=True, text=True).stdout


def moment() -> int:
    """The moment of the last change, in seconds since 1970."""
    return int(os.environ.get("SOURCE_DATE_EPOCH") or told("git", "log", "-1", "--format=%ct"))


def tree(folder: Path) -> Path:
    """The project as it is kept, copied."""
    for name in told("git", "ls-files", "-z").split("\0"):
        source, target = ROOT / name, folder / name
        if name and source.is_file():
            target.parent.mkdir(parents=True, exist_ok=True)
            shutil.copy2(source, target)
    return folder


def source_archive(out: Path) -> Path:
    """The source archive, with names in order and one moment for all: equal bytes from equal sources."""
    with tempfile.TemporaryDirectory() as name:
        copied = tree(Path(name) / "tree")
        build = "from setuptools import build_meta; print(build_meta.build_sdist('..'))"
        made = subprocess.run(
            (sys.executable, "-c", build), cwd=copied, check=True, capture_output=True, text=True
        ).stdout.splitlines()[-1]
        path = out / made
        path.write_bytes(_even(Path(name) / made))
    return path


def _even(path: Path) -> bytes:
    """An archive anew, without what differs from one making to the next."""
    out = io.BytesIO()
    when = moment()
    with (
        tarfile.open(path) as given,
        gzip.GzipFile("", "wb", fileobj=out, mtime=when) as packed,
        tarfile.open(fileobj=packed, mode="w", format=tarfile.PAX_FORMAT) as even,
    ):
        for item in sorted(given.getmembers(), key=lambda item: item.name):
            item.uid = item.gid = 0
            item.uname = item.gname = ""
            item.mtime, item.pax_headers = when, {}
            item.mode = 0o755 if item.isdir() or item.mode & 0o100 else 0o644
            even.addfile(item, given.extractfile(item) if item.isfile() else None)
    return out.getvalue()


def debian_package(out: Path) -> Path:
    """A Debian-style package of the project as it is kept."""
    with tempfile.TemporaryDirectory() as name:
        copied = tree(Path(name) / "umbra-awl")
        shutil.copytree(ROOT / "packaging" / "debian", copied / "debian")
        env = {**os.environ, "PYTHON": sys.executable, "SOURCE_DATE_EPOCH": str(moment())}
        subprocess.run(
            ("dpkg-buildpackage", "-b", "-us", "-uc", "-d"), cwd=copied, env=env, check=True, capture_output=True
        )
        (made,) = Path(name).glob("*.deb")
        return Path(shutil.copy2(made, out / made.name))


def main() -> int:
    """Make both; 2 where a tool is missing."""
    out = Path(sys.argv[1])
    out.mkdir(parents=True, exist_ok=True)
    first = source_archive(out)
    data = first.read_bytes()
    same = source_archive(out).read_bytes() == data
    sys.stdout.write(f"{first.name}: {len(data):,} bytes, {'the same twice' if same else 'NOT the same twice'}\n")
    if shutil.which("dpkg-buildpackage") is None or shutil.which("dh") is None:
        sys.stdout.write("No Debian-style package: dpkg-dev and debhelper are not installed.\n")
        return 2
    package = debian_package(out)
    sys.stdout.write(f"{package.name}: {package.stat().st_size:,} bytes\n")
    return 0 if same else 1


if __name__ == "__main__":
    sys.exit(main())
