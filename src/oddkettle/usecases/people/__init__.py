"""Reading the box from other devices of the camp's network: who is let in, and as what."""
