"""Which metal lies how near to which: distances through air between different potentials."""
