"""How somebody wants a file of a report, as it is typed in a form and kept with the file."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any
from urllib.parse import parse_qs, urlsplit

from django.utils.text import slugify

from ypsil.core.choosing import Choices
from ypsil.core.errors import YpsilError
from ypsil.core.export import FORMATS, FileFormat
from ypsil.core.export.base import Delivery, Paper
from ypsil.core.package import PACKAGE
from ypsil.core.report import ReportBody, ReportTable
from ypsil.core.report.choosing import choices_of
from ypsil.core.report.parts import part_of

FILES: dict[str, FileFormat] = {**FORMATS, PACKAGE.ending: PACKAGE}
SIZES = ("1x", "2x", "3x", "4x", "150dpi", "300dpi")
PAPERS: dict[Paper, str] = {
    "": "As the page is laid out",
    "A4": "A4, as many bands on each as have room",
    "Letter": "Letter, as many bands on each as have room",
    "band": "A page for each band",
}
_MOST_SIZES = 8
_LONGEST_VIEW = 4_000


def _query_of(typed: str) -> str:
    """Return the query of an address that somebody typed, or of what follows its question mark.

    >>> _query_of("https://host/r/token/?branch=North#b1"), _query_of("branch=North"), _query_of("https://host/r/token/")
    ('branch=North', 'branch=North', '')
    """
    typed = typed.strip()[:_LONGEST_VIEW]
    return urlsplit(typed).query if "?" in typed or ":" in typed else typed


@dataclass(frozen=True, slots=True)
class Order:
    """A file that is wanted: its kind, of which band or tile (none: the whole report), in which sizes, and how."""

    ending: str
    band: str = ""
    tile: str = ""
    sizes: tuple[str, ...] = ("2x",)
    paper: Paper = ""
    has_bleed: bool = False
    has_numbers: bool = False
    is_outlined: bool = False
    # What readers would choose, as the query of the page's address.
    view: str = ""

    @classmethod
    def of_form(cls, form: Mapping[str, Any], sizes: list[str]) -> Order:
        """Return what a form asks for; raises YpsilError, with what is wrong, for what cannot be had."""
        ending = str(form.get("ending", ""))
        if ending not in FILES:
            raise YpsilError("no such kind of file is made here", remedy="choose one of those that are offered")
        wanted = [size for size in (*sizes, str(form.get("size", ""))) if size.strip()]
        if len(wanted) > _MOST_SIZES:
            raise YpsilError(f"at most {_MOST_SIZES} sizes are made at once", remedy="choose fewer")
        paper = str(form.get("paper", ""))
        made = cls(
            ending=ending,
            band=str(form.get("band", ""))[:16],
            tile=str(form.get("tile", ""))[:16],
            sizes=tuple(dict.fromkeys(wanted)) or ("2x",),
            paper=next((one for one in PAPERS if one == paper), ""),
            has_bleed="bleed" in form,
            has_numbers="numbers" in form,
            is_outlined="outlines" in form,
            view=_query_of(str(form.get("view", ""))),
        )
        for size in made.sizes:
            made.delivery(size)
        return made

    @classmethod
    def of_json(cls, data: Mapping[str, Any]) -> Order:
        return cls(**{**data, "sizes": tuple(data["sizes"])})

    def as_json(self) -> dict[str, Any]:
        """Return it as it is kept; what its kind of file knows nothing of is as usual."""
        usual, said = asdict(Order(self.ending)), asdict(self)
        heeded = {"ending", "band", "tile", "view"}
        heeded |= {"sizes"} if self.format.is_picture else set()
        heeded |= {"paper", "has_bleed", "has_numbers"} if self.ending == "pdf" else set()
        heeded |= {"is_outlined"} if self.ending == "svg" else set()
        kept = {name: said[name] if name in heeded else usual[name] for name in said}
        return {**kept, "sizes": list(kept["sizes"])}

    @property
    def format(self) -> FileFormat:
        return FILES[self.ending]

    @property
    def is_several(self) -> bool:
        """Whether it is several pictures, which come as one ZIP."""
        return self.format.is_picture and len(self.sizes) > 1

    def delivery(self, size: str) -> Delivery:
        return Delivery(
            paper=self.paper,
            has_bleed=self.has_bleed,
            has_numbers=self.has_numbers,
            is_outlined=self.is_outlined,
        ).sized(size)

    def part(self, body: ReportBody) -> ReportBody:
        """Return what of a report is wanted; raises YpsilError for a band or a tile that is not there."""
        return part_of(body, self.band or None, self.tile or None)

    def choices(self, body: ReportBody, tables: Mapping[str, ReportTable]) -> Choices:
        """Return what of the whole report is chosen; raises YpsilError, with what is wrong, for what cannot be."""
        choices = choices_of(body, tables, parse_qs(self.view))
        said = [one for every in choices.problems.values() for one in every]
        if self.view and not choices.made:
            said = said or ["nothing of it can be chosen in this report"]
        if said:
            raise YpsilError(f"the view cannot be had: {' '.join(said)}", remedy="copy its address from the page")
        return choices

    def name(self, body: ReportBody) -> str:
        """Return what the file is called: by the report, and by the band or the tile."""
        said = [body.title]
        band = body.band(self.band) if self.band else None
        tile = body.tile(self.tile) if self.tile else None
        said += [band.message] if band is not None else []
        said += [tile.label()] if tile is not None else []
        stem = slugify(" ".join(said))[:90].strip("-") or "report"
        return f"{stem}.{'zip' if self.is_several else self.ending}"

    @property
    def media_type(self) -> str:
        return "application/zip" if self.is_several else self.format.media_type
