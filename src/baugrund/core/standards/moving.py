"""How long things are down while they are moved from one network to another.  All are *defaults* of practice, in
minutes; a project sets its own for every step.
"""

from __future__ import annotations

PLUG_MIN = 2.0
"""A cord is pulled and plugged elsewhere."""
RESTART_MIN: dict[str, float] = {
    "access_point": 4, "camera": 2, "door_station": 2, "recorder": 6, "nas": 10, "server": 10, "controller": 8,
    "hub": 3, "phone": 3, "printer": 3, "screen": 2, "console": 2, "reader": 2, "room_switch": 3,
}  # fmt: skip
"""A device of a kind until it works again."""
USUAL_RESTART_MIN = 1.0
"""Of any other kind: it takes a new address."""
LINE_MIN: dict[str, float] = {"fibre": 5, "coax": 10, "dsl": 10, "wireless": 5, "other": 15}
"""A line of a kind until it carries traffic again."""
BRIDGE_MIN = 10.0
"""The provider's box changes between routing and bridge mode, and starts again."""
ROUTER_MIN = 5.0
"""The router starts, and gives addresses."""
WIFI_MIN = 3.0
"""Old radios go off, clients join the new ones by the same name and password."""
RENEW_MIN = 5.0
"""Everything takes an address in its own network."""
KEPT_DAYS = 14
"""The old boxes stay where they are, off, and can be put back."""
