"""Every action in one table: it builds the menus, the key card and the shortcuts."""

from __future__ import annotations

from typing import Final, NamedTuple

MENUS: Final = (("job", "&Job"), ("edit", "&Edit"), ("view", "&View"), ("tools", "&Tools"), ("help", "&Help"))


class Act(NamedTuple):
    """One action: where it stands, what it says, its keys, and the window's method that does it."""

    id: str
    menu: str
    text: str
    keys: str
    method: str
    checkable: bool = False


ACTIONS: Final = (
    Act("new", "job", "&New job", "Ctrl+N", "new_job"),
    Act("open", "job", "&Open…", "Ctrl+O", "open_job"),
    Act("recent", "job", "Open &recent", "", ""),
    Act("demo", "job", "Look round a &finished job", "", "open_demo"),
    Act("demo-other", "job", "One un&der another country's book", "", "open_other_demo"),
    Act("", "job", "", "", ""),
    Act("save", "job", "&Save", "Ctrl+S", "save"),
    Act("save-as", "job", "Save &as…", "Ctrl+Shift+S", "save_as"),
    Act("revert", "job", "Re&vert to the saved job", "", "revert"),
    Act("recover", "job", "&Unsaved work left behind…", "", "recover"),
    Act("", "job", "", "", ""),
    Act("keep-way", "job", "&Keep as a pattern…", "", "keep_way"),
    Act("read-book", "job", "Read a pr&ice book…", "", "read_book"),
    Act("save-book", "job", "Save the price &book as CSV…", "", "save_book"),
    Act("packet", "job", "&Packet as PDF…", "Ctrl+Shift+P", "packet"),
    Act("export", "job", "&Export…", "Ctrl+E", "export"),
    Act("print", "job", "Prin&t…", "Ctrl+P", "print_out"),
    Act("", "job", "", "", ""),
    Act("reopen", "job", "&Come back to these jobs at the next start", "", "keep_open", True),
    Act("quit", "job", "&Quit", "Ctrl+Q", "close"),
    Act("undo", "edit", "&Undo", "Ctrl+Z", "undo"),
    Act("redo", "edit", "&Redo", "Ctrl+Shift+Z", "redo"),
    Act("", "edit", "", "", ""),
    Act("rub", "edit", "Rub out the last &leg", "Ctrl+Backspace", "rub_out"),
    Act("take-fix", "edit", "&Take the first fix", "Ctrl+Return", "take_first_fix"),
    Act("walk", "edit", "Walk w&hat is guessed", "Alt+G", "walk_on"),
    Act("open-all", "edit", "&Open every decision", "", "open_decisions"),
    Act("", "edit", "", "", ""),
    Act("up", "edit", "Rung or size u&p", "Alt+Up", "step_up"),
    Act("down", "edit", "Rung or size &down", "Alt+Down", "step_down"),
    Act("add-car", "edit", "Put a &car in", "", "add_car"),
    Act("remove-car", "edit", "Tak&e the last car out", "", "remove_car"),
    Act("metal", "edit", "Copper or &aluminium", "Alt+M", "swap_metal"),
    Act("method", "edit", "Next &wiring method", "Alt+Y", "next_method"),
    Act("keep-pencil", "edit", "&Keep it in pencil", "Alt+K", "keep_pencil"),
    Act("flip", "edit", "&Flip pen and pencil", "Alt+=", "flip"),
    Act("rub-pencils", "edit", "Rub out the penc&ils", "", "rub_pencils"),
    Act("stage-need", "view", "&Need", "Ctrl+1", "show_need"),
    Act("stage-panel", "view", "Pane&l", "Ctrl+2", "show_panel"),
    Act("stage-place", "view", "Pl&ace", "Ctrl+3", "show_place"),
    Act("stage-run", "view", "&Run", "Ctrl+4", "show_run"),
    Act("stage-wire", "view", "&Wire", "Ctrl+5", "show_wire"),
    Act("stage-parts", "view", "&Parts", "Ctrl+6", "show_parts"),
    Act("stage-build", "view", "&Build", "Ctrl+7", "show_build"),
    Act("stage-prove", "view", "Pr&ove", "Ctrl+8", "show_prove"),
    Act("", "view", "", "", ""),
    Act("pencils", "view", "Pen and pencil &side by side", "Alt+I", "show_pencils"),
    Act("", "view", "", "", ""),
    Act("next-region", "view", "Next re&gion", "F6", "next_region"),
    Act("previous-region", "view", "Pre&vious region", "Shift+F6", "previous_region"),
    Act("list", "view", "Drawing or lis&t", "Alt+L", "swap_list"),
    Act("big", "view", "T&he reading big", "Alt+B", "big_reading"),
    Act("previous-mark", "view", "Previous mar&k", "Ctrl+[", "previous_mark"),
    Act("next-mark", "view", "Next &mark", "Ctrl+]", "next_mark"),
    Act("", "view", "", "", ""),
    Act("text-larger", "view", "Te&xt larger", "Ctrl++", "text_larger"),
    Act("text-smaller", "view", "Text smaller", "Ctrl+-", "text_smaller"),
    Act("text-usual", "view", "Text at its usual si&ze", "Ctrl+0", "text_usual"),
    Act("true-size", "view", "Tr&ue size…", "", "true_size"),
    Act("light", "view", "L&ight", "", "go_light", True),
    Act("dark", "view", "&Dark", "", "go_dark", True),
    Act("contrast", "view", "High &contrast", "", "go_contrast", True),
    Act("system", "view", "As the d&esktop", "", "go_system", True),
    Act("why", "tools", "&Why: go to the slip", "Alt+W", "why"),
    Act("worst", "tools", "&Next worst mark", "Alt+N", "next_worst"),
    Act("practice", "tools", "&Practice on the bench", "Alt+P", "practise"),
    Act("save-log", "tools", "Save the &log as CSV…", "", "save_log"),
    Act("read-log", "tools", "Read a lo&g…", "", "read_log"),
    Act("remind", "tools", "Save &reminders…", "", "save_reminders"),
    Act("meter", "tools", "Read &meter data…", "", "read_meter"),
    Act("stop-reading", "tools", "&Stop reading", "Escape", "stop_reading"),
    Act("invent", "tools", "Try an &invented year", "", "invent_year"),
    Act("save-meter", "tools", "Save meter data as &CSV…", "", "save_meter"),
    Act("guide", "help", "&Guide", "", "show_guide"),
    Act("tour", "help", "A first &look round", "", "look_round"),
    Act("keys", "help", "&Keys and words", "F1", "key_card"),
    Act("connections", "tools", "Wa&ys to connect…", "", "connections"),
    Act("audit", "tools", "&Audit of what is there…", "", "audit"),
    Act("tables", "help", "Ta&bles behind the verdicts", "", "verdict_tables"),
    Act("checked", "help", "What is &checked here", "", "what_is_checked"),
    Act("about", "help", "&About Awlmark", "", "about"),
)
