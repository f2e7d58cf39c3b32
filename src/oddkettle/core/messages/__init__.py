"""What the core says beside its figures: refusals and cautions."""
