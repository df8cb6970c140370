"""Accounts: signing up, in and out."""
