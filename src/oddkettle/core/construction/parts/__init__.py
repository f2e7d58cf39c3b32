"""Parts with weights and prices."""
