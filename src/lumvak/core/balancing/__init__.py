"""Groups over charge and rest: what evens them out, and for how long."""
