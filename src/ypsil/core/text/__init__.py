"""Words people wrote: tokens, stop words, phrases and term counts.

Each of it is asked for by name: who asks a question of numbers counts no words, and starts sooner.
"""
