"""Menus and shortcuts, built from the table of actions."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtGui import QAction, QActionGroup, QKeySequence
from PySide6.QtWidgets import QMainWindow, QMenu

from awlmark.desk.actions import ACTIONS, MENUS, Act


def build_menus(window: QMainWindow, fill_recent: Callable[[QMenu], None]) -> dict[str, QAction]:
    """Build the menu bar of a window that has a method for every action.

    Parameters
    ----------
    window : QMainWindow
        Its methods are named in the table.
    fill_recent : callable
        Fills the menu of recent files each time it opens.

    Returns
    -------
    dict of str to QAction
        By the action's id.
    """
    bar = window.menuBar()
    bar.setNativeMenuBar(False)
    bar.setMinimumHeight(26)
    modes = QActionGroup(window)
    made: dict[str, QAction] = {}
    for key, title in MENUS:
        menu = bar.addMenu(title)
        for act in (act for act in ACTIONS if act.menu == key):
            if not act.id:
                menu.addSeparator()
            elif act.id == "recent":
                recent = menu.addMenu(act.text)
                recent.aboutToShow.connect(lambda recent=recent: fill_recent(recent))
                made[act.id] = recent.menuAction()
            else:
                made[act.id] = _action(window, act)
                menu.addAction(made[act.id])
                if act.checkable and key == "view":
                    modes.addAction(made[act.id])
    return made


def name_stages(made: dict[str, QAction], titles: dict[str, str]) -> None:
    """Call the stages in the menu what they are called under a rule book.

    Parameters
    ----------
    made : dict of str to QAction
        By the action's id.
    titles : dict of str to str
        Title of each stage.
    """
    own = {act.id: act.text for act in ACTIONS if act.menu == "view"}
    other = {act for stage, title in titles.items() if own[act := f"stage-{stage}"].replace("&", "") != title}
    taken = {_letter(text) for act, text in own.items() if act not in other}
    for stage, title in titles.items():
        text = own[f"stage-{stage}"]
        if f"stage-{stage}" in other:
            at = next((at for at, letter in enumerate(title) if letter.lower() not in taken), -1)
            text = f"{title[:at]}&{title[at:]}" if at >= 0 else title
            taken.add(_letter(text))
        made[f"stage-{stage}"].setText(text)


def _letter(text: str) -> str:
    """The letter that takes an action in its menu; empty for none."""
    return text.partition("&")[2][:1].lower()


def _action(window: QMainWindow, act: Act) -> QAction:
    action = QAction(act.text, window)
    if act.keys:
        # Return and Enter both count, wherever they stand on the keyboard.
        keys = dict.fromkeys((act.keys, act.keys.replace("Return", "Enter")))
        action.setShortcuts([QKeySequence(key) for key in keys])
    action.setCheckable(act.checkable)
    action.triggered.connect(lambda _checked=False: getattr(window, act.method)())
    return action
