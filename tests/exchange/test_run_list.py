"""The list of runs as a file."""

import csv
import io

from baugrund.core.reach.runs import runs
from baugrund.exchange.run_list import HEAD, write_runs_csv, write_runs_xlsx
from baugrund.exchange.tables import read_table


def test_every_run_of_the_demo_stands_in_the_list_with_its_pieces(dye_works):
    lines = list(csv.reader(io.StringIO(write_runs_csv(dye_works))))
    found = runs(dye_works)
    assert lines[0] == HEAD
    assert len(lines) - 1 == len(found)
    assert sum(float(line[5]) for line in lines[1:]) == sum(run.length_m for run in found.values())
    assert read_table(write_runs_xlsx(dye_works)).lines == read_table(write_runs_csv(dye_works).encode()).lines
