"""Forms made on demand; only the last few are kept, which limits memory."""

from collections.abc import Callable
from typing import Generic, TypeVar

from PySide6.QtWidgets import QStackedWidget, QWidget

KEPT = 4
Page = TypeVar("Page", bound=QWidget)


class FormStack(Generic[Page]):
    """make : makes the page of a key.  widget : the stack to lay out; other pages may be added to it."""

    def __init__(self, make: Callable[[str], Page], kept: int = KEPT) -> None:
        self.widget = QStackedWidget()
        self._make, self._kept = make, kept
        self._pages: dict[str, Page] = {}

    def page(self, key: str) -> Page:
        """The page of a key, which counts as used."""
        page = self._pages.pop(key, None)
        if page is None:
            page = self._make(key)
            self.widget.addWidget(page)
        self._pages[key] = page
        self._drop_oldest()
        return page

    def show(self, key: str) -> Page:
        """Bring the page of a key to the top."""
        page = self.page(key)
        self.widget.setCurrentWidget(page)
        return page

    def _drop_oldest(self) -> None:
        for key in [*self._pages][: -self._kept]:
            if self._pages[key] is not self.widget.currentWidget():
                page = self._pages.pop(key)
                self.widget.removeWidget(page)
                page.deleteLater()
