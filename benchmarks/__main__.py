"""All measurements of this stage. Later stages add theirs."""

from __future__ import annotations

import io
import random
import re
import resource
import tempfile
from collections import Counter
from pathlib import Path

import altair
import matplotlib

matplotlib.use("Agg")
import matplotlib.pyplot as plt
import numpy as np
import pandas as pd
import polars as pl
import pygal
import typst
import vl_convert
import weasyprint
from PIL import Image, ImageDraw, ImageFont
from sklearn.feature_extraction.text import CountVectorizer
from wordcloud import WordCloud

from benchmarks.by_chance import by_chance
from benchmarks.commands import commands
from benchmarks.gather import gather
from benchmarks.load import load
from benchmarks.starts import starts
from benchmarks.timing import Row, print_rows, side_by_side
from ypsil.core.answers import answer
from ypsil.core.cloud import CloudLayout, CloudStyle, CloudWord, place_words
from ypsil.core.cloud.masks import forget_words
from ypsil.core.drawing import scene_to_svg
from ypsil.core.drawing.faces import FONT_FOLDER, SANS, face_path
from ypsil.core.drawing.scene import Font, Scene, Text
from ypsil.core.export import file_format, page_to_pdf, page_to_png
from ypsil.core.questions import parse_question
from ypsil.core.render import compose
from ypsil.core.report import Band, Frame, ReportBody, ReportTable, VisualTile
from ypsil.core.style import HouseStyle
from ypsil.core.tables import Column, ReadTable, frame_to_blob
from ypsil.core.tables.profile import profile
from ypsil.core.tables.read import read_table
from ypsil.core.text.contexts import contexts_of
from ypsil.core.text.count import count_terms
from ypsil.core.text.settings import WordSettings
from ypsil.core.visuals import Box, draw
from ypsil.core.visuals.words.cloud import CloudOptions

STYLE = HouseStyle()
LICENCES = Path("/usr/share/common-licenses")
TEXTS = (
    "Apache-2.0", "Artistic", "BSD", "CC0-1.0", "GFDL-1.3", "GPL-1", "GPL-2", "GPL-3", "LGPL-2.1", "MPL-2.0",
)  # fmt: skip
VOCABULARY_ENDS = [
    f"{middle}{end}" for middle in ("ar", "el", "in", "om", "ut") for end in ("ly", "tan", "vo", "re", "k")
]
BY_KIND = {"measures": [{"stat": "sum", "column": "Visits"}], "per": [{"column": "Branch"}]}


def rows(count: int) -> pl.DataFrame:
    chance = np.random.default_rng(1)
    return pl.DataFrame(
        {
            "Day": pl.Series(chance.integers(19_000, 20_000, count)).cast(pl.Int32).cast(pl.Date),
            "Branch": chance.choice([f"Branch {index}" for index in range(12)], count),
            "Kind": chance.choice(["Adult", "Child", "Staff"], count),
            "Visits": chance.integers(0, 500, count),
            "Cost": chance.random(count).round(3) * 100,
        }
    )


def table_of(frame: pl.DataFrame) -> ReadTable:
    return read_table(frame.write_csv().encode(), "rows.csv")


def chart() -> list[Row]:
    small = table_of(rows(5_000))
    question = parse_question(BY_KIND)
    pandas = pd.DataFrame(small.frame.to_dict(as_series=False))

    def ours() -> str:
        found = answer(small.frame, small.columns, question)
        return scene_to_svg(draw("column", found, {}, Box(640, 400), STYLE))

    def with_pygal() -> bytes:
        sums = pandas.groupby("Branch")["Visits"].sum()
        made = pygal.Bar(width=640, height=400)
        made.x_labels = list(sums.index)
        made.add("Visits", sums.tolist())
        return made.render()

    def with_matplotlib() -> None:
        figure, axes = plt.subplots(figsize=(6.4, 4))
        sums = pandas.groupby("Branch")["Visits"].sum()
        axes.bar(sums.index, sums)
        figure.savefig(io.BytesIO(), format="svg")
        plt.close(figure)

    def with_altair() -> str:
        sums = pandas.groupby("Branch", as_index=False)["Visits"].sum()
        made = altair.Chart(sums, width=640, height=400).mark_bar().encode(x="Branch", y="Visits")
        return vl_convert.vegalite_to_svg(made.to_dict())

    what = "12-category chart, question to SVG"
    return [
        side_by_side(what, ours, "pandas + pygal", with_pygal, "<4 ms, 4x", runs=30),
        side_by_side(what, ours, "pandas + matplotlib", with_matplotlib, "20x", runs=9),
        side_by_side(what, ours, "altair + vl-convert", with_altair, "", runs=9),
    ]


def million_points() -> Row:
    """A line through every one of a million rows, beside matplotlib's own reduction of paths."""
    count = 1_000_000
    frame = pl.DataFrame(
        {
            "Time": pl.Series(np.arange(count) * 60_000_000 + 1_700_000_000_000_000).cast(pl.Datetime("us")),
            "Value": np.cumsum(np.random.default_rng(2).normal(size=count)),
        }
    )
    columns = (Column("Time", "date", None, 0, count), Column("Value", "number", None, 0, count))
    per = [{"column": "Time", "by": "row"}]
    question = parse_question({"measures": [{"stat": "sum", "column": "Value"}], "per": per})
    values = frame["Value"].to_numpy()

    def ours() -> str:
        return scene_to_svg(draw("line", answer(frame, columns, question), {}, Box(800, 400), STYLE))

    def with_matplotlib() -> None:
        figure, axes = plt.subplots(figsize=(8, 4))
        axes.plot(values)
        figure.savefig(io.BytesIO(), format="svg")
        plt.close(figure)

    return side_by_side("line of 1M points to SVG", ours, "matplotlib", with_matplotlib, "<60 ms", runs=7)


def dashboard() -> ReportBody:
    """Return a page of twelve charts, each with a question of its own, so that no answer serves two."""
    by_month, by_quarter = ([{"column": "Day", "by": grain}] for grain in ("month", "quarter"))
    questions = []
    for stat, column in (("sum", "Visits"), ("sum", "Cost"), ("mean", "Cost")):
        asked = {"measures": [{"stat": stat, "column": column}], "per": [{"column": "Branch"}]}
        questions += [
            ("column", asked),
            ("bar", {**asked, "order": {"by": "value"}, "keep": 5}),
            ("line", {**asked, "per": by_month}),
            ("column", {**asked, "per": by_quarter, "split": {"column": "Kind"}}),
        ]
    tiles = tuple(
        VisualTile.model_validate(
            {
                "table": "t",
                "visual": name,
                "question": {**question, "where": [{"column": "Kind", "test": "in", "values": ["Adult", "Child"]}]},
                "place": Frame(column=8 * (index % 3), row=44 * (index // 3), width=8, height=40).model_dump(),
                "title": f"Chart {index}",
            }
        )
        for index, (name, question) in enumerate(questions)
    )
    return ReportBody(title="Twelve charts", bands=(Band(tiles=tiles),))


def as_report_table(table: ReadTable) -> ReportTable:
    return ReportTable("rows", table.columns, lambda: table.frame, "digest", "rows.csv")


def filter_change() -> Row:
    table = table_of(rows(100_000))
    report = dashboard()
    pandas = pd.DataFrame(table.frame.to_dict(as_series=False))
    pandas["Day"] = pd.to_datetime(pandas["Day"])

    def other() -> None:
        for index in range(12):
            kept = pandas[pandas["Kind"].isin(["Adult", "Child"])]
            figure, axes = plt.subplots(figsize=(3.7, 3.2))
            key = "Branch" if index % 4 < 2 else kept["Day"].dt.to_period("M").astype(str)
            sums = kept.groupby(key)["Visits"].sum()
            axes.bar(sums.index, sums) if index % 4 < 2 else axes.plot(sums.index, sums)
            figure.savefig(io.BytesIO(), format="svg")
            plt.close(figure)

    def ours() -> object:
        # A table as each request sees it: nothing is remembered from the run before.
        return compose(report, {"t": as_report_table(table)})

    what = "filter change, 12 tiles over 100,000 rows"
    return side_by_side(what, ours, "pandas + matplotlib", other, "<100 ms, 10x", runs=3)


def reading() -> list[Row]:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "rows.csv"
        rows(1_000_000).write_csv(path)

        def ours() -> None:
            read = read_table(path.read_bytes(), "rows.csv")
            frame_to_blob(read.frame)
            profile(read.frame, read.columns)

        size = f"reading a 1M-row CSV ({path.stat().st_size / 1e6:.0f} MB), kinds to store"
        found = [
            side_by_side(size, ours, "polars.read_csv", lambda: pl.read_csv(path), "<6x of it", runs=3),
            side_by_side(size, ours, "pandas.read_csv", lambda: pd.read_csv(path), "<3x of it", runs=3),
        ]
    peak = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024
    print(f"peak memory of the whole run so far: {peak:,.0f} MB")
    return found


def cloud() -> Row:
    chance = random.Random(1)
    words = {
        "".join(chance.choices("abcdefghijklmnoprstuvy", k=chance.randint(3, 11))): int(300 / (rank + 1) ** 0.8) + 1
        for rank in range(200)
    }
    ours_words = [CloudWord(text, count) for text, count in words.items()]
    font = str(face_path(SANS, 700))
    made_here: list[CloudLayout] = []
    made_there: list[Image.Image] = []

    def ours() -> None:
        # As for words that were never drawn before.
        forget_words()
        layout = place_words(ours_words, 1000, 600, CloudStyle(SANS))
        assert not layout.left_out
        texts = [Text(one.x, one.y, one.text, Font(SANS, one.size, 700), "#222222") for one in layout.placed]
        scene_to_svg(Scene(1000, 600, tuple(texts)))
        made_here.append(layout)

    def other() -> None:
        made = WordCloud(width=1000, height=600, font_path=font, prefer_horizontal=1, max_words=200, random_state=1)
        made.generate_from_frequencies(words)
        made_there.append(made.to_image())

    found = side_by_side("cloud of 200 words, 1000 x 600", ours, "wordcloud", other, "5x, as much ink", runs=7)
    inked = inked_part(made_there[0].convert("L"))
    print(f"ink of the cloud: Ypsil {layout_ink(made_here[0], font):.3f}, wordcloud {inked:.3f}")
    return found


def prose() -> None:
    """Compare the ink of clouds of ten texts of Debian's base-files: as our command draws them beside the package as it
    is, and both in one bold face, set level and tight."""
    texts = [path.read_text(errors="replace").splitlines() for path in map(LICENCES.joinpath, TEXTS)]
    terms = [count_terms(lines, WordSettings(language="en", case="lower")).first(200) for lines in texts]
    usual, alike = [], []
    font = str(face_path(SANS, 700))
    for found in terms:
        words, counts = [CloudWord(one.term, one.count) for one in found], {one.term: one.count for one in found}
        style = HouseStyle()
        ours = place_words(words, 1000, 600, CloudOptions().style(CloudOptions().in_typeface(style).heading_family))
        usual.append(ours.ink / _ink_of_package(counts))
        tight = layout_ink(place_words(words, 1000, 600, CloudStyle(SANS)), font)
        alike.append(tight / _ink_of_package(counts, font_path=font, prefer_horizontal=1))
    for what, parts in ("as they are", usual), ("in one face, level and tight", alike):
        print(f"ink of ten texts, {what}: {np.mean(parts):.2f} of wordcloud's, at least {min(parts):.2f} (target 0.9)")


def _ink_of_package(counts: dict[str, int], **settings: object) -> float:
    made = WordCloud(
        width=1000, height=600, max_words=200, random_state=1, color_func=lambda *_, **__: "white", **settings
    )
    return inked_part(made.generate_from_frequencies(counts).to_image().convert("L"))


def layout_ink(layout: CloudLayout, font: str) -> float:
    """Return the inked part of a layout as Pillow draws it, which draws the other cloud too."""
    image = Image.new("L", (1000, 600), 0)
    draw_on = ImageDraw.Draw(image)
    for word in layout.placed:
        set_in = ImageFont.truetype(font, word.size)
        draw_on.text((word.x, word.y), word.text, fill=255, font=set_in, anchor="ls")
    return inked_part(image)


def inked_part(image: Image.Image) -> float:
    return float((np.asarray(image) > 32).mean())


def from_answers() -> list[Row]:
    """Raw answers to the drawn cloud, and the answers with one of its words, as they are in the application."""
    chance = np.random.default_rng(1)
    vocabulary = np.array([f"{first}{last}" for first in "abcdefghijklmnopqrst" for last in VOCABULARY_ENDS])
    often = 1 / np.arange(1, len(vocabulary) + 1)
    texts = [" ".join(chance.choice(vocabulary, 12, p=often / often.sum())) for _ in range(10_000)]
    table = ReadTable("Answers", pl.DataFrame({"Comment": texts}), (Column("Comment", "text"),))
    asked = parse_question({"measures": [{"stat": "count"}], "per": [{"column": "Comment", "by": "word"}], "keep": 100})
    frequent = count_terms(texts).first(1)[0].term

    def drawn() -> None:
        forget_words()
        scene_to_svg(draw("cloud", answer(table.frame, table.columns, asked), {}, Box(1000, 600), STYLE))

    found = count_terms(texts)

    def in_context() -> None:
        contexts_of(texts, found, frequent, most=100)

    def by_counter() -> None:
        Counter(word for text in texts for word in text.split()).most_common(100)

    def by_search() -> None:
        [text for text in texts if re.search(rf"\b{frequent}\b", text)]

    return [
        side_by_side("10,000 raw answers to a drawn cloud", drawn, "Counter alone", by_counter, "<1000 ms", runs=3),
        side_by_side("answers with a word, in context", in_context, "re alone", by_search, "<100 ms", runs=5),
    ]


def phrases() -> Row:
    chance = random.Random(1)
    vocabulary = ["".join(chance.choices("abcdefghijklmnop", k=5)) for _ in range(3000)]
    texts = [" ".join(chance.choices(vocabulary, k=9)) for _ in range(100_000)]
    settings = WordSettings(phrase_length=2, keep_stop_words=True)
    return side_by_side(
        "two-word phrases in 100,000 answers",
        lambda: count_terms(texts, settings).names(),
        "CountVectorizer",
        lambda: CountVectorizer(ngram_range=(2, 2)).fit_transform(texts).sum(axis=0),
        "3x",
        runs=3,
    )


def files() -> list[Row]:
    table = table_of(rows(5_000))
    page = compose(dashboard(), {"t": as_report_table(table)})
    svgs = [scene_to_svg(view.scene) for view in page.tiles()]
    fonts = typst.Fonts(font_paths=[str(FONT_FOLDER)], include_system_fonts=False)
    source = "#set page(width: 900pt, height: auto)\n" + "\n".join(
        f'#image(bytes(sys.inputs.at("d{index}")), format: "svg", alt: "chart")' for index in range(12)
    )
    inputs = {f"d{index}": svg for index, svg in enumerate(svgs)}

    def bare() -> bytes:
        return typst.compile(source.encode(), font_paths=fonts, format="pdf", sys_inputs=inputs)

    html = "<style>@page{size:1200px 1600px}</style>" + "".join(svgs)
    return [
        side_by_side("PDF of a 12-chart page", lambda: page_to_pdf(page), "typst alone", bare, "<3x of it", runs=5),
        side_by_side(
            "PDF of a 12-chart page",
            lambda: page_to_pdf(page),
            "WeasyPrint",
            lambda: weasyprint.HTML(string=html).write_pdf(),
            "5x",
            runs=3,
        ),
        side_by_side(
            "PNG of a 12-chart page, 2 pixels a px", lambda: page_to_png(page), "PDF of it", bare, "-", runs=3
        ),
        *(
            side_by_side(
                f"{ending.upper()} of a 12-chart page",
                lambda ending=ending: file_format(ending).page(page),
                "PDF of it",
                bare,
                target,
                runs=3,
            )
            for ending, target in (("pptx", "<1 s"), ("xlsx", "<1 s"), ("docx", "-"), ("html", "-"))
        ),
    ]


if __name__ == "__main__":
    print_rows(
        [
            *chart(),
            filter_change(),
            million_points(),
            *reading(),
            *gather(rows(100_000), rows(1_000_000)),
            cloud(),
            phrases(),
            *from_answers(),
            *files(),
            *commands(),
            *starts(table_of(rows(100_000)), table_of(rows(1_000_000))),
        ]
    )
    prose()
    load()
    by_chance()
