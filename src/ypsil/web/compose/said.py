"""What somebody did, in words: for undo, and for the list of what was done."""

from __future__ import annotations

DONE = {
    "rename": "renamed the report",
    "change_report": "changed the report",
    "set_format": "changed the page's format",
    "restyle": "changed the style",
    "wear_style": "put a house style on",
    "take_template": "took a template",
    "add_band": "added a band",
    "remove_band": "removed a band",
    "move_band": "moved a band",
    "duplicate_band": "duplicated a band",
    "change_band": "changed a band",
    "clear_band": "cleared a band",
    "clear_page": "cleared the page",
    "set_message": "said what a band says",
    "tidy_band": "tidied a band",
    "add_tile": "added a tile",
    "put_instead": "put a tile in a place",
    "swap_visual": "showed something else",
    "connect_tiles": "connected tiles",
    "paste_tiles": "pasted",
    "duplicate_tiles": "duplicated",
    "fill_tile": "put a picture into a tile",
    "empty_tile": "took a picture out of letters",
    "remove_tile": "removed a tile",
    "remove_tiles": "removed tiles",
    "change_tile": "changed a tile",
    "change_tiles": "changed tiles",
    "change_cards": "changed cards",
    "change_looks": "gave a look to charts",
    "set_options": "changed how a tile looks",
    "move_tiles": "moved tiles",
    "resize_tiles": "resized tiles",
    "arrange_tiles": "lined tiles up",
    "turn_tiles": "turned tiles",
    "set_layer": "laid tiles over or under",
    "group_tiles": "grouped tiles",
    "ungroup_tiles": "ungrouped tiles",
    "bring_back_moment": "brought a moment back",
}


def done(label: str) -> str:
    """Return what the label of a change says.

    >>> done("move_tiles"), done("")
    ('moved tiles', 'changed something')
    """
    return DONE.get(label, "changed something")
