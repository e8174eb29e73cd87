"""Finding a hidden fault on a simulated pack, and what each reading told."""
