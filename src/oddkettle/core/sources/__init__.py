"""What charges the bank: sun, vehicle, mains. Weather or schedule in, an offer out."""
