"""The command line: over core and files, without Qt until a window is asked for."""
