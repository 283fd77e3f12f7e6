"""Club packs: made and read again the same, private things left out, hostile ones refused part by part; what is followed."""

import io
import json
import zipfile
from hashlib import sha256

import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.days import TODAY
from tests.examples import examples
from umbra_awl.core.agenda.steps import parse_template, template_text, templates
from umbra_awl.core.hands.followed import follow, followed_by, news, place_of, unfollow
from umbra_awl.core.hands.kinds import KINDS
from umbra_awl.core.hands.merge import merge
from umbra_awl.core.hands.pack import MANIFEST, PackError, make_pack, own_parts, read_pack
from umbra_awl.core.hotspot.logs.rules import SHIPPED as RULES
from umbra_awl.core.hotspot.logs.rules import rules_with, shipped_rules
from umbra_awl.core.hotspot.match.layout import layout_text as settings_text
from umbra_awl.core.hotspot.match.layout import own_layouts, shipped_layouts
from umbra_awl.core.plan.disk.file_form import parse_plan
from umbra_awl.core.plan.edit.edit_access import set_air
from umbra_awl.core.plan.edit.edits import rename_plan
from umbra_awl.core.plan.model import Use
from umbra_awl.core.radio.profile_file import profile_text, shipped_profiles
from umbra_awl.demo.fresh import demo_plan

PLAN = demo_plan(TODAY)
OWN = [
    ("profile", "My Tarn", profile_text(next(iter(shipped_profiles().values())))),
    ("settings", "Slate", settings_text(shipped_layouts()[0])),
    ("rules", "more rules", RULES.read_text("utf-8")),
    ("steps", "First radio", template_text("First radio", "How", templates()[0].steps)),
]


def pack(**more):
    return make_pack("Velmar", "2026-11-27", own_parts(PLAN, OWN), **more)


def edited(change, manifest=None):
    """The pack with its files changed, and its manifest if told."""
    with zipfile.ZipFile(io.BytesIO(pack())) as old:
        files = {name: old.read(name) for name in old.namelist()}
    change(files)
    if manifest is not None:
        head = json.loads(files[MANIFEST])
        manifest(head)
        files[MANIFEST] = json.dumps(head).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for name, data in files.items():
            made.writestr(name, data)
    return out.getvalue()


def test_a_pack_goes_out_and_comes_in_with_every_part():
    plan = replace(PLAN, station=replace(PLAN.station, uses=(Use(430_000_000, 431_000_000, "hotspots"),)))
    made = make_pack("Velmar", "2026-11-27", own_parts(plan, OWN))
    found = read_pack(made)
    assert found.refused == ()
    assert [item.kind for item in found.parts] == ["plan", "band-plan", "profile", "settings", "rules", "steps"]
    assert found.parts[2].text == OWN[0][2]
    assert made == make_pack("Velmar", "2026-11-27", own_parts(plan, OWN))


def test_private_things_are_not_in_it():
    text = zipfile.ZipFile(io.BytesIO(pack())).read("plan/home--town-and-nessa.awl.json").decode()
    shared = parse_plan(text.encode())
    assert shared.trips == shared.steps == ()
    assert "9994217" not in text
    assert all(not net.note for net in shared.nets)
    assert len(shared.nets) == len(PLAN.nets)


@pytest.mark.parametrize(
    ("change", "manifest", "words"),
    [
        (lambda files: files.update({"profiles/my-tarn.toml": b"x = 1"}), None, "checksum"),
        (lambda files: files.pop("profiles/my-tarn.toml"), None, "not there"),
        (lambda files: files.update({"../../evil.toml": b"x = 1"}), None, "not in the manifest"),
        (lambda files: None, lambda head: head["parts"].append(dict(head["parts"][0])), "listed twice"),
        (lambda files: None, lambda head: head["parts"][1].update(kind="macro"), "not known here"),
        (lambda files: None, lambda head: head["parts"][1].update(file="../profiles/x.toml"), "under a plain name"),
        (lambda files: None, lambda head: head["parts"][1].update(file="profiles/../x.toml"), "under a plain name"),
        (lambda files: None, lambda head: head["parts"][1].update(file="profiles/.hidden.toml"), "under a plain name"),
    ],
)  # fmt: skip
def test_a_part_that_is_not_as_the_manifest_says_is_refused_and_the_rest_can_be_taken(change, manifest, words):
    found = read_pack(edited(change, manifest))
    assert any(words in item for item in found.refused), found.refused
    assert any(item.kind == "plan" for item in found.parts)


def test_a_part_that_cannot_be_used_is_refused_though_its_checksum_is_right():
    def swap(files):
        files["rules/more-rules.toml"] = files["rules/more-rules.toml"].replace(b'pattern = "', b'pattern = "(?=a)|', 1)

    def sign(head):
        data = edited(swap)
        text = zipfile.ZipFile(io.BytesIO(data)).read("rules/more-rules.toml")
        entry = next(item for item in head["parts"] if item["kind"] == "rules")
        entry.update(sha256=sha256(text).hexdigest(), bytes=len(text))

    found = read_pack(edited(swap, sign))
    assert any("the pattern of" in item for item in found.refused)


def bomb():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as made:
        made.writestr(MANIFEST, b"{}")
        made.writestr("plan/big.awl.json", b"0" * 80_000_000)
    return out.getvalue()


def many():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        for at in range(400):
            made.writestr(f"profiles/{at}.toml", b"")
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "no zip file"), (b"PK\x03\x04rubbish", "no zip file"), (bomb(), "not unpacked"), (many(), "400 files"),
        (edited(lambda files: files.pop(MANIFEST)), "without a manifest"),
        (edited(lambda files: files.update({MANIFEST: b"[" * 50_000})), "manifest cannot be read"),
        (edited(lambda files: files.update({MANIFEST: b'{"name": "x", "made": "", "parts": [], "version": 9}'})), "newer"),
        (b"0" * 33_000_000, "larger than"),
    ],
)  # fmt: skip
def test_what_is_no_pack_is_refused_whole(data, words):
    with pytest.raises(PackError, match=words):
        read_pack(data)


@given(st.binary(max_size=60), st.integers(0, 4_000), st.integers(0, 80))
@examples(120)
def test_damaged_packs_are_refused_or_told_and_never_break(noise, at, cut):
    whole = pack()
    try:
        found = read_pack(whole[:at] + noise + whole[at + cut :])
    except PackError:
        return
    assert all(KINDS[item.kind].check(item.text, "it")[:120] == item.title for item in found.parts)


def test_a_part_whose_packed_bytes_are_damaged_is_refused_and_the_rest_can_be_taken():
    whole = bytearray(pack())
    at = whole.index(b"rules/more-rules.toml") + 200
    whole[at : at + 40] = bytes(40)
    found = read_pack(bytes(whole))
    assert any("rules" in item and ("damaged" in item or "checksum" in item) for item in found.refused)
    assert "plan" in {item.kind for item in found.parts}


def test_a_part_that_cannot_be_used_is_not_packed():
    with pytest.raises(PackError, match="was not made"):
        make_pack("x", "2026-11-27", [("profile", "bad", "name = 1")])


def test_own_files_are_read_beside_those_that_ship(tmp_path):
    assert rules_with(tmp_path) == shipped_rules()
    (tmp_path / "a.toml").write_text(
        'format = "umbra-awl log rules"\nversion = 1\n[[rule]]\nkey = "own"\nkind = "state"\npattern = "frobnicated"\n'
        'means = "It was."\nexample = "frobnicated"\n'
    )
    (tmp_path / "b.toml").write_text("broken")
    assert rules_with(tmp_path).rule[0].key == "own"
    assert own_layouts(tmp_path) == ()


@pytest.mark.parametrize(
    "text", ["", "name = 1", 'name = "x"\nsteps = [{key = "a", name = "A", days = [3, 2, 1]}]',
             'name = "x"\nsteps = [{key = "a", name = "A", days = [1, 2, 3], after = ["b"]}]', "steps = 7\nname = 'x'"],
)  # fmt: skip
def test_a_template_that_cannot_be_used_is_refused(text):
    with pytest.raises(ValueError, match=r"no template|no steps|cannot be used"):
        parse_template(text)


def test_a_template_goes_out_and_comes_in_the_same():
    first = templates()[0]
    assert parse_template(template_text(first.name, first.summary, first.steps)) == first


def test_a_club_is_followed_its_news_are_taken_and_it_is_left(tmp_path):
    plan_file, club = tmp_path / "mine.awl.json", tmp_path / "club.awl.json"
    assert followed_by(plan_file) is None
    follow(plan_file, club, PLAN)
    found = followed_by(plan_file)
    assert found.taken() == PLAN
    mine = rename_plan("Mine").apply(PLAN)
    theirs = set_air("blackfell-dmr", "x", color_code=7).apply(PLAN)
    made = news(found, mine, theirs)
    assert made.plan.name == "Mine"
    assert made.questions == ()
    assert [item.side for item in made.taken if item.path[0] == "access"] == ["theirs"]
    follow(plan_file, club, None)
    assert followed_by(plan_file).taken() is None
    asked = [item for item in merge(None, mine, theirs).questions if item.path != ("name",)]
    assert list(news(followed_by(plan_file), mine, theirs).questions) == asked, "its name is not followed"
    place_of(plan_file).write_text("{")
    assert followed_by(plan_file) is None
    unfollow(plan_file)
    assert not place_of(plan_file).exists()


def test_two_files_of_one_name_a_part_too_large_and_a_wrong_length_are_refused():
    out = io.BytesIO(pack())
    with zipfile.ZipFile(out, "a") as made, pytest.warns(UserWarning, match="Duplicate"):
        made.writestr(MANIFEST, "{}")
    with pytest.raises(PackError, match="two files of one name"):
        read_pack(out.getvalue())

    def larger(files):
        files["templates/first-radio.toml"] += b"#" * 300_000

    def told(head):
        for part in head["parts"]:
            if part["file"] == "templates/first-radio.toml":
                part |= {"bytes": part["bytes"] + 300_000}

    assert "larger than" in " ".join(read_pack(edited(larger, told)).refused)

    def short(head):
        head["parts"][0]["bytes"] -= 1

    (refused,) = read_pack(edited(lambda _files: None, short)).refused
    assert "not what the manifest says" in refused


def zipped(entries, method=zipfile.ZIP_DEFLATED):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", method) as made:
        for name, data in entries:
            made.writestr(name, data)
    return out.getvalue()


def signed(parts, **more):
    """A pack of (kind, file, data) with a right manifest."""
    listed = [
        {"file": file, "kind": kind, "sha256": sha256(data).hexdigest(), "bytes": len(data)}
        for kind, file, data in parts
    ]
    head = {
        "name": "N" * 200,
        "made": "2026-11-27T00:00",
        "parts": listed,
        "format": "umbra-awl club pack",
        "version": 1,
    } | more
    return zipped([(MANIFEST, json.dumps(head)), *((file, data) for _kind, file, data in parts)])


def test_equal_contents_make_equal_packs_of_one_fixed_time_and_form():
    first = pack()
    assert pack() == first
    with zipfile.ZipFile(io.BytesIO(first)) as made:
        assert {item.date_time for item in made.infolist()} == {(2026, 1, 1, 0, 0, 0)}
        assert json.loads(made.read(MANIFEST))["version"] == 1
        assert made.read(MANIFEST).count(b"\n ") > 5


def test_parts_of_one_name_are_numbered_from_two():
    twice = make_pack("x", "", [("steps", "First radio", OWN[3][2])] * 3)
    with zipfile.ZipFile(io.BytesIO(twice)) as made:
        names = [name.rpartition("/")[2].split(".")[0] for name in made.namelist() if name != MANIFEST]
    assert [name[-2:] for name in names][1:] == ["-2", "-3"]


def test_a_band_plan_is_in_it_only_where_there_is_one():
    def kinds(plan):
        return [kind for kind, _title, _text in own_parts(plan, ())]

    bare = replace(PLAN, station=replace(PLAN.station, uses=(), bands=()))
    assert kinds(bare) == ["plan"]
    assert kinds(replace(bare, station=replace(bare.station, uses=(Use(145_500_000, 145_500_000, "calling"),)))) == [
        "plan",
        "band-plan",
    ]


@pytest.mark.parametrize("limit", ["PACK_BYTES", "MOST_PARTS", "UNPACKED_BYTES"])
def test_a_limit_is_the_last_that_is_taken(limit, monkeypatch):
    from umbra_awl.core.hands import pack as module

    whole = signed([("rules", "rules/a.toml", OWN[2][2].encode())])
    with zipfile.ZipFile(io.BytesIO(whole)) as made:
        sizes = {"PACK_BYTES": len(whole), "MOST_PARTS": 2, "UNPACKED_BYTES": sum(i.file_size for i in made.infolist())}
    monkeypatch.setattr(module, limit, sizes[limit])
    assert read_pack(whole).parts
    monkeypatch.setattr(module, limit, sizes[limit] - 1)
    with pytest.raises(PackError):
        read_pack(whole)


def test_limits_are_those_that_are_documented():
    from umbra_awl.core.hands import pack as module

    assert (module.PACK_BYTES, module.UNPACKED_BYTES) == (32_000_000, 64_000_000) or (
        module.PACK_BYTES,
        module.UNPACKED_BYTES,
    ) == (32 * 2**20, 64 * 2**20)
    assert (module.MOST_PARTS, module.MOST_ENTRIES) == (300, 600)


def test_names_and_days_are_cut_and_a_part_larger_than_its_kind_may_be_is_refused(monkeypatch):
    from umbra_awl.core.hands import pack as module

    found = read_pack(signed([("rules", "rules/a.toml", OWN[2][2].encode())]))
    assert (len(found.name), found.made) == (120, "2026-11-27")
    assert len(found.parts) == 1
    kind = KINDS["rules"]
    size = len(OWN[2][2].encode())
    monkeypatch.setattr(module, "KINDS", {**KINDS, "rules": kind._replace(most=size)})
    assert read_pack(signed([("rules", "rules/a.toml", OWN[2][2].encode())])).parts
    monkeypatch.setattr(module, "KINDS", {**KINDS, "rules": kind._replace(most=size - 1)})
    refused = read_pack(signed([("rules", "rules/a.toml", OWN[2][2].encode())])).refused
    assert "larger than" in refused[0]


@pytest.mark.parametrize(
    ("file", "taken"),
    [
        ("rules/" + "a" * 115 + ".toml", True),
        ("rules/" + "a" * 116 + ".toml", False),
        ("rules/.a.toml", False),
        ("rules/a|b.toml", False),
    ],
)
def test_a_parts_file_has_a_plain_short_name(file, taken):
    found = read_pack(signed([("rules", file, OWN[2][2].encode())]))
    assert bool(found.parts) == taken
    assert bool(found.refused) != taken


def test_what_is_encrypted_or_packed_strangely_is_refused_as_such():
    data = OWN[2][2].encode()
    whole = bytearray(signed([("rules", "rules/a.toml", data)]))
    at = whole.index(b"PK\x01\x02", whole.index(b"PK\x01\x02") + 4)
    whole[at + 8] |= 1
    (refused,) = read_pack(bytes(whole)).refused
    assert "it is encrypted" in refused
    listed = [{"file": "rules/a.toml", "kind": "rules", "sha256": sha256(data).hexdigest(), "bytes": len(data)}]
    head = json.dumps({"name": "x", "made": "", "parts": listed})
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        made.writestr(MANIFEST, head)
        made.writestr("rules/a.toml", data, zipfile.ZIP_BZIP2)
    (refused,) = read_pack(out.getvalue()).refused
    assert "packed in a way that is not taken" in refused


def test_a_manifest_is_read_up_to_its_limit():
    for size, words in ((255_000, "newer Umbra Awl"), (257_000, "larger than")):
        head = json.dumps({"name": "x" * size, "made": "", "parts": [], "version": 9})[:size]
        full = json.dumps({"name": "x" * (size - 60), "made": "", "parts": [], "version": 9})
        with pytest.raises(PackError, match=words):
            read_pack(zipped([(MANIFEST, full if words == "newer Umbra Awl" else head + " " * 2_000)]))
