"""A project with what it costs on the boxes of its pick."""

from baugrund.core.answers.picker import Picker, standing_boxes
from baugrund.core.price.costs import costs_of
from baugrund.core.stack.told import stack_of
from baugrund.core.standing.ground import grounds_of


def stood(project, catalogue, answer=None):
    """Grounds and stack of a project on the boxes of an answer, or of its least price."""
    followed = answer or Picker(project, catalogue).answer("least_price")
    standing = standing_boxes(project, catalogue, followed.standing() if followed else None)
    grounds = grounds_of(project, catalogue, standing)
    return grounds, stack_of(project, catalogue, grounds)


def priced(project, catalogue, answer=None):
    """What a project costs."""
    return costs_of(project, catalogue, *stood(project, catalogue, answer))
