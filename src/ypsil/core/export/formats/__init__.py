"""One file a format, found by the registry."""
