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
    Act("demo", "job", "Open the cider &yard", "", "open_demo"),
    Act("", "job", "", "", ""),
    Act("save", "job", "&Save", "Ctrl+S", "save"),
    Act("save-as", "job", "Save &as…", "Ctrl+Shift+S", "save_as"),
    Act("revert", "job", "Re&vert to the saved job", "", "revert"),
    Act("", "job", "", "", ""),
    Act("read-book", "job", "Read a pr&ice book…", "", "read_book"),
    Act("save-book", "job", "Save the price &book as CSV…", "", "save_book"),
    Act("packet", "job", "&Packet as PDF…", "Ctrl+P", "packet"),
    Act("export", "job", "&Export list and walls…", "Ctrl+E", "export"),
    Act("", "job", "", "", ""),
    Act("quit", "job", "&Quit", "Ctrl+Q", "close"),
    Act("undo", "edit", "&Undo", "Ctrl+Z", "undo"),
    Act("redo", "edit", "&Redo", "Ctrl+Shift+Z", "redo"),
    Act("", "edit", "", "", ""),
    Act("rub", "edit", "Rub out the last &leg", "Ctrl+Backspace", "rub_out"),
    Act("take-fix", "edit", "&Take the first fix", "Ctrl+Return", "take_first_fix"),
    Act("open-all", "edit", "&Open every decision", "", "open_decisions"),
    Act("", "edit", "", "", ""),
    Act("up", "edit", "Rung or trade size u&p", "Alt+Up", "step_up"),
    Act("down", "edit", "Rung or trade size &down", "Alt+Down", "step_down"),
    Act("add-car", "edit", "Put a &car in", "", "add_car"),
    Act("remove-car", "edit", "Take the last car out", "", "remove_car"),
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
    Act("previous-mark", "view", "Previous mark", "Ctrl+[", "previous_mark"),
    Act("next-mark", "view", "Next &mark", "Ctrl+]", "next_mark"),
    Act("", "view", "", "", ""),
    Act("true-size", "view", "Tr&ue size…", "", "true_size"),
    Act("light", "view", "L&ight", "", "go_light", True),
    Act("dark", "view", "&Dark", "", "go_dark", True),
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
    Act("keys", "help", "&Keys and words", "F1", "key_card"),
    Act("connections", "tools", "Wa&ys to connect…", "", "connections"),
    Act("audit", "tools", "&Audit of what is there…", "", "audit"),
    Act("tables", "help", "Ta&bles behind the verdicts", "", "verdict_tables"),
    Act("checked", "help", "What is &checked here", "", "what_is_checked"),
    Act("about", "help", "&About Awlmark", "", "about"),
)

WORDS: Final = (
    ("up 3, right 22 6, down 5", "a leg: direction and reading; an arrow key types the direction"),
    ("t 16in stone", "through a wall, the heading kept"),
    ("d 64 cover 24in", "a trench, the heading kept"),
    ("out 10in, in 10in", "through the wall the line is on"),
    ("c, b, lb, elbow, k", "corner, box, conduit body, pull elbow or charger at the end of the last leg"),
    ("leg 2 21 6, leg 2 box, leg 5 ambient 50C", "a new reading, or anything else, of a leg by its number"),
    ("rub, rub 3", "rub out the last leg, or leg 3"),
    ("48a, set 40 locked", "charger nameplate; a lower setting that nobody can raise"),
    ("6 cu, 4 al, size open", "pin or open the conductor"),
    ("6 nm, 3/4 emt, pvc40", "method, and size, of the section under the awl"),
    ("breaker 60, ground 8, drop 2", "pin breaker, ground, drop limit; open frees one"),
    ("14-50, hardwired", "how the charger is connected"),
    ("ambient 45C, place attic, sun", "for the leg under the awl"),
    ("attic 50C, roof 60C", "how hot it gets there, for every leg of the line that lies there"),
    (
        "price 12.50, from counter, stock 3, came 4, paid 118, gone",
        "for the part in hand, on the Parts stage; came as 4: another gauge",
    ),
    (
        "tax 8, rate 60, hours charger 1.5, margin 15, rebate 30 cap 500, waste 5, spare 10",
        "what the quote adds to the parts",
    ),
    ("done, done 4, electrician 11, note rock at 40 ft photo 7.jpg", "steps of the work, and notes from the site"),
    ("torque charger-1 50 in-lb, torque panel-1 annex, tight", "a screw's torque; tighten, wiggle, tighten again"),
    ("built 2 22 1, built take 2", "a leg as it was built, beside the plan; taken as the plan"),
    ("read charger 1-2 240.4 V, strike 4 probe on paint, air 68F, sign R. Vale", "the test log, on the Prove stage"),
    ("sleeve 1 emt, cable 0.75in", "pipe over the cable of the leg under the awl; how wide the cable is"),
    ("shared 100, box ring 9.5in3", "one ground for several circuits; an extension ring on a box"),
    ("code 2020, service 150, name …", "rule book, service rating, name of the job"),
    ("48a 60ft emt", "a whole quote on an empty tape"),
    ("load tub 30a, panel shed 60a, on shed", "another load; a sub-panel with its feeder; where the circuit hangs"),
    ("spaces 20 tandem 13, slot 1 30a 2p dryer", "the panel's spaces and what is in them; quad, main, solar too"),
    ("slot 5 free, open, filler, idle proved both", "an empty space and its cover; an idle breaker and its proof"),
    ("move 5 to 11, knockout top 3/4, knockout k1 run", "set a breaker elsewhere; a knockout; where the run begins"),
    ("bus 200a, accepts YF, clear 30in 36in 78in", "bus bars, breaker types it takes, room before the panel"),
    ("split 2 at 10, insert 3 up 2, round 2 at 10 up 2 wide 3", "a leg in two, one between, a step round something"),
    ("slide 2 up 1, reverse 2, offset 4in 45, saddle 2in", "a leg sideways with its neighbours; steps within it"),
    ("surface street, exposed no, slip, mount inside, edge 1 1/4in", "what the leg under the awl meets"),
    (
        "layers plaster 1in, stone 15in; fire; lift 2in; bent hand",
        "a wall's build-up; height above a roof; a hand bend",
    ),
    ("box 4 x 2-1/8 square, box 30.3 in3, spliced", "the box at the end of a leg, and whether wires are spliced in it"),
    ("disconnect yes, separate yes", "a lockable disconnect by the charger; a post or outbuilding of its own"),
    (
        "local nm no, local terminals 60, local ground 8",
        "what the authority changes; also raceway, drop, gfci, surge, label",
    ),
    ("seen browned, seen double tap, seen loose", "on a circuit that is there already; Tools, Audit"),
    ("lug charger 10 to 4 copper 50 lbf-in", "what a terminal's label says: gauges, metal, torque; lug panel too"),
    (
        "overrule inspector agreed on site",
        "sets the finding in the slip aside, with a reason that prints; overrule none",
    ),
    ("bond raceway, bond wire", "metal raceway as the ground, or a wire pulled for it"),
    ("form table 9, form working", "how the drop is worked out: Table 8, Table 9, or at working temperature"),
    ("site -15C to 45C, site now 12C", "weather of plastic pipe, and the day it is set"),
    (
        "room Shop 24x20 at -4 -20, other Duct 2x1 at 6 -1 low 7 high 8",
        "the floor: size, then east and north of the panel; foot and top above the floor",
    ),
    ("pin B at 87 0, pin B here, pin B post, bay North at 92 -4", "a spot for the charger; a parking spot"),
    ("cord 20ft, band 24in to 54in", "the charger's cord, and the heights its maker gives"),
    ("[ and ]", "previous and next mark, while the Entry is empty"),
)
"""What can be typed, for the key card."""
