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
                if act.checkable:
                    modes.addAction(made[act.id])
    return made


def _action(window: QMainWindow, act: Act) -> QAction:
    action = QAction(act.text, window)
    if act.keys:
        # Return and Enter both count, wherever they stand on the keyboard.
        keys = dict.fromkeys((act.keys, act.keys.replace("Return", "Enter")))
        action.setShortcuts([QKeySequence(key) for key in keys])
    action.setCheckable(act.checkable)
    action.triggered.connect(lambda _checked=False: getattr(window, act.method)())
    return action
