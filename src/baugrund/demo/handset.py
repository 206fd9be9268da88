"""A simulated handset: it walks through a house whose true losses nobody knows, and reads levels as a phone would.

What it reads goes in through the same door as what a person types (`AddEntry` of ``readings``).
"""

from __future__ import annotations

import random
from typing import Any

import numpy as np

from baugrund.core.facts.catalogue import Catalogue
from baugrund.core.facts.project import Project
from baugrund.core.facts.signal import Loss
from baugrund.core.signal.field import predicted
from baugrund.core.standards.radio import BANDS, FLOOR_LOSS_DB, FLOOR_MAKES, WALL_LOSS_DB, Band

LESS_DB, MORE_DB = -3.0, 6.0
"""The true loss of a material is that much less or more than the usual [dB]."""
NOISE_DB = 2.0
FAINTEST_DBM = -90.0


def hidden(project: Project, seed: int) -> Project:
    """The project as the house truly is: every material takes off something else than is usual."""
    draw = random.Random(f"losses {seed}")
    usual = {material: losses for material, losses in WALL_LOSS_DB.items()}
    usual |= {f"floor-{make}": FLOOR_LOSS_DB[make] for make in FLOOR_MAKES}  # type: ignore[misc]
    losses = [
        Loss(id=number + 1, make=make, band=band, db=round(max(0.5, db + draw.uniform(LESS_DB, MORE_DB)), 2))
        for number, (make, band, db) in enumerate(
            (make, band, losses[place]) for make, losses in usual.items() for place, band in enumerate(BANDS)
        )
    ]
    return project.changed(losses=tuple(losses))


def walked(
    project: Project,
    catalogue: Catalogue,
    seed: int,
    *,
    walk: str = "before",
    device: str = "phone",
    reads_more_db: float = 0.0,
    spots: int = 30,
    bands: tuple[Band, ...] = ("2.4", "5"),
    noise_db: float = NOISE_DB,
) -> list[dict[str, Any]]:
    """What it reads at spots on its way through all drawn rooms, in each band of the access point that answers.

    Gives values of rows of ``readings``.
    """
    draw = random.Random(f"walk {seed} {walk} {device}")
    truth = predicted(hidden(project, seed), catalogue)
    cells = [(field, cell) for (_, band), field in truth.fields.items() if band == bands[0]
             for cell in range(len(field.cells.points))]  # fmt: skip
    chosen = sorted(draw.sample(range(len(cells)), min(spots, len(cells))))
    found = []
    for field, cell in (cells[number] for number in chosen):
        x, y, _ = field.cells.points[cell]
        for band in bands:
            levels = truth.fields[field.cells.floor_id, band].levels[:, cell]
            if not len(levels):
                continue
            answers = int(np.argmax(levels))
            dbm = round(float(levels[answers]) + reads_more_db + draw.gauss(0, noise_db))
            if dbm < FAINTEST_DBM:
                continue
            sender = truth.fields[field.cells.floor_id, band].senders[answers]
            found.append({
                "walk": walk, "floor_id": field.cells.floor_id, "x_m": float(x), "y_m": float(y), "device": device,
                "band": band, "dbm": float(min(dbm, 0)), "drop_id": sender.drop_id, "generation": sender.generation,
            })  # fmt: skip
    return found
