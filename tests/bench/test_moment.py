"""A moment is one that the log and a reading accept, and it is now."""

import re
from datetime import datetime, timedelta

from lumvak.bench.moment import MOMENT, moment_now


def test_it_is_the_time_of_the_wall() -> None:
    told = moment_now()
    assert re.fullmatch(r"\d{4}-\d\d-\d\d \d\d:\d\d:\d\d", told)
    assert abs(datetime.strptime(told, MOMENT) - datetime.now()) < timedelta(seconds=5)
