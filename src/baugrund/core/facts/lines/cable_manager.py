"""Cable managers."""

from __future__ import annotations

from typing import Literal

from .line import Kind
from .stood import Stood


class CableManager(Stood):
    """What leads cords along between panels and switches."""

    of_kind = Kind(18, "cable manager", "cable managers", ("cable management", "brush panel"))

    kind: Literal["cable manager"] = "cable manager"
