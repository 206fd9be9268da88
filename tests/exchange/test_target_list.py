"""The list of targets as a file."""

import csv
import io

from baugrund.core.sight.targets import targets_of
from baugrund.exchange.tables import read_table
from baugrund.exchange.target_list import HEAD, write_targets_csv, write_targets_xlsx


def test_every_target_stands_in_the_list_with_every_view_that_has_it_in_frame(dye_works):
    lines = list(csv.reader(io.StringIO(write_targets_csv(dye_works))))
    found = targets_of(dye_works)
    assert lines[0] == HEAD
    assert len(lines) - 1 == sum(max(1, len(target.sightings)) for target in found)
    hatch = next(line for line in lines if line[0] == "Delivery hatch")
    assert (hatch[4], hatch[6], hatch[7]) == ("recognise", "no", "observe")
    assert read_table(write_targets_xlsx(dye_works)).lines == read_table(write_targets_csv(dye_works).encode()).lines
