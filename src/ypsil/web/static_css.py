"""Style sheets that are made, not written: ``python -m ypsil.web.static_css`` writes them (``make css``).

A tile's place on the grid is a class, since the content policy allows no style attributes.
"""

from pathlib import Path

from ypsil.core.drawing.faces import FALLBACKS, FAMILIES, WEIGHTS

FOLDER = Path(__file__).parent / "static/ypsil"
_GRID_COLUMNS = 24
_MAX_ROW = 1400
_MAX_HEIGHT = 400


def grid_css() -> str:
    """Return the classes of places: columns ``gx`` and ``gw``, rows ``gy`` and ``gh``."""
    rules = [f".gx{column}{{grid-column-start:{column + 1}}}" for column in range(_GRID_COLUMNS)]
    rules += [f".gw{width}{{grid-column-end:span {width}}}" for width in range(1, _GRID_COLUMNS + 1)]
    rules += [f".gy{row}{{grid-row-start:{row + 1}}}" for row in range(_MAX_ROW + 1)]
    rules += [f".gh{height}{{grid-row-end:span {height}}}" for height in range(1, _MAX_HEIGHT + 1)]
    return "/* Made by ypsil.web.static_css. */\n" + "".join(rules) + "\n"


def fonts_css() -> str:
    """Return the font faces that the browser loads when a page uses them."""
    families = dict.fromkeys((*FAMILIES, *FALLBACKS))
    rules = [
        f'@font-face{{font-family:"{family}";font-weight:{weight};font-display:swap;'
        f'src:url("../vendor/fonts/{family.replace(" ", "")}-{style}.woff2") format("woff2")}}'
        for family in families
        for weight, style in WEIGHTS.items()
    ]
    return "/* Made by ypsil.web.static_css. */\n" + "\n".join(rules) + "\n"


if __name__ == "__main__":
    (FOLDER / "grid.css").write_text(grid_css())
    (FOLDER / "fonts.css").write_text(fonts_css())
