"""One file a check, found by the registry."""
