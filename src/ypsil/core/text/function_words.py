"""Function words that the packaged lists lack, and words with a meaning that they hold.

Stop words are function words: articles, pronouns, prepositions, conjunctions, auxiliary and modal verbs, and adverbs of
degree and time that say nothing by themselves. Chosen by reading the packaged lists and prose of the largest languages
that have one (from memory); tests read them against the Universal Declaration of Human Rights.
"""

from __future__ import annotations

LACKING: dict[str, str] = {
    "en": "being another can may must might shall also will just now get gets got getting one us upon yet ever even "
    "still much many every either neither whether within without since though although however therefore thus "
    "else etc via per toward towards among amongst really quite rather anyway anyone everyone someone something "
    "anything everything nothing somebody anybody everybody nobody somewhere anywhere everywhere nowhere "
    "whoever whatever whichever need needs went goes going go gone im ive youre theyre thats theres",
    "de": "einander sollen wollen will wird worden "
    "ja mehr müssen muss schon sollten wäre wären warum wer immer mal gibt geht sonst etwa wohl eben "
    "halt denn daher dazu darauf davon dafür dabei damit sowie beim vom zum zur ins ans aufs dürfen darf mag "
    "möchte mögen könnten hätte hätten würde ganz gar sehr",
    "fr": "doivent doit devons autres envers uns c'est j'ai n'est s'est qu'il qu'elle qu'on d'un d'une l'on n'a n'ont "
    "y'a plus bien entre vers chez afin lorsque puisque quoi dont lequel laquelle lesquels ainsi aussi toujours "
    "jamais rien ici là puis",
    "es": "deben debe debemos e puede pueden ser si dos así aunque pues cada entonces ahora aquí ahí allí siempre "
    "nunca hacia según mediante hacer hace hacen ir va van",
    "it": "devono deve dobbiamo essi esse uni altri altre altro essere fa molto molti molta può possono quando però "
    "anche così proprio già sempre mai ogni verso senza dopo prima dove poi ecco ci ne gli tra fra nei negli "
    "allo agli sui dai dalle",
    "pt": "devem deve devemos outro outra outros outras é porque pode podem ser ter todos todo toda todas muitos "
    "muita muitas cada então agora aqui ali sempre nunca sob sobre desde até onde pois num numa nuns numas dum "
    "duma pelos pelas aos às nesta neste nessa nesse desta deste dessa desse uns umas",
    "nl": "alle jij we wel wij zei jullie jouw deze erg heel zeer zou zouden mag mogen moeten wil willen gaat gaan "
    "elke elk ieder toen omdat zodat maar ook al altijd nooit vaak",
    "pl": "wobec innych inny inne a ale był była było były by gdy i który która które których oraz przez przy ta te "
    "tego tej ten tych tylko w we z za ze żeby jeszcze też o od u czy bo więc no jako",
    "sv": "också ska skall finns få får fått går göra gör blir bara mer mest många lite sin sitt",
    "da": "bør hverandre kan så skal få får går gør bare mere mest mange meget altid aldrig også fordi men hver især "
    "nok",
    "no": "kan så skal få får går gjør bare mer mest mange mye alltid aldri også fordi men hver særlig nok veldig",
    "ru": "они свой своем своём своими должен должны должна друг друга отношении ко об обо со это эта этот эти "
    "который которая которые также очень",
}  # fmt: skip
# Words that mean something: those that contractions become without their apostrophe (I'll, we'll, he'd), and others
# that stand in the packaged lists by mistake.
MEANT: dict[str, str] = {
    "en": "ill well shell shed hell wed id",
    "fr": "bon bons dos début droite essai force haut mot mots nommé nommée nommés nouveau nouveaux parole personne "
    "personnes pièce sujet valeur état devoir",
    "es": "estado estados",
    "ru": "люди человек время времени день жизнь мира год года году миллионов процентов тысяч важная важное важные "
    "важный прекрасно хорошо спасибо лучше рано пора суть занят занята занято заняты сказал сказала сказать "
    "говорил говорит двадцатый двадцать двенадцатый двенадцать восемнадцатый восемнадцать девятнадцатый "
    "девятнадцать девятый девять десятый десять одиннадцатый одиннадцать пятнадцатый пятнадцать пятый пять "
    "седьмой семнадцатый семнадцать семь тринадцатый тринадцать четырнадцатый четырнадцать шестнадцатый "
    "шестнадцать шестой шесть восьмой восемь",
}  # fmt: skip
# Languages that share most of their function words: the leading one is taken though another is close behind.
SISTERS: tuple[frozenset[str], ...] = (
    frozenset({"da", "no", "sv"}),
    frozenset({"cs", "sk"}),
    frozenset({"es", "pt", "gl", "ca"}),
    frozenset({"ru", "uk", "bg"}),
    frozenset({"hr", "sl"}),
    frozenset({"id", "ms"}),
    frozenset({"nl", "af"}),
)
# Languages that write their nouns with a capital.
CAPITALISING = frozenset({"de", "lb"})
