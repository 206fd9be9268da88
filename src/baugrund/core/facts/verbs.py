"""The steps of the work, in order: a verb each."""

from typing import Literal, get_args

Verb = Literal["brief", "walk", "cover", "reach", "load", "pick", "stack", "patch", "price", "prove"]
VERBS: tuple[Verb, ...] = get_args(Verb)
