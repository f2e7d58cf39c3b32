"""What every request passes before it reaches a route: hosts, devices, bounds, habits."""
