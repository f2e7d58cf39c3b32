"""HTTP: thin routers over the services."""
