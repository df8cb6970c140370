"""Two people, or two tabs, at one report: undo, conflicts, what is sent twice, and the log from before."""

import json
from importlib import import_module
from types import SimpleNamespace

import pytest

from tests.factories import VISITS
from tests.web.conftest import arrive, change
from ypsil.core.document import FORMAT, apply, parse_change, read_document
from ypsil.core.report import ReportBody, parse_edit
from ypsil.core.report.edits import edit_schema
from ypsil.web.compose import edits, log
from ypsil.web.compose.models import Change, Report
from ypsil.web.compose.moments import BROUGHT_BACK
from ypsil.web.compose.said import DONE

BAND = {"type": "add_band", "band": {"id": "b9", "message": "Numbers"}}
TEXT = {"type": "add_tile", "band": "b9", "tile": {"id": "t9", "type": "text", "text": "first"}}


def says(text, tile="t9"):
    return {"type": "change_tile", "tile": tile, "changes": {"text": text}}


def make(report, person, edit, base=None, **more):
    report.refresh_from_db()
    return edits.apply_edit(report.pk, person.user, edit, report.revision if base is None else base, **more)


def text_of(report, tile="t9"):
    report.refresh_from_db()
    found = report.read().tile(tile)
    return None if found is None else found.text


@pytest.fixture
def shared(owner, other, report):
    """A report with a text that the owner put in."""
    make(report, owner, BAND)
    make(report, owner, TEXT)
    return report


def test_undo_leaves_what_somebody_else_wrote_since_and_says_so(owner, other, shared):
    make(shared, owner, says("mine"))
    make(shared, other, says("theirs"))
    step = edits.step_back(shared.pk, owner.user)
    assert text_of(shared) == "theirs"
    assert "changed by somebody else meanwhile" in step.notice


def test_an_undo_that_cannot_be_made_does_not_bar_the_way_to_older_ones(owner, other, shared):
    make(shared, owner, {"type": "rename", "title": "Renamed"})
    make(shared, owner, says("mine"))
    make(shared, other, {"type": "remove_tile", "tile": "t9"})
    edits.step_back(shared.pk, owner.user)
    shared.refresh_from_db()
    assert (shared.read().title, text_of(shared)) == ("Visits of the spring", None)


def test_the_other_undoes_too_and_each_only_their_own(owner, other, shared):
    make(shared, owner, says("mine"))
    make(shared, other, {"type": "rename", "title": "Renamed"})
    edits.step_back(shared.pk, other.user)
    edits.step_back(shared.pk, owner.user)
    shared.refresh_from_db()
    assert (shared.read().title, text_of(shared)) == ("Visits of the spring", "first")
    edits.step_forward(shared.pk, owner.user)
    assert text_of(shared) == "mine"


def test_a_band_is_not_removed_from_under_what_somebody_else_wrote_into_it(owner, other, shared):
    base = shared.revision
    shared.refresh_from_db()
    base = shared.revision
    make(shared, other, says("theirs"), base)
    with pytest.raises(edits.StaleEdit):
        make(shared, owner, {"type": "remove_band", "band": "b9"}, base)
    assert text_of(shared) == "theirs"


def test_two_people_set_different_options_of_one_chart(owner, other, report):
    report.refresh_from_db()
    base = report.revision
    make(report, owner, {"type": "set_options", "tile": "c1", "options": {"average": True}}, base)
    make(report, other, {"type": "set_options", "tile": "c1", "options": {"decimals": 1}}, base)
    report.refresh_from_db()
    assert report.read().tile("c1").options == {"average": True, "decimals": 1}


def test_the_loser_of_a_conflict_gets_the_own_text_back_whole(owner, shared):
    shared.refresh_from_db()
    base, long = shared.revision, "A long paragraph. " * 60
    assert change(owner, shared, says("theirs"), base).status_code == 200
    reply = change(owner, shared, says(long), base)
    assert (reply.status_code, reply.json()["mine"]) == (409, long)


def test_the_same_wish_of_two_people_is_no_conflict(owner, other, shared):
    shared.refresh_from_db()
    base = shared.revision
    make(shared, owner, says("same"), base)
    assert make(shared, other, says("same"), base).revision == base + 1
    make(shared, owner, {"type": "remove_tile", "tile": "t9"}, base + 1)
    assert make(shared, other, {"type": "remove_tile", "tile": "t9"}, base + 1).revision == base + 2


def test_an_edit_that_is_sent_twice_is_made_once(owner, shared):
    shared.refresh_from_db()
    body = {"base": shared.revision, "id": "e1", "edit": {**TEXT, "tile": {"type": "text", "text": "once"}}}
    address = f"/reports/{shared.uid}/edits/"
    replies = [owner.post(address, json.dumps(body), content_type="application/json") for _ in range(2)]
    assert [reply.status_code for reply in replies] == [200, 200]
    assert replies[0].json()["revision"] == replies[1].json()["revision"]
    shared.refresh_from_db()
    assert [tile.text for tile in shared.read().band("b9").tiles] == ["first", "once"]


def test_what_was_typed_in_one_spell_is_undone_at_once(owner, shared):
    for text in ("fi", "fine", "fine weather"):
        make(shared, owner, says(text), spell="s1")
    make(shared, owner, says("fine weather, again"), spell="s2")
    edits.step_back(shared.pk, owner.user)
    assert text_of(shared) == "fine weather"
    edits.step_back(shared.pk, owner.user)
    assert text_of(shared) == "first"
    edits.step_forward(shared.pk, owner.user)
    assert text_of(shared) == "fine weather"


def test_two_tiles_put_at_one_place_at_once_do_not_overlap_in_what_is_stored(owner, other, shared):
    shared.refresh_from_db()
    base = shared.revision
    for person, name in ((owner, "n1"), (other, "n2")):
        make(shared, person, {**TEXT, "tile": {"id": name, "type": "text", "text": name}}, base)
    shared.refresh_from_db()
    frames = [node.frame for node in shared.read_document().children("b9")]
    assert len({(frame.column, frame.row) for frame in frames}) == 3


def test_the_log_replays_to_the_document_also_from_its_snapshots(owner, shared, monkeypatch):
    monkeypatch.setattr(log, "SNAPSHOT_EVERY", 3)
    for place in range(8):
        make(shared, owner, says(f"text {place}"))
    edits.step_back(shared.pk, owner.user)
    shared.refresh_from_db()
    document = read_document(shared.snapshots.get(number=0).document)
    for entry in shared.log.all():
        document = apply(document, parse_change(entry.change))
        assert log.document_at(shared, entry.number).as_json() == document.as_json()
    assert document.as_json() == shared.document
    assert shared.snapshots.count() > 2


def test_reports_from_before_keep_their_page_and_their_undo(owner):
    migration = import_module("ypsil.web.compose.migrations.0002_documents_as_nodes")
    views, entries = [ReportBody(title="Old")], []
    inverses = ({"type": "remove_band", "band": "b9"}, {"type": "remove_tile", "tile": "t9"}, says("first"))
    for number, (data, inverse) in enumerate(zip((BAND, TEXT, says("second")), inverses, strict=True), 1):
        entries.append(logged(owner, number, "do", parse_edit(data), parse_edit(inverse)))
        views.append(parse_edit(data).apply(views[-1]))
    undo = entries[-1]
    entries.append(logged(owner, 4, "undo", parse_edit(undo.inverse), parse_edit(undo.edit)))
    report = Report.objects.create(owner=owner.user, document=views[2].as_json(), revision=4)
    documents, kept = migration._documents(views[2], entries)
    migration._log(Change, report, documents, kept)
    report.document = documents[-1].as_json()
    report.save()
    assert text_of(report) == "first"
    edits.step_forward(report.pk, owner.user)
    assert text_of(report) == "second"
    for _ in range(3):
        edits.step_back(report.pk, owner.user)
    report.refresh_from_db()
    assert report.read().bands == ()


def test_of_a_log_from_before_only_what_can_be_taken_back_is_kept(owner):
    migration = import_module("ypsil.web.compose.migrations.0002_documents_as_nodes")
    view = ReportBody(title="Old")
    lost = logged(owner, 1, "do", parse_edit({"type": "remove_tile", "tile": "x"}), parse_edit(says("x", "gone")))
    kept = logged(
        owner, 2, "do", parse_edit({"type": "rename", "title": "Old"}), parse_edit({"type": "rename", "title": "A"})
    )
    documents, entries = migration._documents(view, [lost, kept])
    assert ([one.title for one in documents], entries) == (["A", "Old"], [kept])


def logged(person, number, kind, edit, inverse):
    plain = {"edit": edit.model_dump(mode="json"), "inverse": inverse.model_dump(mode="json")}
    return SimpleNamespace(revision=number, kind=kind, author_id=person.user.pk, **plain)


class TestPatches:
    def send(self, client, report, edit, known):
        report.refresh_from_db()
        body = {"base": report.revision, "edit": edit, "known": known}
        reply = client.post(f"/reports/{report.uid}/edits/", json.dumps(body), content_type="application/json")
        assert reply.status_code == 200, reply.content
        return reply.json()["patch"]

    def tiles(self, patch):
        return {tile["id"]: tile for band in patch["bands"] for tile in band["tiles"]}

    def test_only_tiles_that_changed_come_with_their_markup(self, owner, shared):
        first = self.tiles(self.send(owner, shared, says("one"), {}))
        assert all("markup" in tile for tile in first.values())
        known = {name: tile["digest"] for name, tile in first.items()}
        second = self.send(owner, shared, says("two"), known)
        assert [name for name, tile in self.tiles(second).items() if "markup" in tile] == ["t9"]
        assert 'data-text="two"' in self.tiles(second)["t9"]["markup"]
        assert [band["id"] for band in second["bands"]][-1] == "b9"

    def test_what_is_gone_is_not_in_the_order_and_undo_brings_it_with_its_markup(self, owner, shared):
        first = self.tiles(self.send(owner, shared, says("one"), {}))
        known = {name: tile["digest"] for name, tile in first.items()}
        gone = self.send(owner, shared, {"type": "remove_tile", "tile": "t9"}, known)
        assert "t9" not in self.tiles(gone)
        del known["t9"]
        reply = owner.post(
            f"/reports/{shared.uid}/undo/", json.dumps({"known": known}), content_type="application/json"
        )
        assert [name for name, tile in self.tiles(reply.json()["patch"]).items() if "markup" in tile] == ["t9"]

    def test_a_tile_comes_anew_when_its_data_or_its_heading_does(self, owner, shared, table):
        first = self.tiles(self.send(owner, shared, says("one"), {}))
        known = {name: tile["digest"] for name, tile in first.items()}
        arrive(owner, VISITS.replace("120", "1200"), table)
        after = self.tiles(self.send(owner, shared, {"type": "rename", "title": "Renamed"}, known))
        assert [name for name, tile in after.items() if "markup" in tile] == ["c1"]

    def test_who_does_not_tell_what_is_shown_gets_the_whole_page(self, owner, shared):
        assert "data-tile" in change(owner, shared, says("whole")).json()["page"]


def test_a_tile_of_a_later_kind_stays_and_says_what_it_needs(owner, shared):
    shared.refresh_from_db()
    document = dict(shared.document)
    node = {"id": "z9", "kind": "hologram", "parent": "b9", "order": "z", "content": {"depth": [1, None]}}
    document["nodes"] = {
        **document["nodes"],
        "z9": {**node, "frame": {"column": 0, "row": 60, "width": 6, "height": 9}},
    }
    shared.document = document
    shared.save()
    assert "This needs a newer Ypsil" in owner.get(f"/reports/{shared.uid}/").content.decode()
    assert "hologram" in owner.get(f"/reports/{shared.uid}/tiles/z9/").content.decode()
    for place in ("preview/", "proof/", "files/pdf/"):
        assert owner.get(f"/reports/{shared.uid}/{place}").status_code == 200
    make(shared, owner, says("beside it"))
    shared.refresh_from_db()
    assert shared.document["nodes"]["z9"]["content"] == {"depth": [1, None]}
    edits.step_back(shared.pk, owner.user)
    shared.refresh_from_db()
    assert shared.document["nodes"]["z9"]["content"] == {"depth": [1, None]}


def test_a_report_of_a_later_format_is_left_alone_and_said(owner, shared):
    shared.document = {**shared.document, "format": FORMAT + 1}
    shared.save()
    reply = owner.get(f"/reports/{shared.uid}/")
    assert (reply.status_code, "Open it in a newer Ypsil" in reply.content.decode()) == (422, True)
    assert owner.get("/").status_code == 200
    shared.refresh_from_db()
    assert shared.document["format"] == FORMAT + 1


def test_a_megabyte_of_text_is_refused_in_words_and_what_was_there_stays(owner, shared):
    reply = change(owner, shared, says("x" * 1_000_000))
    assert (reply.status_code, text_of(shared)) == (422, "first")
    assert "20,000 letters" in reply.json()["message"]


def test_everything_that_can_be_done_has_words_of_its_own():
    kinds = {one.split("/")[-1] for one in edit_schema()["discriminator"]["mapping"]}
    # Templates are taken by a request of their own.
    assert kinds | {BROUGHT_BACK, "take_template", "wear_style"} == set(DONE)


def test_what_was_done_is_listed_and_several_steps_are_taken_back_at_once(owner, other, shared):
    for text in ("one", "two", "three"):
        make(shared, owner, says(text))
    page = owner.get(f"/reports/{shared.uid}/history/").content.decode()
    assert page.count("Go back to before this") >= 5 and "Changed a tile" in page
    reply = owner.post(f"/reports/{shared.uid}/undo/", {"times": 2}, content_type="application/json").json()
    assert reply["did"] == "Undone: 2 changes" and text_of(shared) == "one"
    reply = owner.post(f"/reports/{shared.uid}/redo/", {"times": 1}, content_type="application/json").json()
    assert reply["did"] == "Done again: changed a tile" and text_of(shared) == "two"
    assert reply["about"] == ["t9"]
    assert other.get(f"/reports/{shared.uid}/history/").status_code == 404
