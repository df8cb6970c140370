"""What people wrote: clouds, words in a line, words that mark groups."""
