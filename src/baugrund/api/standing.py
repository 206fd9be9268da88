"""What follows from the boxes that stand: their ground, the balance, what the job costs; each computed once a state."""

from __future__ import annotations

from baugrund.core.answers.picker import Balance, balance_on, standing_boxes
from baugrund.core.pick.standing import Standing
from baugrund.core.price.costs import JobCosts, costs_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import Ground, grounds_of
from baugrund.store.states import Stored

from .context import Context


def followed_by(works: Context, stored: Stored) -> tuple[int, Standing | None]:
    """Revision and boxes of the last pick of the aim that a project follows; −1 and None before there is one."""
    last = works.projects.last_pick(stored.id, stored.project.settings.aim)
    return (last[0], last[1].standing()) if last else (-1, None)


def grounds_for(works: Context, stored: Stored) -> tuple[Ground, ...]:
    """The ground of every closet, on what is held or on the last pick; closets that nothing touches since the last
    state are not seated again."""
    return _grounds_on(works, stored, *followed_by(works, stored))


def _grounds_on(works: Context, stored: Stored, pick: int, followed: Standing | None) -> tuple[Ground, ...]:
    def make() -> tuple[Ground, ...]:
        catalogue = works.catalogues.of(stored.project)
        standing = standing_boxes(stored.project, catalogue, followed)
        return grounds_of(stored.project, catalogue, standing, works.grounds.latest(stored.id) or ())

    return works.grounds.of(stored, pick, make)


def balance_for(works: Context, stored: Stored) -> Balance:
    """What an edit changes at once."""
    pick, followed = followed_by(works, stored)

    def make() -> Balance:
        grounds = _grounds_on(works, stored, pick, followed)
        return balance_on(stored.project, works.catalogues.of(stored.project), grounds)

    return works.balances.of(stored, pick, make)


def costs_for(works: Context, stored: Stored) -> JobCosts:
    """What a state costs on the boxes that stand."""
    pick, followed = followed_by(works, stored)

    def make() -> JobCosts:
        grounds, catalogue = _grounds_on(works, stored, pick, followed), works.catalogues.of(stored.project)
        return costs_of(stored.project, catalogue, grounds, stack_of(stored.project, catalogue, grounds))

    return works.priced.of(stored, pick, make)
