"""Style sheets that are made, not written: ``python -m ypsil.web.static_css`` writes them (``make css``)."""

from pathlib import Path

from ypsil.core.drawing.faces import FALLBACKS, FAMILIES, ITALICS, UPRIGHT_ONLY, WEIGHTS

FOLDER = Path(__file__).parent / "static/ypsil"


def fonts_css() -> str:
    """Return the font faces that the browser loads when a page uses them."""
    families = dict.fromkeys((*FAMILIES, *FALLBACKS))
    rules = [
        f'@font-face{{font-family:"{family}";font-weight:{weight};{slope}font-display:swap;'
        f'src:url("../vendor/fonts/{family.replace(" ", "")}-{style}.woff2") format("woff2")}}'
        for family in families
        for slope, styles in (("", WEIGHTS), ("font-style:italic;", {} if family in UPRIGHT_ONLY else ITALICS))
        for weight, style in styles.items()
    ]
    return "/* Made by ypsil.web.static_css. */\n" + "\n".join(rules) + "\n"


if __name__ == "__main__":
    (FOLDER / "fonts.css").write_text(fonts_css())
