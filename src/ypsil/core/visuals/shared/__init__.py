"""What several visuals share: axes, marks, curves, settings, words about an answer."""
