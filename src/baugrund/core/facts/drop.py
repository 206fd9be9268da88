"""A drop: one cable from a closet to one place, and all that later steps need to know of it."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ..standards.cabling import Category
from ..standards.disks import Raid
from .building import Metres
from .drop_kinds import DROP_KINDS, DropKind, KindKey, Variant
from .fact import Fact, Id, ModelKey, Name, Note, PictureKey, Text
from .lines.line import PoeCap, Speed
from .price import Wanted
from .references import ClosetId, DropId, OwnKindId, PathId, PhaseId, RoomId
from .sight import Bearing

Watts = Annotated[float, Field(ge=0, le=100)]
Traffic = Annotated[float, Field(ge=0, le=10_000)]
Length = Annotated[float, Field(gt=0, le=10_000)]
Height = Annotated[float, Field(ge=-10, le=100)]
Megapixels = Annotated[float, Field(ge=0.3, le=64)]
FrameRate = Annotated[float, Field(ge=0.2, le=120)]
Codec = Literal["h264", "h265"]
Quality = Literal["plain", "usual", "fine"]
Share = Annotated[float, Field(ge=0, le=100)]
KeepDays = Annotated[float, Field(gt=0, le=3650)]
Priority = Literal["critical", "high", "low"]
PRIORITIES: tuple[Priority, ...] = ("critical", "high", "low")
Supply = Literal["", "own", "injector", "passive", "transformer"]
Surface = Literal[
    "", "plasterboard", "masonry", "concrete", "timber", "tile", "suspended", "eaves", "mast", "furniture"
]  # fmt: skip
Environment = Literal["dry", "damp", "hot", "outdoor"]
MAX_PHOTOS = 12


class OwnKind(Fact):
    """A kind of the project's own: a name for a kind there is, with its usual figures changed."""

    id: Id
    name: Name
    base: KindKey
    variant: Text = ""
    place: Text = ""
    speed_mbit: Speed = 1000
    poe_class: PoeCap | None = None
    draw_w: Watts = 0.0
    traffic_mbit: Traffic | None = None
    frames_s: FrameRate = 15.0
    codec: Codec = "h264"
    quality: Quality = "usual"
    record_day_percent: Share = 100.0
    record_night_percent: Share = 100.0
    keep_days: KeepDays | None = None
    """How cameras of this kind are recorded."""

    @model_validator(mode="after")
    def _variant_is_known(self) -> OwnKind:
        check_variant(self.base, self.variant)
        return self


class Drop(Fact):
    """One cable from a closet to one place.  None takes the default of the kind."""

    id: Id
    room_id: RoomId
    closet_id: ClosetId
    kind: KindKey
    variant: Text = ""
    """Key of a variant of the kind; empty: the usual one."""
    own_kind_id: OwnKindId | None = None
    behind_id: DropId | None = None
    """The room switch or in-wall access point that feeds it: no run to the closet, no port there."""
    label: Text = ""
    place: Text = ""
    purpose: Text = ""
    in_use: bool = True
    speed_mbit: Speed
    poe_class: PoeCap | None = None
    """PoE class that the device asks for; None: not powered from the closet."""
    supply: Supply = ""
    """How it is powered when not from the closet's ports; passive and own supplies ask nothing of a port."""
    socket: bool | None = None
    """Whether a mains socket is at the place; None: nobody has looked."""
    power_only: bool = False
    draw_w: Watts = 0.0
    """What the device is rated to draw [W]; 0: not known, and on a powered drop its class's most is counted."""
    measured_w: Watts | None = None
    """Watts measured at the port."""
    priority: Priority = "low"
    """Which devices are fed first, and shed last, when watts are short (port priority of ANSI/TIA-1057)."""
    traffic_mbit: Traffic | None = None
    megapixels: Megapixels | None = None
    frames_s: FrameRate = 15.0
    """Frames a second of a camera."""
    codec: Codec = "h264"
    quality: Quality = "usual"
    """How finely its picture is coded."""
    recorder_id: DropId | None = None
    """The recorder or NAS that keeps what a camera films; None: the first recorder on the list."""
    by_service: bool = False
    """An outside service keeps what it films: it loads the line's upstream, and no disk."""
    record_day_percent: Share = 100.0
    record_night_percent: Share = 100.0
    """Share of the day, and of the night, that is recorded [%]: all of it, or what movement takes."""
    keep_days: KeepDays | None = None
    """How long its recording is kept; None: as the goal says."""
    over_wifi: bool = False
    """A device that is joined by Wi-Fi: it takes no run and no port."""
    disks: Annotated[int, Field(ge=1, le=64)] | None = None
    """Disks of a recorder or NAS as they stand; None: nobody has said."""
    disk_tb: Annotated[float, Field(gt=0, le=100)] | None = None
    raid: Raid = "none"
    model: ModelKey | None = None
    """The line of the price lists that a camera, recorder or access point is; a recorder is a drop and a box."""
    lens_model: ModelKey | None = None
    """The line of the lens of a camera that has none of its own."""
    bracket_model: ModelKey | None = None
    """The line of the bracket that a camera hangs from; cameras in one place share one, as many as it holds."""
    disk_model: ModelKey | None = None
    """The line that its disks are."""
    run_m: Length | None = None
    category: Category = "6"
    outdoor_jacket: bool = False
    screened: bool = False
    copper_clad: bool = False
    """Its conductors are of copper-clad aluminium: about 1.6 times the resistance, and no cable for power."""
    environment: Environment = "dry"
    surface: Surface = ""
    """What it is mounted on; the small parts follow from it."""
    existing: bool = False
    """The cable is there already."""
    large_frames: bool = False
    x_m: Metres | None = None
    y_m: Metres | None = None
    """Where it is on the floor's plan; None: somewhere in its room."""
    height_m: Height | None = None
    """Above the floor; None: usual for its place."""
    bearing_deg: Bearing | None = None
    """Where the antenna of an access point points, clockwise from the top of the plan; None: to the top."""
    via_id: PathId | None = None
    """A path that its run is forced onto."""
    avoid_ids: Annotated[tuple[PathId, ...], Field(max_length=60)] = ()
    """Paths that its run is kept off."""
    built_x_m: Metres | None = None
    built_y_m: Metres | None = None
    """Where it came to stand in truth, when that is not where it was set out."""
    built_why: Text = ""
    pulled: bool = False
    """Its cable lies in its place."""
    wanted: Wanted = "must"
    phase_id: PhaseId | None = None
    """The phase in which it is built; None: the first."""
    note: Note = ""
    photos: Annotated[tuple[PictureKey, ...], Field(max_length=MAX_PHOTOS)] = ()

    @model_validator(mode="after")
    def _holds_together(self) -> Drop:
        check_variant(self.kind, self.variant)
        if (self.x_m is None) != (self.y_m is None):
            raise ValueError("a place on the plan needs both x and y")
        if (self.built_x_m is None) != (self.built_y_m is None):
            raise ValueError("a place as built needs both x and y")
        if self.via_id is not None and self.via_id in self.avoid_ids:
            raise ValueError("a run cannot be forced onto a path and kept off it")
        if self.behind_id == self.id:
            raise ValueError("a drop cannot hang behind itself")
        return self

    @property
    def has_run(self) -> bool:
        """Whether a cable of its own goes to a closet."""
        return self.behind_id is None and not self.over_wifi

    @property
    def kind_row(self) -> DropKind:
        return DROP_KINDS[self.kind]

    @property
    def form(self) -> Variant | None:
        """The variant that it is; None: its kind has none."""
        return self.kind_row.variant(self.variant)

    @property
    def lan_ports(self) -> int:
        """Ports that it gives on to drops behind it."""
        return self.form.lan_ports if self.form else 0

    @property
    def busy_mbit(self) -> float:
        """Busy-hour traffic [Mbit/s]: as typed; a camera's by its pixels, frames and codec, a NAS half of its own port
        for one client, else usual for the kind."""
        if self.traffic_mbit is not None:
            return self.traffic_mbit
        if self.power_only:
            return 0.0
        if self.kind == "camera":
            pixels = CAMERA_MP_DEFAULT if self.megapixels is None else self.megapixels
            return camera_mbit(pixels, self.frames_s, self.codec, self.quality)
        if self.kind == "nas":
            return self.speed_mbit / 2
        return self.kind_row.traffic_mbit


def check_variant(kind: str, variant: str) -> None:
    """Raises ValueError when a kind has no such variant."""
    if variant and DROP_KINDS[kind].variant(variant) is None:
        known = ", ".join(v.key for v in DROP_KINDS[kind].variants) or "none"
        raise ValueError(f"a {DROP_KINDS[kind].name.lower()} has no form {variant!r} (there are: {known})")


CAMERA_MBIT = ((2.0, 4.0), (4.0, 6.0), (5.0, 8.0), (8.0, 12.0))
"""Bit rate [Mbit/s] by megapixels, H.264 at 15 frames/s, *default*."""
CAMERA_MP_DEFAULT = 4.0
"""Megapixels of a camera of which nobody has said any, *default*."""
H265_TIMES = 0.6
"""Bit rate in H.265 over that in H.264 at the same picture, *default*."""
FRAMES_POWER = 0.6
"""Bit rate grows with the frames a second to this power, from 15 on, *default*."""


QUALITY_TIMES: dict[Quality, float] = {"plain": 0.7, "usual": 1.0, "fine": 1.4}
"""Bit rate by how finely a picture is coded, over the usual, *default*."""


def camera_mbit(megapixels: float, frames_s: float = 15.0, codec: Codec = "h264", quality: Quality = "usual") -> float:
    """Bit rate of a camera [Mbit/s] by its pixels, × 0.6 in H.265, × (frames/15)^0.6, and by its quality."""
    rate: float = _by_pixels(megapixels) * (frames_s / 15.0) ** FRAMES_POWER
    return rate * (H265_TIMES if codec == "h265" else 1.0) * QUALITY_TIMES[quality]


def _by_pixels(megapixels: float) -> float:
    """The table, straight lines between its points, and in proportion outside it [Mbit/s]."""
    for (low, slow), (high, fast) in pairwise(CAMERA_MBIT):
        if low <= megapixels <= high:
            return slow + (fast - slow) * (megapixels - low) / (high - low)
    pixels, rate = CAMERA_MBIT[0] if megapixels < CAMERA_MBIT[0][0] else CAMERA_MBIT[-1]
    return rate * megapixels / pixels
