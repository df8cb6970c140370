"""Text widths against the browser's own: 200 strings in each shipped face, within 1%."""

import random

import pytest

from ypsil.core.drawing import Font, text_width
from ypsil.core.drawing.faces import FALLBACKS, FAMILIES, face

pytestmark = pytest.mark.browser

MEASURE = """async ([family, weight, texts]) => {
  await document.fonts.load(`${weight} 40px "${family}"`, texts.join(""));
  const svg = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  svg.setAttribute("text-rendering", "geometricPrecision");
  document.body.append(svg);
  const widths = texts.map((text) => {
    const node = document.createElementNS("http://www.w3.org/2000/svg", "text");
    node.setAttribute("font-family", `"${family}"`);
    node.setAttribute("font-weight", weight);
    node.setAttribute("font-size", "40");
    node.textContent = text;
    svg.append(node);
    return node.getComputedTextLength();
  });
  svg.remove();
  return widths;
}"""
LETTERS = {
    "Noto Sans Hebrew": "אבגדהוזחטיכלמנסעפצקרשת",
    "Noto Sans Arabic": "ابتثجحخدذرزسشصضطظعغفقكلمنهوي",
}
LATIN = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyzàéîöüßçñø0123456789.,:;!?&%£€()-–—’“”"
PHRASES = ("Visits per month", "AVATAR Wave To", "fficient office", "1,204.50", "Market Square", "Łódź", "“quoted”")


def strings(family):
    chance = random.Random(family)
    letters = [letter for letter in LETTERS.get(family, LATIN) if ord(letter) in face(family, 400).characters]
    fixed = [] if family in LETTERS else list(PHRASES)
    made = ["".join(chance.choices(letters, k=chance.randint(2, 24))) for _ in range(200 - len(fixed))]
    return fixed + made


@pytest.mark.parametrize("weight", [400, 700])
@pytest.mark.parametrize("family", dict.fromkeys((*FAMILIES, *FALLBACKS)))
def test_widths_agree_with_the_browser(page, server, family, weight):
    texts = strings(family)
    page.goto(server + "/sign-in/")
    measured = page.evaluate(MEASURE, [family, str(weight), texts])
    assert len(measured) == 200
    ours = [text_width(text, Font(family, 40, weight)) for text in texts]
    apart = {
        text: (own, theirs)
        for text, own, theirs in zip(texts, ours, measured, strict=True)
        if abs(own / theirs - 1) > 0.01
    }
    assert apart == {}
