"""What columns are called where readers see them. The question, its sentence and the numbers keep the table's names."""

import pytest

from tests.factories import csv_table, total
from ypsil.core.answers import answer
from ypsil.core.questions import parse_question
from ypsil.core.report.suggest import tile_for
from ypsil.core.style import HouseStyle
from ypsil.core.tables import ReadTable
from ypsil.core.tables.read import read_table
from ypsil.core.tables.recipe import parse_recipe, replay
from ypsil.core.tables.recipe_changes import change_recipe
from ypsil.core.tables.rows import Rows
from ypsil.core.tables.shown_names import in_words, said_in_words, shown_names, unit_in_name
from ypsil.core.tables.steps import Context
from ypsil.core.visuals import Box, draw

# Names as they stand in open data sets and exports of databases.
MACHINE_NAMES = {
    "US_Gross": "US gross", "Worldwide_Gross": "Worldwide gross", "IMDB_Rating": "IMDB rating",
    "Miles_per_Gallon": "Miles per gallon", "temp_max": "Temp max", "precipitation": "Precipitation",
    "life_expect": "Life expect", "petalLength": "Petal length", "TOTAL_SALES": "Total sales", "VISITS": "VISITS",
    "number_of_visits": "Number of visits", "visits_2025": "Visits 2025", "size.inner": "Size inner",
    "_id_": "Id", "Q1_score": "Q1 score", "weight_kg": "Weight", "Cost (£)": "Cost", "Height [cm]": "Height",
}  # fmt: skip
OWN_NAMES = [
    "Visits",
    "Market Square",
    "Would you come again?",
    "McDonald",
    "pH",
    "iOS",
    "CO2",
    "Self-employed",
    "Größe",
]


@pytest.mark.parametrize(("name", "shown"), MACHINE_NAMES.items())
def test_names_for_machines_become_words(name, shown):
    assert in_words(name) == shown


@pytest.mark.parametrize("name", OWN_NAMES)
def test_names_that_people_wrote_stay(name):
    assert in_words(name) == name


@pytest.mark.parametrize(
    ("name", "unit"),
    [("Cost (£)", "£"), ("Height (cm)", "cm"), ("Distance [kilometres]", "km"), ("price_eur", "EUR"),
     ("temp_min", None), ("Staff (paid)", None), ("Share (%)", None), ("Visits", None)],
)  # fmt: skip
def test_a_unit_in_a_name_stands_beside_the_numbers(name, unit):
    assert unit_in_name(name) == unit
    table = read_table(f"Branch,{name}\nAlder,1\nElm,2\n".encode(), "t.csv")
    assert table.columns[1].unit == unit


def drawn_texts(table: ReadTable, asked, visual="bar"):
    question = parse_question(asked)
    found = answer(table.frame, table.columns, question)
    return found, [text.text for text in draw(visual, found, {}, Box(600, 300), HouseStyle()).texts()]


def test_a_drawing_shows_words_and_the_answer_keeps_the_names():
    table = csv_table("Major_Genre,US_Gross ($)\nDrama,120\nComedy,80\nHorror,30\n")
    asked = total("US_Gross ($)", per=[{"column": "Major_Genre"}])
    found, texts = drawn_texts(table, asked, "column")
    assert [column.name for column in found.columns] == ["Major_Genre", "Total US_Gross ($)"]
    assert found.sentence == "Total US_Gross ($) per Major_Genre"
    assert "Total US gross" in texts and "$20" in texts and not any("_" in text for text in texts)
    assert tile_for("t", parse_question(asked), "column").title == "US gross per major genre"


def test_two_columns_that_would_be_called_the_same_keep_their_names():
    table = csv_table("day,visits_kg,visits\n2026-01-01,5,6\n2026-01-02,7,8\n")
    both = {"measures": [{"stat": "sum", "column": "visits_kg"}, {"stat": "sum", "column": "visits"}]}
    _, texts = drawn_texts(table, both | {"per": [{"column": "day", "by": "day"}]}, "table")
    assert {"Total visits_kg", "Total visits"} <= set(texts)


def test_an_author_names_a_column_for_readers_and_gives_it_its_usual_name_again():
    table = csv_table("Major_Genre,US_Gross\nDrama,120\nComedy,80\n")
    recipe, said = change_recipe(
        parse_recipe({}), {"action": "show_as", "column": "US_Gross", "shown": " Takings  at home "}
    )
    assert said == "Added: Readers see “US_Gross” as “Takings at home”"
    again, _ = change_recipe(recipe, {"action": "show_as", "column": "US_Gross", "shown": "Takings"})
    assert len(again.steps) == 1, "one name at a time"
    rows = replay(Rows.of_table(table), again.steps, Context(None))[-1].rows
    assert shown_names(rows.columns()) == {"US_Gross": "Takings", "Major_Genre": "Major genre"}
    named = ReadTable("t", rows.frame, rows.columns())
    _, texts = drawn_texts(named, total("US_Gross", per=[{"column": "Major_Genre"}]), "column")
    assert any(text.startswith("Total takings") for text in texts)
    assert change_recipe(again, {"action": "show_as", "column": "US_Gross", "shown": ""})[0].steps == ()


def test_only_whole_names_are_told_in_words():
    shown = {"rate": "Rate", "pay_rate": "Pay rate"}
    assert (
        said_in_words("Mean pay_rate and separate rates per rate", shown) == "Mean pay rate and separate rates per rate"
    )


@pytest.mark.parametrize(("said", "unit"), [("centimetres", "cm"), (" kg ", "kg"), ("per cent", "%"), ("beds", "beds")])
def test_what_a_number_is_measured_in_is_said_once_changed_and_taken_back(said, unit):
    recipe = parse_recipe({})
    made, _ = change_recipe(recipe, {"action": "measured_in", "column": "Height", "unit": "inches"})
    made, _ = change_recipe(made, {"action": "measured_in", "column": "Height", "unit": said})
    assert len(made.steps) == 1 and made.steps[0].sentence() == f"“Height” is measured in {unit}"
    plants = read_table(b"Plant,Height\nA,12\nB,14\nC,9\n", "plants.csv")
    assert replay(Rows.of_table(plants), made.steps, Context(None))[-1].rows.fields["Height"].unit == unit
    back, _ = change_recipe(made, {"action": "measured_in", "column": "Height", "unit": " "})
    assert back.steps == ()
