"""Signs: icons of one line and small coloured pictures, found by what they mean and drawn as outlines in every file.

Both sets are open and shipped whole, with their licences beside them: the icons of one line come from @tabler/icons
(MIT), the coloured pictures from @iconify-json/fluent-emoji-flat (MIT); ``vendoring/vendor.py`` copies them.
"""

from ypsil.core.drawing.signs.drawing import SignManner, sign_label, sign_shapes
from ypsil.core.drawing.signs.finding import CATEGORIES, Sign, find_signs, is_sign, sign_named

__all__ = ["CATEGORIES", "Sign", "SignManner", "find_signs", "is_sign", "sign_label", "sign_named", "sign_shapes"]
