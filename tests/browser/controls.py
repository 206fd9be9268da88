"""How the page's own controls are used."""

import re

from playwright.sync_api import Locator


def choice(scope: Locator, label: str) -> Locator:
    """A list of options by its label; its button says what is chosen, then the label."""
    return scope.get_by_role("button", name=re.compile(rf"(^| ){re.escape(label)}$"))


def choose(scope: Locator, label: str, option: str) -> None:
    """Open a list of options and take one, by its words."""
    choice(scope, label).click()
    page = scope.page if isinstance(scope, Locator) else scope
    page.get_by_role("option", name=option, exact=True).click()
