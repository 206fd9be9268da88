"""What it costs to have equipment: bought once, and then every year.  Money in minor units of currency."""

from __future__ import annotations

from ..facts.fact import Fact

HOURS_A_YEAR = 8760
"""365 days of 24 h."""


class Costs(Fact):
    """One-off and yearly costs apart, and both together over the horizon."""

    one_off_minor: int
    licences_minor: int
    """A year."""
    rent_minor: int
    """A year."""
    energy_kwh: float
    """From the mains a year [kWh], the live drops drawing what they run at."""
    energy_minor: int
    """A year."""
    yearly_minor: int
    """All that comes every year."""
    years: int
    horizon_minor: int
    """Bought, and had for so many years."""


def energy_kwh(mains_w: float) -> float:
    """Energy of a year [kWh] at a constant draw [W]."""
    return mains_w * HOURS_A_YEAR / 1000


def costs_of(
    one_off_minor: int, yearly_minor: dict[str, int], mains_w: float, kwh_minor: float, years: int
) -> Costs:  # fmt: skip
    """Costs over so many years.

    ``yearly_minor``: by *licence* and *rent*; ``mains_w``: constant draw from the mains [W]; ``kwh_minor``: price of a
    kilowatt-hour.
    """
    energy = energy_kwh(mains_w)
    licences, rent, power = yearly_minor.get("licence", 0), yearly_minor.get("rent", 0), round(energy * kwh_minor)
    return Costs(
        one_off_minor=one_off_minor,
        licences_minor=licences,
        rent_minor=rent,
        energy_kwh=round(energy, 1),
        energy_minor=power,
        yearly_minor=licences + rent + power,
        years=years,
        horizon_minor=one_off_minor + years * (licences + rent + power),
    )
