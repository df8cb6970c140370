"""How it spreads: distributions of single values."""
