"""Clients of outside things. Each says plainly when its thing is away."""
