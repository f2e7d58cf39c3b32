"""The way in: a sentence that is completed becomes a plan, and any plan a sentence."""
