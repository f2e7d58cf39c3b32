"""Small simulated outside things that speak the same plain formats as real ones would."""
