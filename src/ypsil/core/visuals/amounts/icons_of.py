"""What pictures of amounts share: a shape that is chosen by its looks."""

from __future__ import annotations

from ypsil.core.visuals.shared.icon_names import IconName
from ypsil.core.visuals.shared.settings import EmphasisOptions, NoteOptions, setting


class PictureOptions(EmphasisOptions, NoteOptions):
    icon: IconName = setting("person", "Icon", "Marks", shows="icon", max_length=60)
