"""Cameras, lenses and brackets of the price lists, and what a drop and its view become when one is taken."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple

from pydantic import JsonValue

from ..facts.catalogue import Catalogue
from ..facts.fact import Fact
from ..facts.lines.bracket import Bracket
from ..facts.lines.camera import Camera
from ..facts.lines.lens import Lens
from ..physics.optics import Frame, field_deg, usual_projection


class Form(NamedTuple):
    """A camera at one angle, with the lens that gives it."""

    line: Camera
    frame: Frame
    lens: Lens | None = None
    """None: its own."""

    @property
    def price_minor(self) -> int:
        return self.line.price_minor + (self.lens.price_minor if self.lens else 0)

    @property
    def name(self) -> str:
        return f"{self.line.name} with {self.lens.name}" if self.lens else self.line.name

    def drop_fields(self) -> dict[str, Any]:
        """What a drop is that is this camera."""
        line = self.line
        return {
            "variant": line.camera_form, "poe_class": line.poe_class, "draw_w": line.draw_w,
            "megapixels": round(line.across_px * line.down_px / 1e6, 1), "model": line.key,
            "lens_model": self.lens.key if self.lens else None,
        }  # fmt: skip

    def view_fields(self) -> dict[str, JsonValue]:
        """What its view is, wherever it looks."""
        line = self.line
        return {
            "field_deg": self.frame.across_deg, "across_px": line.across_px, "down_px": line.down_px,
            "projection": line.projection, "light_m": line.light_m,
        }  # fmt: skip


def forms_of(catalogue: Catalogue, in_stock: bool = True) -> tuple[Form, ...]:
    """Cameras, each at its widest and then at its narrowest, by its own lens or by each that fits it."""
    lines = [line for line in catalogue.models if line.in_stock or not in_stock]
    lenses = [line for line in lines if isinstance(line, Lens)]
    return tuple(form for line in lines if isinstance(line, Camera) for form in _angles(line, lenses))


def _angles(line: Camera, lenses: Sequence[Lens]) -> Iterator[Form]:
    if line.field_deg is not None:
        own = dict.fromkeys((line.field_deg, line.narrowest_deg or line.field_deg))
        yield from (Form(line, _frame(line, field)) for field in own)
    for lens in (one for one in lenses if one.lens_mount == line.lens_mount):
        fields = (field_deg(one, line.sensor_mm or 0.0) for one in (lens.focal_mm, lens.longest_mm or lens.focal_mm))
        yield from (Form(line, _frame(line, field), lens) for field in dict.fromkeys(fields))


def _frame(line: Camera, field: float) -> Frame:
    return Frame(field, line.across_px, line.down_px, line.projection or usual_projection(field))


class ModelOffer(Fact):
    """A camera with its lens, or a bracket: what a drop and its view become when it is taken."""

    model: str
    lens: str
    """Empty: its own, or it is a bracket."""
    name: str
    price_minor: int
    in_stock: bool
    drop: dict[str, JsonValue]
    view: dict[str, JsonValue]


class ModelOffers(Fact):
    """What the price lists offer for cameras."""

    cameras: tuple[ModelOffer, ...]
    brackets: tuple[ModelOffer, ...]


def offers_of(catalogue: Catalogue) -> ModelOffers:
    """Every camera with its own lens or each that fits it, and every bracket, in the order of the lists."""
    widest = {(form.line.key, form.lens.key if form.lens else ""): form for form in forms_of(catalogue, False)[::-1]}
    narrowest = {(form.line.key, form.lens.key if form.lens else ""): form for form in forms_of(catalogue, False)}
    cameras = tuple(
        ModelOffer(
            model=key, lens=lens, name=form.name, price_minor=form.price_minor,
            in_stock=form.line.in_stock and (form.lens is None or form.lens.in_stock), drop=form.drop_fields(),
            view=form.view_fields() | {"narrowest_deg": _zoomed(form, narrowest[key, lens])},
        )
        for (key, lens), form in reversed(widest.items())
    )  # fmt: skip
    brackets = tuple(
        ModelOffer(
            model=line.key, lens="", name=line.name, price_minor=line.price_minor, in_stock=line.in_stock,
            drop={"bracket_model": line.key}, view={"bracket_m": line.reach_m},
        )
        for line in catalogue.models
        if isinstance(line, Bracket)
    )  # fmt: skip
    return ModelOffers(cameras=cameras, brackets=brackets)


def _zoomed(widest: Form, narrowest: Form) -> float | None:
    """Angle across at its narrowest [deg]; None: it does not zoom."""
    least = narrowest.frame.across_deg
    return None if least == widest.frame.across_deg else least
