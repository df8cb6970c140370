"""House styles: kept of a report, worn by others, put on all in one move, taken back."""

import pytest

from ypsil.core.style.palettes import SHIPPED
from ypsil.web.compose.actions.edit_report import EditRequest, edit_report
from ypsil.web.compose.actions.make_report import make_report
from ypsil.web.compose.dresses import MOST
from ypsil.web.compose.models import Report, SharedStyle

pytestmark = pytest.mark.django_db


def restyle(client, report, **said):
    report.refresh_from_db()
    edit_report(client.user, report.uid, EditRequest({"type": "restyle", **said}, report.revision))
    report.refresh_from_db()


def on_report(client, report, do, **more):
    reply = client.post(f"/reports/{report.uid}/wears/", {"do": do, **more}, follow=True)
    report.refresh_from_db()
    return reply.content.decode()


def on_style(client, style, do, **more):
    return client.post(f"/styles/{style.uid}/", {"do": do, **more}, follow=True).content.decode()


def margin(client, report):
    return client.get(f"/reports/{report.uid}/margin/").content.decode()


@pytest.fixture
def night(owner, report):
    restyle(owner, report, palette="night")
    on_report(owner, report, "keep", name=" By   night ")
    return SharedStyle.objects.get()


@pytest.fixture
def others(owner):
    return [make_report(owner.user, name) for name in ("One", "Two")]


def papers(*reports):
    return [Report.objects.get(pk=report.pk).read().style.paper for report in reports]


NIGHT = SHIPPED["night"].paper


def test_one_is_kept_of_a_report_which_wears_it(owner, report, night):
    assert str(night) == "By night" and report.wears == night
    assert "It wears" in margin(owner, report) and "as it is." in margin(owner, report)
    assert str(report) in owner.get("/styles/").content.decode()


def test_another_report_wears_it_and_one_undo_takes_it_off(owner, report, night, others):
    one = others[0]
    assert "By night" in margin(owner, one)
    assert "undo takes it off" in on_report(owner, one, "wear", style=night.uid)
    assert papers(one) == [NIGHT] and one.wears == night
    owner.post(f"/reports/{one.uid}/undo/")
    assert papers(one) == ["#ffffff"]
    assert "but departs in its colours" in margin(owner, one)
    on_report(owner, one, "wear", style=night.uid)
    assert papers(one) == [NIGHT]


def test_where_a_report_departs_is_said_and_the_style_can_follow_it(owner, report, night, others):
    for other in others:
        on_report(owner, other, "wear", style=night.uid)
    restyle(owner, report, palette="parade", charts={"corner": 4})
    assert "departs in its colours, how its charts are drawn" in margin(owner, report)
    assert "which departs in its colours" in owner.get("/styles/").content.decode()
    assert "2 reports followed" in on_report(owner, report, "change", style=night.uid)
    assert papers(*others) == [SHIPPED["parade"].paper] * 2
    assert "as it is." in margin(owner, report)
    assert "2 reports look as before" in on_style(owner, night, "back")
    assert papers(*others) == [NIGHT] * 2


def test_it_is_put_on_all_in_one_move_and_taken_back(owner, report, night, others):
    assert "2 reports look otherwise now" in on_style(owner, night, "everywhere")
    assert papers(*others) == [NIGHT] * 2 and SharedStyle.objects.get().reports.count() == 3
    restyle(owner, others[1], palette="parade")
    said = on_style(owner, night, "back")
    assert "1 report looks as before." in said and "1 report was changed since" in said
    assert papers(*others) == ["#ffffff", SHIPPED["parade"].paper]
    assert Report.objects.get(pk=others[0].pk).wears is None
    assert "0 reports" in on_style(owner, night, "back")


def test_no_longer_followed_renamed_and_taken_away_leaves_the_looks(owner, report, night):
    on_report(owner, report, "off")
    assert report.wears is None and papers(report) == [NIGHT]
    on_report(owner, report, "wear", style=night.uid)
    on_style(owner, night, "rename", name="Late")
    night.refresh_from_db()
    assert str(night) == "Late"
    assert "“Late” is gone" in on_style(owner, night, "forget")
    report.refresh_from_db()
    assert report.wears is None and papers(report) == [NIGHT]
    assert "There is none yet" in owner.get("/styles/").content.decode()


@pytest.mark.parametrize("name", ["", "   ", "x" * 81])
def test_a_style_needs_a_name(owner, report, night, name):
    assert "1 to 80 letters" in on_report(owner, report, "keep", name=name)
    assert "1 to 80 letters" in on_style(owner, night, "rename", name=name)
    assert SharedStyle.objects.count() == 1


def test_a_copy_wears_what_its_report_wears(owner, report, night):
    owner.post(f"/reports/{report.uid}/at-desk/", {"do": "copy"})
    assert night.reports.count() == 2


def test_others_have_nothing_of_it(owner, other, report, night):
    theirs = make_report(other.user, "Theirs")
    assert other.post(f"/styles/{night.uid}/", {"do": "everywhere"}).status_code == 404
    assert other.post(f"/reports/{theirs.uid}/wears/", {"do": "wear", "style": night.uid}).status_code == 404
    assert "By night" not in other.get("/styles/").content.decode()
    assert "By night" not in margin(other, theirs)


def test_odd_wishes_change_nothing(owner, report, night):
    assert owner.post(f"/styles/{night.uid}/", {"do": "burn"}).status_code == 400
    assert owner.post(f"/reports/{report.uid}/wears/", {"do": "burn"}).status_code == 400
    assert owner.post(f"/reports/{report.uid}/wears/", {"do": "wear", "style": "none"}).status_code == 404


def test_there_are_not_more_than_can_be_shown(owner, report, night, monkeypatch):
    monkeypatch.setattr("ypsil.web.compose.dresses.MOST", 1)
    assert MOST > 20
    assert "take some away first" in on_report(owner, report, "keep", name="One more").lower()
