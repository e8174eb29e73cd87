"""Commands about a whole project: sized, begun, checked, evaluated, explained, exported."""
