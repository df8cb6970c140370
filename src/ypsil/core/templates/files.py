"""Templates as files, to be shared: JSON data as their schema says."""

from __future__ import annotations

from pydantic import ValidationError

from ypsil.core.errors import YpsilError
from ypsil.core.report.document import ReportBody
from ypsil.core.templates.filling import filled, page_of
from ypsil.core.templates.model import Template

MAX_BYTES = 4 * 1024 * 1024
_MOST_SAID = 200


def template_file(template: Template) -> bytes:
    """Return a template as a file; what is as usual is left out."""
    return (template.model_dump_json(exclude_defaults=True, indent=1) + "\n").encode()


def template_from(data: bytes) -> Template:
    """Return the template that a file holds; raises YpsilError where it holds none, or one that cannot be laid out."""
    if len(data) > MAX_BYTES:
        raise YpsilError(
            f"the file is larger than {MAX_BYTES // 1024**2} MB, and no template is", remedy="choose another file"
        )
    try:
        # Kinds of tiles are known by their fields, whatever the file says of defaults.
        template = Template.model_validate_json(data)
        filled(template, [], ReportBody(title=template.title, page=page_of(template)))
    except ValidationError as problem:
        first = problem.errors()[0]
        place = " ".join(str(part + 1) if isinstance(part, int) else str(part) for part in first["loc"])
        message = str(first["msg"]).removeprefix("Value error, ")[:_MOST_SAID]
        raise YpsilError(
            f"the file holds no template that can be laid out: {message[:1].lower()}{message[1:]}",
            where=place[:_MOST_SAID],
            remedy="choose a file that was kept from a template's page",
        ) from None
    return template
