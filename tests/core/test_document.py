"""The document: formats, changes, stale ones, undo by two people; any sequence replays to the same document."""

import json
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ypsil.core.document import (
    Batch,
    ChangeRefused,
    Document,
    Entry,
    Frame,
    Insert,
    Move,
    NewerFormat,
    Node,
    PageFormat,
    Remove,
    Set,
    Spot,
    StaleChange,
    UnreadableDocument,
    apply,
    differences,
    parse_change,
    reach,
    read_document,
    take_back,
)
from ypsil.core.document.changes import spot_of
from ypsil.core.document.order import key_between
from ypsil.core.render import compose
from ypsil.core.report import ReportBody
from ypsil.core.style.cards import CardManner

GOLDEN = Path(__file__).parent / "documents"
EMPTY = Document(title="Report", style={"digest": "x"})


def node(name, parent=None, order="i", **content):
    return Node(id=name, kind="text" if parent else "band", parent=parent, order=order, content=content)


def document(*nodes):
    return EMPTY.model_copy(update={"nodes": {one.id: one for one in nodes}})


PAGE = document(node("band", message="Visits"), node("a", "band", "a", text="one"), node("b", "band", "b", text="two"))


def text(name, was, value):
    return Set(id=name, path=("text",), was=(was,), value=(value,))


class TestFormats:
    def test_format_1_becomes_flat_nodes_that_draw_the_same_page(self):
        data = json.loads((GOLDEN / "format-1.json").read_text(encoding="utf-8"))
        read = read_document(data)
        assert [one.id for one in read.children()] == ["b1", "b2", "b3"]
        assert [one.id for one in read.children("b2")] == ["v1", "v2"]
        assert read.nodes["v1"].content["options"] == {"emphasis": "Adult", "points": False}
        assert read.sources == {"abc123": "abc123", "def456": "def456"}
        assert read.style.digest == ReportBody.model_validate(data).style.digest()
        # A tile that had no place has now the one it was drawn at.
        places = {view.tile.id: view.place for view in compose(ReportBody.model_validate(data), {}).tiles()}
        assert {name: one.frame.model_dump() for name, one in read.nodes.items() if one.frame} == {
            name: place.model_dump() for name, place in places.items()
        }

    def test_format_2_says_the_same_and_has_no_layers(self):
        data = json.loads((GOLDEN / "format-2.json").read_text(encoding="utf-8"))
        read = read_document(data)
        assert read.page == PageFormat(width=1200, gutter=16), "the page of that time"
        assert {name: node["content"] for name, node in data["nodes"].items()} == {
            name: node.content for name, node in read.nodes.items()
        }
        assert {node.frame.layer for node in read.nodes.values() if node.frame} == {0}

    def test_format_3_becomes_one_with_plain_bands_and_usual_cards(self):
        data = json.loads((GOLDEN / "format-3.json").read_text(encoding="utf-8"))
        read = read_document(data)
        assert read.cards == CardManner()
        for name, node in read.nodes.items():
            assert node.content == data["nodes"][name]["content"]
            if node.frame is not None:
                assert node.frame.model_dump() == {**data["nodes"][name]["frame"], "dx": 0, "dy": 0}

    def test_format_4_reads_back_to_itself(self):
        data = json.loads((GOLDEN / "format-4.json").read_text(encoding="utf-8"))
        assert read_document(data).as_json() == data

    def test_a_later_format_is_left_alone_and_said(self):
        with pytest.raises(NewerFormat, match="format 5, and this Ypsil reads up to 4; open it in a newer Ypsil"):
            read_document({"format": 5})

    @pytest.mark.parametrize(
        "data",
        [
            [],
            {},
            {"format": 0},
            {"format": True},
            {"format": 2, "title": "x"},
            {"title": "x", "bands": [{}]},
            EMPTY.as_json() | {"nodes": {"a": node("b").model_dump()}},
            EMPTY.as_json() | {"nodes": {"a": node("a", "a").model_dump()}},
            EMPTY.as_json() | {"nodes": {"a": node("a", "b").model_dump(), "b": node("b", "a").model_dump()}},
            EMPTY.as_json() | {"nodes": {"a": node("a", "gone").model_dump()}},
        ],
    )
    def test_what_is_no_document_is_refused_in_words(self, data):
        with pytest.raises(UnreadableDocument):
            read_document(data)

    def test_an_unknown_kind_is_kept_as_it_is(self):
        content = {"depth": [1, {"x": None}]}
        data = EMPTY.as_json() | {"nodes": {"a": {"id": "a", "kind": "hologram", "content": content}}}
        assert read_document(data).as_json()["nodes"]["a"]["content"] == content


class TestChanges:
    def test_each_is_taken_back_by_its_inverse(self):
        to = Spot(parent=None, order="z", frame=Frame(column=1, row=2, width=3, height=4))
        for change in (
            Insert(nodes=(node("c", "band", "c"), node("d", "c"))),
            Remove(id="band", was=PAGE.subtree("band")),
            text("a", "one", "uno"),
            Set(id="a", path=("colour",), value=("red",)),
            Set(path=("title",), was=("Report",), value=("Month",)),
            Move(id="b", was=spot_of(PAGE.nodes["b"]), to=to),
        ):
            made = apply(PAGE, change)
            assert made != PAGE
            assert apply(made, change.inverse()).as_json() == PAGE.as_json()

    @pytest.mark.parametrize(
        "change",
        [
            text("a", "other", "uno"),
            text("gone", "one", "uno"),
            Set(path=("title",), was=("Other",), value=("Month",)),
            Set(id="a", path=("text",), value=("uno",)),
            Remove(id="band", was=(PAGE.nodes["band"], PAGE.nodes["a"])),
            Remove(id="a", was=(node("a", "band", "a", text="other"),)),
            Insert(nodes=(PAGE.nodes["a"],)),
            Move(id="a", was=Spot(parent="band", order="z"), to=Spot(order="z")),
        ],
    )
    def test_what_is_not_as_it_was_seen_is_stale(self, change):
        with pytest.raises(StaleChange) as stale:
            apply(PAGE, change)
        assert stale.value.change == change

    @pytest.mark.parametrize(
        "change",
        [
            Set(path=("colour",), value=("red",)),
            Set(path=("title",), was=("Report",)),
            Set(path=("title",), was=("Report",), value=("",)),
            Set(id="a", path=("options", "names"), value=(False,)),
            Insert(nodes=(node("c", "gone"),)),
            Insert(nodes=(node("c", "band"), node("d", "a"))),
            Move(id="band", was=Spot(order="i"), to=Spot(parent="a", order="i")),
            Move(id="a", was=spot_of(PAGE.nodes["a"]), to=Spot(parent="gone", order="i")),
        ],
    )
    def test_what_does_not_fit_is_refused(self, change):
        with pytest.raises(ChangeRefused):
            apply(PAGE, change)

    def test_a_band_is_not_removed_from_under_a_change_within_it(self):
        seen = Remove(id="band", was=PAGE.subtree("band"))
        with pytest.raises(StaleChange):
            apply(apply(PAGE, text("b", "two", "due")), seen)

    def test_two_people_set_different_options_of_one_chart(self):
        chart = document(node("band"), node("a", "band", options={"names": True, "points": True}))
        first = Set(id="a", path=("options", "names"), was=(True,), value=(False,))
        second = Set(id="a", path=("options", "points"), was=(True,), value=())
        assert apply(apply(chart, first), second).nodes["a"].content == {"options": {"names": False}}

    def test_a_batch_is_made_whole_or_not_at_all(self):
        with pytest.raises(StaleChange):
            apply(PAGE, Batch(changes=(text("a", "one", "uno"), text("b", "other", "due"))))

    def test_five_thousand_changes_are_made_and_taken_back(self):
        nodes = tuple(node(f"n{place}", "band", f"k{place}", text="") for place in range(5_000))
        batch = Batch(changes=tuple(Insert(nodes=(one,)) for one in nodes))
        made = apply(document(node("band")), batch)
        assert len(made.nodes) == 5_001
        assert take_back(made, [batch]).document.as_json() == document(node("band")).as_json()

    def test_equal_order_keys_are_told_apart_by_their_ids(self):
        same = document(node("band"), node("b", "band", "k"), node("a", "band", "k"))
        assert [one.id for one in same.children("band")] == ["a", "b"]

    @pytest.mark.parametrize("data", [None, {}, {"type": "set"}, {"type": "dance"}, {"type": "set", "path": []}])
    def test_data_that_is_no_change_is_refused_in_words(self, data):
        with pytest.raises(ChangeRefused):
            parse_change(data)


class TestUndo:
    def test_only_what_is_still_as_its_author_wrote_it_is_taken_back(self):
        batch = Batch(changes=(text("a", "one", "uno"), text("b", "two", "due")))
        made = apply(apply(PAGE, batch), text("b", "due", "zwei"))
        back = take_back(made, [batch])
        assert (back.left, [back.document.nodes[name].content["text"] for name in "ab"]) == (1, ["one", "zwei"])

    def test_what_cannot_be_taken_back_does_not_stand_before_what_is_older(self):
        log = [Entry(1), Entry(2), Entry(4, undoes=2, is_passed_over=True)]
        assert reach(log).undo == ((1,),)
        assert reach(log).redo == ()

    def test_redo_makes_what_undo_took_back_until_something_new_comes(self):
        log = [Entry(1), Entry(2), Entry(3, undoes=2), Entry(4, undoes=1)]
        assert reach(log).redo == ((4,), (3,))
        assert reach([*log, Entry(5, undoes=4)]).undo == ((5,),)
        assert reach([*log, Entry(6)]).redo == ()

    def test_what_was_typed_in_one_spell_goes_at_once(self):
        typed = [text("a", "one", "on"), text("a", "on", "onward")]
        made = apply(apply(PAGE, typed[0]), typed[1])
        assert take_back(made, typed).document.nodes["a"].content == {"text": "one"}


def test_order_keys_leave_room_between_any_two():
    keys = ["i"]
    for place in range(400):
        at = place * 7919 % (len(keys) + 1)
        before, after = (keys[at - 1] if at else None), (keys[at] if at < len(keys) else None)
        keys.insert(at, key_between(before, after))
    assert keys == sorted(set(keys))
    assert not any(key.endswith("0") for key in keys)
    with pytest.raises(ValueError, match="does not sort before"):
        key_between("b", "a")


# Two authors at one document: each step is what one of them does to what they saw last, however old that is.
STEPS = st.lists(
    st.tuples(
        st.sampled_from("AB"),
        st.sampled_from(["insert", "band", "set", "option", "remove", "move", "undo", "redo", "look"]),
        st.integers(0, 50),
        st.integers(0, 50),
    ),
    max_size=40,
)


class Author:
    def __init__(self, name):
        self.name, self.seen, self.log = name, PAGE, []

    def wish(self, verb, pick, value, number, *, own):
        """Return a change of what this author sees; of ``own`` only of nodes that they put in themselves."""
        names = sorted(name for name in self.seen.nodes if not own or name.startswith(self.name.lower() + "n"))
        if verb == "band" or (verb == "insert" and not names):
            return Insert(nodes=(node(f"{self.name.lower()}n{number}b", None, f"k{value}"),))
        if not names:
            return None
        chosen = self.seen.nodes[names[pick % len(names)]]
        if verb == "insert":
            return Insert(nodes=(node(f"{self.name.lower()}n{number}t", chosen.id, f"k{value}", text=""),))
        if verb in ("set", "option"):
            key = "text" if verb == "set" else f"option{value % 3}"
            was = (chosen.content[key],) if key in chosen.content else ()
            return Set(id=chosen.id, path=(key,), was=was, value=() if value % 5 == 0 else (value,))
        if verb == "remove":
            return Remove(id=chosen.id, was=self.seen.subtree(chosen.id))
        others = [None, *names]
        return Move(id=chosen.id, was=spot_of(chosen), to=Spot(parent=others[value % len(others)], order=f"m{value}"))


class Desk:
    """What a server does with their changes: makes them or refuses them, and keeps a log."""

    def __init__(self, *, own=False):
        self.document, self.log, self.own = PAGE, [], own
        self.authors = {name: Author(name) for name in "AB"}

    def step(self, name, verb, pick, value):
        author = self.authors[name]
        if verb == "look":
            author.seen = self.document
        elif verb in ("undo", "redo"):
            self.take_back(author, verb)
        elif (change := author.wish(verb, pick, value, len(self.log), own=self.own)) is not None:
            try:
                self.keep(author, change, apply(self.document, change))
            except (StaleChange, ChangeRefused):
                author.seen = self.document

    def take_back(self, author, verb):
        numbers = next(iter(getattr(reach(author.log), verb)), None)
        if numbers is None:
            return False
        back = take_back(self.document, [self.log[number] for number in numbers])
        self.keep(author, back.batch, back.document, undoes=numbers[-1], passed=not back.batch.changes)
        return True

    def keep(self, author, change, document, undoes=None, passed=False):
        author.log.append(Entry(len(self.log), undoes, passed))
        self.log.append(change)
        self.document = author.seen = document


@settings(max_examples=200, deadline=None)
@given(STEPS)
def test_any_sequence_of_two_authors_replays_to_the_same_document(steps):
    desk = Desk()
    for step in steps:
        desk.step(*step)
    replayed = PAGE
    for change in desk.log:
        replayed = apply(replayed, parse_change(json.loads(change.model_dump_json())))
    assert replayed.as_json() == desk.document.as_json()
    assert read_document(json.loads(json.dumps(desk.document.as_json()))).as_json() == desk.document.as_json()


@settings(max_examples=200, deadline=None)
@given(STEPS)
def test_undoing_all_of_ones_own_leaves_exactly_what_the_other_did(steps):
    desk = Desk(own=True)
    for step in steps:
        desk.step(*step)
    while desk.take_back(desk.authors["A"], "undo"):
        pass
    alone = PAGE
    numbers = {entry.number for entry in desk.authors["B"].log}
    for number, change in enumerate(desk.log):
        if number in numbers:
            alone = apply(alone, change)
    assert desk.document.as_json() == alone.as_json()


@settings(max_examples=200, deadline=None)
@given(STEPS)
def test_undo_never_takes_what_the_other_wrote_last(steps):
    desk = Desk()
    for step in steps:
        desk.step(*step)
    written = {}
    for author in desk.authors.values():
        for entry in author.log:
            parts = desk.log[entry.number]
            for one in parts.changes if isinstance(parts, Batch) else (parts,):
                if isinstance(one, Set):
                    written[entry.number, one.id, one.path] = (author.name, one.value)
    latest = {(name, path): who for (_, name, path), who in sorted(written.items())}
    before = desk.document
    while desk.take_back(desk.authors["A"], "undo"):
        pass
    for (name, (key,)), (who, _) in latest.items():
        if who == "B" and name in before.nodes and name in desk.document.nodes:
            assert desk.document.nodes[name].content.get(key) == before.nodes[name].content.get(key)


@settings(max_examples=150, deadline=None)
@given(STEPS, STEPS)
def test_the_differences_of_two_documents_lead_from_one_to_the_other(some, more):
    first, second = Desk(), Desk()
    for step in some:
        first.step(*step)
    for step in more:
        second.step(*step)
    made = apply(first.document, differences(first.document, second.document))
    assert made.as_json() == second.document.as_json()
