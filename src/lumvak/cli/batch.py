"""Cases that commands read line by line."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from lumvak.cli.told import lines_in, shown
from lumvak.core.spelling import spoken

# What a case that cannot be meant so raises, besides the command's own error.
NO_CASE = (
    ValueError,
    LookupError,
    TypeError,
    AttributeError,
    ArithmeticError,
    OSError,
    RecursionError,
    MemoryError,
)


def run_batch(one: Callable[[Any], dict[str, Any]], wants: str) -> int:
    """Answer every line of JSON with a line; 2 where one was no case, else 0.

    ``wants`` is how a case is written.
    """
    worst = 0
    for line in lines_in():
        if not line.strip():
            continue
        try:
            result = one(json.loads(line))
        except NO_CASE as error:
            result, worst = {"error": f"no case ({shown(error)}); wanted is {wants}"}, 2
        print(json.dumps(result, ensure_ascii=False, default=spoken), flush=True)
    return worst
