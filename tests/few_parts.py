"""A catalogue with one narrow strip alone, so that options are stopped by what is to be had."""

from msgspec.structs import replace

from lumvak.core.catalogue.catalogue import Catalogue

# The only conductor.
ONLY = "nickel-0.1x5"


def few_parts(catalogue: Catalogue) -> Catalogue:
    """The parts without wide or thick conductors."""
    thin = (catalogue.conductors[ONLY],)
    return Catalogue([replace(catalogue.all_parts, conductors=thin)])
