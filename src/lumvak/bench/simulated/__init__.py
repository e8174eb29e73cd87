"""The simulated bench: one pack, and instruments on it that speak SCPI over loopback sockets."""
