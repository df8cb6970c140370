"""Values that people, files and programs send and nobody expects."""

ODD_TEXTS = (
    "", " ", "²", "१२", "½", "-0", "1e400", "NaN", "inf", "9" * 400, "0000-00-00", "99999-12-31", "2024-13-45",
    "24:61", "null", "\u202eabc", "e\u0301\u0301\u0301", "\u0000", "\ufffd",
    "=1+1", "a\nb", "\t", "👩‍👩‍👧", "مرحبا بالعالم", "x" * 3_000, "{", "<b>", "'\"`", "../..", "%00", "“", "Zürich",
    "\ufeff",
)  # fmt: skip
ODD_NUMBERS = (
    0, -1, 1, 2**31, 2**63, -(2**63), 10**30, 1e300, -1e300, 1.7e308, 5e-324, 1e-300, -0.0, float("inf"),
    float("-inf"), float("nan"), 0.1, 1e15, 123456789.123456789,
)  # fmt: skip

# What JSON can carry and no text may hold.
LONE_SURROGATE = "\ud800"


def odd_json(chance):
    """Return any JSON value, most of them odd."""
    deep = []
    for _ in range(200):
        deep = [deep]
    many = (None, True, False, [], {}, [None], {"type": []}, deep, LONE_SURROGATE, *ODD_TEXTS, *ODD_NUMBERS)
    return chance.choice(many)


class Made:
    """Values that a JSON schema allows, in parts replaced by what it may not allow.

    ``named`` are texts that mean something where the value goes: names of columns, tiles and bands.
    """

    def __init__(self, schema, chance, *, oddness=0.06, named=("a",)):
        self.defs, self.chance, self.oddness, self.named = schema.get("$defs", {}), chance, oddness, named

    def some(self, schema, depth=0):
        if self.chance.random() < self.oddness:
            return odd_json(self.chance)
        if "$ref" in schema:
            return self.some(self.defs[schema["$ref"].rsplit("/", 1)[-1]], depth + 1)
        for name in ("anyOf", "oneOf", "enum"):
            if name in schema:
                chosen = self.chance.choice(schema[name])
                return chosen if name == "enum" else self.some(chosen, depth + 1)
        if "const" in schema:
            return schema["const"]
        makers = {"object": self._object, "array": self._array}
        return makers.get(schema.get("type"), self._plain)(schema, depth)

    def _object(self, schema, depth):
        needed, known, other = (
            schema.get("required", ()),
            schema.get("properties", {}),
            schema.get("additionalProperties"),
        )
        found = {
            name: self.some(part, depth + 1)
            for name, part in known.items()
            if name in needed or "const" in part or (depth < 5 and self.chance.random() < 0.35)
        }
        if not known and isinstance(other, dict):
            found |= {self.chance.choice(self.named): self.some(other, depth + 1) for _ in range(2)}
        return found

    def _array(self, schema, depth):
        if "prefixItems" in schema:
            return [self.some(part, depth + 1) for part in schema["prefixItems"]]
        count = max(schema.get("minItems", 0), self.chance.choice([0, 1, 1, 2]))
        return [self.some(schema.get("items", {}), depth + 1) for _ in range(count)]

    def _plain(self, schema, _):
        kind, chance = schema.get("type"), self.chance
        if kind in ("integer", "number"):
            low, high = schema.get("minimum", 0), schema.get("maximum", 1_000)
            drawn = chance.choice([low, high, low + 1, (low + high) / 2])
            return int(drawn) if kind == "integer" else drawn
        if kind == "string":
            return chance.choice(ODD_TEXTS) if chance.random() < 0.1 else chance.choice(self.named)
        return {"boolean": chance.random() < 0.5, "null": None}.get(kind, odd_json(chance))
