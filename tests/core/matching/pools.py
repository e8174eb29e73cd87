"""Pools for the tests of dealing."""

from itertools import combinations

from lumvak.core.matching.pool import Pool, pool_of

TWELVE = (2412, 2398, 2371, 2355, 2340, 2322, 2301, 2287, 2264, 2239, 2215, 2180)


def pool(mah: tuple[int, ...] | list[int], series: int, parallel: int, **more: object) -> Pool:
    cells = [(place, value / 1000.0, None) for place, value in enumerate(mah, 1)]
    return pool_of(cells, series, parallel, **more)  # type: ignore[arg-type]


def least_by_all_ways(values: list[int], series: int, parallel: int) -> int:
    """The least spread of all ways, by plain recursion over what is left."""

    def ways(left: tuple[int, ...]) -> list[tuple[int, ...]]:
        if not left:
            return [()]
        found = []
        for others in combinations(range(1, len(left)), parallel - 1):
            total = left[0] + sum(left[at] for at in others)
            rest = tuple(left[at] for at in range(1, len(left)) if at not in others)
            found += [(total, *more) for more in ways(rest)]
        return found

    return min(max(item) - min(item) for item in ways(tuple(values)))
