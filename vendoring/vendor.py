"""Copy third-party scripts, styles and fonts from node_modules into the source tree.

Run by `make vendor` after `npm ci`. Each font family arrives as WOFF2 subsets; they are merged into one
TTF a face (for measuring text and for typst) and the same face as WOFF2 (for the browser), so that the
screen and the files are set with the same glyphs.
"""

import json
import math
import re
import shutil
import subprocess
import tempfile
from collections.abc import Iterable
from pathlib import Path
from xml.etree import ElementTree

from fontTools import subset
from fontTools.merge import Merger, Options
from fontTools.pens.boundsPen import BoundsPen
from fontTools.pens.recordingPen import RecordingPen
from fontTools.svgLib import SVGPath
from fontTools.svgLib.path import parse_path
from fontTools.svgLib.path.shapes import PathBuilder
from fontTools.ttLib import TTFont

HERE = Path(__file__).parent
MODULES = HERE / "node_modules"
ROOT = HERE.parent
TTF_FOLDER = ROOT / "src/ypsil/core/drawing/fonts"
ICONS_FILE = ROOT / "src/ypsil/core/drawing/icons.json"
SIGNS_FOLDER = ROOT / "src/ypsil/core/drawing/signs"
VENDOR_FOLDER = ROOT / "src/ypsil/web/static/vendor"
AXE_FOLDER = ROOT / "tests/browser/vendor"

LATIN = ("latin", "latin-ext")
FAMILIES = {
    "source-sans-3": (
        "Source Sans 3",
        (*LATIN, "greek", "greek-ext", "cyrillic", "cyrillic-ext", "vietnamese"),
    ),
    "atkinson-hyperlegible-next": ("Atkinson Hyperlegible Next", LATIN),
    "noto-sans": (
        "Noto Sans",
        (*LATIN, "greek", "greek-ext", "cyrillic", "cyrillic-ext", "vietnamese"),
    ),
    "noto-serif": (
        "Noto Serif",
        (*LATIN, "greek", "greek-ext", "cyrillic", "cyrillic-ext", "vietnamese"),
    ),
    "barlow-condensed": ("Barlow Condensed", LATIN),
    "work-sans": ("Work Sans", LATIN),
    "jost": ("Jost", (*LATIN, "cyrillic")),
    "bitter": ("Bitter", (*LATIN, "cyrillic", "cyrillic-ext")),
    "fraunces": ("Fraunces", LATIN),
    "nunito": ("Nunito", (*LATIN, "cyrillic", "cyrillic-ext")),
    "playpen-sans": ("Playpen Sans", (*LATIN, "greek", "cyrillic", "cyrillic-ext")),
    "courier-prime": ("Courier Prime", LATIN),
    "literata": ("Literata", (*LATIN, "greek", "greek-ext", "cyrillic", "cyrillic-ext")),
    "archivo-narrow": ("Archivo Narrow", LATIN),
    "rubik": ("Rubik", (*LATIN, "cyrillic", "cyrillic-ext")),
    "crimson-pro": ("Crimson Pro", LATIN),
    "andika": ("Andika", (*LATIN, "cyrillic", "cyrillic-ext")),
    "josefin-sans": ("Josefin Sans", LATIN),
    "oswald": ("Oswald", (*LATIN, "cyrillic", "cyrillic-ext")),
    "noto-sans-hebrew": ("Noto Sans Hebrew", ("hebrew",)),
    "noto-sans-arabic": ("Noto Sans Arabic", ("arabic",)),
}
# Families that have no italics, or only stand in for others.
UPRIGHT_ONLY = ("noto-sans-hebrew", "noto-sans-arabic", "playpen-sans", "oswald")
# Families whose letters come in a dozen variants each, which would make a file of a page three times as large.
FEW_FEATURES = ("playpen-sans",)
STYLES = {
    (400, "normal"): "Regular",
    (700, "normal"): "Bold",
    (400, "italic"): "Italic",
    (700, "italic"): "BoldItalic",
}
SCRIPTS = {
    "bootstrap/dist/js/bootstrap.bundle.min.js": "bootstrap.bundle.min.js",
    "bootstrap/dist/css/bootstrap.min.css": "bootstrap.min.css",
    "@alpinejs/csp/dist/module.esm.min.js": "alpine-csp.esm.min.js",
    "tabulator-tables/dist/js/tabulator_esm.min.mjs": "tabulator.esm.min.js",
    "tabulator-tables/dist/css/tabulator.min.css": "tabulator.min.css",
}
# Icons that a report has no use for: signs of makers, and the same icon once more with a small mark of programs.
LEFT_OUT = ("Brand", "Extensions", "Version control", "Laundry", "Logic")
VARIANTS = (
    "off", "plus", "minus", "x", "cancel", "cog", "code", "bolt", "pause", "pin", "share", "spark", "exclamation",
    "question", "dollar", "search", "star", "heart", "key", "flame", "edit", "ai", "small", "discount", "scan",
)  # fmt: skip
# Names of makers and their products: what is called so is left out, and nothing is found by them.
MAKERS = frozenset((
    "nintendo", "airpods", "imac", "ipad", "iphone", "ipod", "macbook", "playstation", "xbox", "pokeball", "pokemon",
    "google", "android", "microsoft", "adobe", "photoshop", "illustrator", "figma", "spotify", "lego", "disney",
    "mickey", "instagram", "whatsapp", "aws", "excel", "powerpoint", "airdrop", "visa", "mastercard", "ios", "macos",
    "mac", "linux", "snapchat", "mcdonalds", "uber", "windows",
))  # fmt: skip
CALLED_SO = ("device-vision-pro", "file-word")
# Words that say nothing of a sign.
NO_WORDS = MAKERS | {"apple", "transcript"}
# What comes along in the bundle.
BUNDLED_TOO = ("orderedmap", "prosemirror-transform", "rope-sequence", "w3c-keyname")
# Tables that only steer hinting or variable axes, which the merged static faces do not have.
DROPPED_TABLES = ("MATH", "STAT", "DSIG", "meta", "gasp", "prep", "fpgm", "cvt ", "hdmx", "VDMX", "LTSH")


def merged_face(slug: str, subsets: tuple[str, ...], weight: int, slope: str, folder: Path) -> TTFont:
    """Return one TrueType font holding all the subsets, each character taken from the first that has it."""
    taken: set[int] = set()
    parts = []
    for name in subsets:
        font = TTFont(MODULES / "@fontsource" / slug / "files" / f"{slug}-{name}-{weight}-{slope}.woff2")
        font.flavor = None
        fresh = set(font.getBestCmap()) - taken
        taken |= fresh
        features = ["kern", "liga", "mark", "mkmk", "ccmp"] if slug in FEW_FEATURES else ["*"]
        options = subset.Options(layout_features=features, name_IDs=["*"], notdef_outline=True, hinting=False)
        subsetter = subset.Subsetter(options)
        subsetter.populate(unicodes=fresh)
        subsetter.subset(font)
        for table in DROPPED_TABLES:
            if table in font:
                del font[table]
        part = folder / f"{slug}-{name}-{weight}-{slope}.ttf"
        font.save(part)
        parts.append(str(part))
    if len(parts) == 1:
        return TTFont(parts[0])
    return Merger(Options(drop_tables=["vmtx", "vhea"])).merge(parts)


def even_figures(font: TTFont) -> None:
    """Make figures stand at one height and take one width without being asked to, where the face has such: numbers
    under each other line up, and those that change do not jump."""
    for feature in ("lnum", "tnum"):
        swapped = _single_substitutions(font, feature)
        for table in font["cmap"].tables:
            for figure in map(ord, "0123456789"):
                if figure in table.cmap:
                    table.cmap[figure] = swapped.get(table.cmap[figure], table.cmap[figure])


def _single_substitutions(font: TTFont, feature: str) -> dict[str, str]:
    """Return which glyph a feature of a font puts in the place of which."""
    if "GSUB" not in font:
        return {}
    table = font["GSUB"].table
    places = {
        place
        for record in table.FeatureList.FeatureRecord
        if record.FeatureTag == feature
        for place in record.Feature.LookupListIndex
    }
    swapped: dict[str, str] = {}
    for place in sorted(places):
        for found in table.LookupList.Lookup[place].SubTable:
            swapped |= getattr(getattr(found, "ExtSubTable", found), "mapping", {})
    return swapped


def name_face(font: TTFont, family: str, weight: int, slope: str) -> str:
    """Write the family and style into the face; return its PostScript name."""
    style = STYLES[weight, slope]
    is_italic = slope == "italic"
    postscript = f"{family.replace(' ', '')}-{style}"
    names = font["name"]
    names.names = [record for record in names.names if record.nameID in (0, 5, 8, 9, 11, 12, 13, 14)]
    for name_id, value in ((1, family), (2, style), (3, postscript), (4, f"{family} {style}"), (6, postscript)):
        names.setName(value, name_id, 3, 1, 0x409)
    font["OS/2"].usWeightClass = weight
    bold, regular, italic = 0x20, 0x40, 0x01
    plain = 0 if weight == 700 or is_italic else regular
    selected = (bold if weight == 700 else 0) | (italic if is_italic else 0) | plain
    font["OS/2"].fsSelection = (font["OS/2"].fsSelection & ~0x61) | selected
    font["head"].macStyle = int(weight == 700) | 2 * is_italic
    return postscript


def build_fonts() -> None:
    TTF_FOLDER.mkdir(parents=True, exist_ok=True)
    (VENDOR_FOLDER / "fonts").mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        for slug, (family, subsets) in FAMILIES.items():
            for weight, slope in STYLES:
                if slope == "italic" and slug in UPRIGHT_ONLY:
                    continue
                font = merged_face(slug, subsets, weight, slope, Path(folder))
                # The same packages give the same bytes.
                font.recalcTimestamp = False
                even_figures(font)
                postscript = name_face(font, family, weight, slope)
                font.save(TTF_FOLDER / f"{postscript}.ttf")
                font.flavor = "woff2"
                font.save(VENDOR_FOLDER / "fonts" / f"{postscript}.woff2")
            shutil.copy(MODULES / "@fontsource" / slug / "LICENSE", TTF_FOLDER / f"LICENSE-{slug}.txt")


def outline_text(path: RecordingPen, places: int = 3) -> str:
    """Return an outline in SVG path syntax in which every number belongs to a pair, so that it is easy to scale."""
    letters = {"moveTo": "M", "lineTo": "L", "curveTo": "C", "qCurveTo": "Q", "closePath": "Z", "endPath": ""}
    return "".join(
        letters[name] + " ".join(f"{round(value, places):g}" for point in points for value in point)
        for name, points in path.value
    )


def build_icons() -> None:
    """Write the outlines of the listed icons: absolute moves, lines and curves, their bounds, and words to search."""
    found = {}
    for line in (HERE / "icons.txt").read_text(encoding="utf-8").splitlines():
        if line.startswith("#") or not line:
            continue
        name, file, words = (part.strip() for part in line.split(":"))
        outline = SVGPath(MODULES / "bootstrap-icons" / "icons" / f"{file}.svg")
        path, bounds = RecordingPen(), BoundsPen(None)
        outline.draw(path)
        outline.draw(bounds)
        left, top, right, bottom = (round(value, 3) for value in bounds.bounds)
        found[name] = {"d": outline_text(path), "bounds": [left, top, right, bottom], "words": words}
    lines = ",\n".join(f"  {json.dumps(name)}: {json.dumps(icon)}" for name, icon in sorted(found.items()))
    ICONS_FILE.write_text(f"{{\n{lines}\n}}\n", encoding="utf-8")


def absolute(d: str) -> RecordingPen:
    """Return a path of SVG as absolute moves, lines and curves."""
    path = RecordingPen()
    parse_path(d, path)
    return path


def closed_parts(path: RecordingPen) -> RecordingPen:
    """Return those parts of a path that come back to where they began."""
    found, part = RecordingPen(), []
    for name, points in path.value:
        if name == "moveTo":
            part = []
        part.append((name, points))
        if name == "endPath" and len(part) > 2 and math.dist(part[0][1][-1], part[-2][1][-1]) < 0.1:
            part[-1] = ("closePath", ())
        bounds = BoundsPen(None)
        if part[-1][0] == "closePath":
            for command, given in part:
                getattr(bounds, command)(*given)
            left, top, right, bottom = bounds.bounds
            # A dot is a very short line.
            found.value += part if right - left > 1 and bottom - top > 1 else []
    return found


def write_lines(file: Path, found: dict[str, object]) -> None:
    """Write what was found, each on its line, so that a change of one is seen as one."""
    lines = ",\n".join(f"{json.dumps(name)}:{json.dumps(one, separators=(',', ':'))}" for name, one in found.items())
    file.write_text(f"{{\n{lines}\n}}\n", encoding="utf-8")


def words_of(name: str, said: Iterable[str]) -> str:
    """Return the words that something is found by, each once and without those of its name."""
    words = dict.fromkeys(word for text in said for word in re.split(r"[\s_-]+", text.lower()) if word.isalpha())
    return " ".join(word for word in words if word not in name.split() and word not in NO_WORDS)


def is_of_maker(file: str) -> bool:
    """Tell whether a sign is called after a maker or a product."""
    return not MAKERS.isdisjoint(file.split("-")) or file.startswith(CALLED_SO)


def build_line_icons() -> None:
    """Write the icons drawn with one line: its paths, what is filled lightly in two tones, what is always filled."""
    package = MODULES / "@tabler/icons"
    drawn = json.loads((package / "tabler-nodes-outline.json").read_text())
    found = {}
    for file, about in sorted(json.loads((package / "icons.json").read_text()).items()):
        is_variant = any(file.endswith(f"-{ending}") for ending in VARIANTS) and file.rsplit("-", 1)[0] in drawn
        if about["category"] in LEFT_OUT or is_variant or is_of_maker(file) or file not in drawn:
            continue
        name = file.replace("-", " ")
        lines, closed, filled = RecordingPen(), RecordingPen(), RecordingPen()
        for _, shape in drawn[file]:
            path = absolute(shape["d"])
            if shape.get("fill") == "currentColor":
                filled.value += path.value
            if shape.get("stroke") != "none":
                lines.value += path.value
                closed.value += closed_parts(path).value
        one = {"line": outline_text(lines), "closed": outline_text(closed), "filled": outline_text(filled)}
        about_it = {"category": about["category"], "words": words_of(name, map(str, about.get("tags", ())))}
        found[name] = {key: value for key, value in (one | about_it).items() if value}
    write_lines(SIGNS_FOLDER / "lines.json", found)
    shutil.copy(package / "LICENSE", SIGNS_FOLDER / "LICENSE-lines.txt")


# How SVG passes on what is said of a group to what stands in it.
PASSED_ON = ("fill", "fill-rule", "opacity", "fill-opacity", "stroke", "stroke-width", "transform")


def coloured_parts(body: str) -> list[list[object]] | None:
    """Return the filled outlines of a picture with their colours, from back to front; None where it has other things
    than plain fills and lines."""
    root = ElementTree.fromstring(f'<svg xmlns="http://www.w3.org/2000/svg">{body}</svg>')
    found: list[list[object]] = []

    def walk(element: ElementTree.Element, passed: dict[str, str]) -> bool:
        kind = element.tag.split("}")[-1]
        if kind in ("svg", "g"):
            passed = passed | {name: element.get(name, "") for name in PASSED_ON if element.get(name)}
            return all(walk(below, passed) for below in element)
        if kind not in ("path", "circle", "ellipse", "rect"):
            return False
        said = passed | {name: element.get(name, "") for name in PASSED_ON if element.get(name)}
        if "transform" in said or said.get("opacity", "1") != "1" or said.get("fill-opacity", "1") != "1":
            return False
        if said.get("stroke", "none") != "none":
            return False
        path = RecordingPen()
        builder = PathBuilder()
        builder.add_path_from_element(element)
        for d, matrix in zip(builder.paths, builder.transforms, strict=True):
            if matrix:
                return False
            parse_path(d, path)
        if said.get("fill", "#000000") != "none":
            found.append([said.get("fill", "#000000"), outline_text(path, 2)])
        return True

    return found if walk(root, {}) and found else None


def build_coloured() -> None:
    """Write the coloured pictures: their parts from back to front, their category and the words they are found by."""
    package = MODULES / "@iconify-json/fluent-emoji-flat"
    drawn = json.loads((package / "icons.json").read_text())["icons"]
    signs = {
        name: "".join(chr(int(part, 16)) for part in code.split("-"))
        for code, name in json.loads((package / "chars.json").read_text()).items()
    }
    keywords = {
        sign.replace("\ufe0f", ""): words
        for sign, words in json.loads((MODULES / "emojilib/dist/emoji-en-US.json").read_text()).items()
    }
    left_out = set((HERE / "coloured-left-out.txt").read_text(encoding="utf-8").split())
    found = {}
    for category, files in json.loads((package / "metadata.json").read_text())["categories"].items():
        for file in files:
            of_people = category == "People & Body"
            is_tinted = of_people and file.endswith(("-light", "-dark", "-medium", "-facing-right"))
            if category in ("Flags", "Symbols") or is_tinted or file in left_out or is_of_maker(file):
                continue
            parts = coloured_parts(drawn[file]["body"])
            if parts:
                name = file.replace("-", " ")
                words = words_of(name, keywords.get(signs.get(file, "").replace("\ufe0f", ""), ()))
                found[name] = {"parts": parts, "category": category, "words": words}
    write_lines(SIGNS_FOLDER / "coloured.json", dict(sorted(found.items())))
    about = json.loads((package / "info.json").read_text())
    licence = (MODULES / "@tabler/icons/LICENSE").read_text().split("\n\n")
    owner = f"Copyright (c) {about['author']['name']}, {about['license']['url']}"
    text = "\n\n".join(owner if part.startswith("Copyright") else part for part in licence)
    (SIGNS_FOLDER / "LICENSE-coloured.txt").write_text(text)


def copy_scripts() -> None:
    for source, target in SCRIPTS.items():
        text = (MODULES / source).read_text(encoding="utf-8")
        lines = [line for line in text.splitlines() if not line.startswith(("//# sourceMapping", "/*# sourceMapping"))]
        (VENDOR_FOLDER / target).write_text("\n".join(lines) + "\n", encoding="utf-8")
    AXE_FOLDER.mkdir(parents=True, exist_ok=True)
    shutil.copy(MODULES / "axe-core/axe.min.js", AXE_FOLDER / "axe.min.js")


def bundle_scripts() -> None:
    """Bundle what comes in many modules into one that the browser loads as it is."""
    bundler = MODULES / ".bin/esbuild"
    target = VENDOR_FOLDER / "prosemirror.esm.min.js"
    options = ("--bundle", "--format=esm", "--minify", "--legal-comments=none", "--target=es2022")
    subprocess.run([bundler, HERE / "prosemirror.js", *options, f"--outfile={target}"], check=True)


def write_list() -> None:
    """Write the list of shipped third-party packages with their versions and licences."""
    lines = ["# Third-party files shipped with Ypsil", "", "| package | version | licence |", "|---|---|---|"]
    wanted = json.loads((HERE / "package.json").read_text())["dependencies"]
    for name in sorted([*wanted, *BUNDLED_TOO]):
        info = json.loads((MODULES / name / "package.json").read_text())
        lines.append(f"| {name} | {info['version']} | {info['license']} |")
    lines += ["", "Made by `make vendor`; versions are pinned in `vendoring/package-lock.json`.", ""]
    (VENDOR_FOLDER / "README.md").write_text("\n".join(lines))


if __name__ == "__main__":
    build_fonts()
    build_icons()
    build_line_icons()
    build_coloured()
    copy_scripts()
    bundle_scripts()
    write_list()
