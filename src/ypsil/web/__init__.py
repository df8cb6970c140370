"""The web application: Django settings, addresses, and one app for each stage of the work."""
