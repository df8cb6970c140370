"""What the models of settings say of their fields, as JSON Schema (2020-12)."""

from __future__ import annotations

import functools
from typing import Any

from pydantic import BaseModel


@functools.cache
def fields_of(model: type[BaseModel]) -> dict[str, dict[str, Any]]:
    """Return the schema of each field of a model by its name; made once, so nobody changes it."""
    found: dict[str, dict[str, Any]] = model.model_json_schema().get("properties", {})
    return found
