"""The rules and computation of Ypsil: no Django, no HTTP, no database; runs and is tested alone."""
