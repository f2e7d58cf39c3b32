"""The battery: chemistries, banks of them, how they warm and age."""
