"""Writes the man page and the completions of bash, zsh and fish from the table of options: `python tools/pages.py`."""

from __future__ import annotations

from pathlib import Path
from typing import Final

from awlmark import __version__
from awlmark.options import COMMANDS, STATUSES, Command, Option, told

FOLDER: Final = Path(__file__).parent.parent / "packaging"


def _roff(text: str) -> str:
    """Text as a man page takes it."""
    text = text.replace("\\", "\\e").replace("-", "\\-")
    return f"\\&{text}" if text.startswith((".", "'")) else text


def man() -> str:
    """The man page of section 1."""
    lines = [
        f'.TH AWLMARK 1 "" "awlmark {__version__}" "User Commands"', ".SH NAME",
        _roff("awlmark - design the branch circuit for an electric-vehicle charger"),
        ".SH SYNOPSIS", ".B awlmark", "[\\fIFILE\\fR ...]", ".br",
        ".B awlmark", "\\fICOMMAND\\fR [\\fIOPTIONS\\fR]", ".SH DESCRIPTION",
        "Without a command the window opens: on the jobs given, by path or by file:// address, each in a window of its",
        "own; a program that runs already takes them over.", ".PP",
        "Planning aid only: local code and a licensed electrician decide.", ".SH COMMANDS",
    ]  # fmt: skip
    for each in COMMANDS:
        lines += [".SS " + _roff(f"awlmark {each.name}"), _roff(each.says)]
        for option in each.options:
            value = f" \\fI{_roff(option.value)}\\fR" if option.name.startswith("-") and option.value else ""
            name = option.name if option.name.startswith("-") else option.value
            lines += [".TP", f"\\fB{_roff(name)}\\fR{value}", _roff(f"{told(option)}.")]
        lines += [".PP", "Examples:"]
        for example in each.examples:
            lines += [".PP", f".RS 4\n{_roff(example)}\n.RE"]
    lines += [".SH EXIT STATUS"]
    for number, says in STATUSES:
        lines += [".TP", f"\\fB{number}\\fR", _roff(f"{says}.")]
    lines += [".SH FILES"]
    for name, says in (
        ("~/.config/awlmark/awlmark.ini", "Preferences; nothing in it changes a result."),
        ("~/.local/state/awlmark", "Autosaves, logs, the score of the practice bench."),
    ):
        lines += [".TP", _roff(name), says]
    return "\n".join(lines) + "\n"


def _words(each: Command) -> list[Option]:
    return [option for option in each.options if option.name.startswith("--")]


def bash() -> str:
    """Completion for bash."""
    cases = []
    for each in COMMANDS:
        words = " ".join(option.name for option in _words(each))
        cases.append(f'    {each.name}) words="{words} --help" ;;')
    values = [
        f'    {each.name}:{option.name}) COMPREPLY=($(compgen -W "{" ".join(option.choices)}" -- "$cur")); return ;;'
        for each in COMMANDS
        for option in _words(each)
        if option.choices
    ]
    names = " ".join(each.name for each in COMMANDS)
    return f"""# Completion of awlmark for bash; written by tools/pages.py
_awlmark() {{
  local cur=${{COMP_WORDS[COMP_CWORD]}} prev=${{COMP_WORDS[COMP_CWORD-1]}} words=""
  if [ "$COMP_CWORD" -eq 1 ]; then
    COMPREPLY=($(compgen -W "{names} --help --version" -- "$cur") $(compgen -f -X '!*.awlmark' -- "$cur"))
    return
  fi
  case "${{COMP_WORDS[1]}}:$prev" in
{chr(10).join(values)}
  esac
  case "${{COMP_WORDS[1]}}" in
{chr(10).join(cases)}
  esac
  case "$cur" in
    -*) COMPREPLY=($(compgen -W "$words" -- "$cur")) ;;
    *) COMPREPLY=($(compgen -f -- "$cur")) ;;
  esac
}}
complete -o filenames -F _awlmark awlmark
"""


def _zsh_text(text: str) -> str:
    return text.replace("'", "").replace("[", "(").replace("]", ")").replace(":", "\\:")


def zsh() -> str:
    """Completion for zsh."""
    names = "\n".join(f"    '{each.name}:{_zsh_text(each.says)}'" for each in COMMANDS)
    cases = []
    for each in COMMANDS:
        rows = []
        for option in each.options:
            if not option.name.startswith("--"):
                rows.append("'*:file:_files'")
            elif not option.value:
                rows.append(f"'{option.name}[{_zsh_text(option.says)}]'")
            else:
                values = f"({' '.join(option.choices)})" if option.choices else ""
                rows.append(f"'{option.name}=[{_zsh_text(option.says)}]:{option.value.lower()}:{values}'")
        cases.append(f"    {each.name}) _arguments {' '.join(rows)} ;;")
    return f"""#compdef awlmark
# Completion of awlmark for zsh; written by tools/pages.py
_awlmark() {{
  local -a commands=(
{names}
  )
  if (( CURRENT == 2 )); then
    _describe command commands
    _files -g '*.awlmark'
    return
  fi
  local command=$words[2]
  shift words
  (( CURRENT-- ))
  case $command in
{chr(10).join(cases)}
  esac
}}
_awlmark "$@"
"""


def fish() -> str:
    """Completion for fish."""
    lines = ["# Completion of awlmark for fish; written by tools/pages.py"]
    for each in COMMANDS:
        says = each.says.replace("'", "")
        lines.append(f"complete -c awlmark -n __fish_use_subcommand -a {each.name} -d '{says}'")
        for option in _words(each):
            told_of = option.says.replace("'", "")
            values = f" -x -a '{' '.join(option.choices)}'" if option.choices else " -r" if option.value else ""
            seen = f"__fish_seen_subcommand_from {each.name}"
            lines.append(f"complete -c awlmark -n '{seen}' -l {option.name[2:]}{values} -d '{told_of}'")
    return "\n".join(lines) + "\n"


PAGES: Final = {
    "awlmark.1": man, "completions/bash/awlmark": bash, "completions/zsh/_awlmark": zsh,
    "completions/fish/awlmark.fish": fish,
}  # fmt: skip


def main() -> None:
    """Write them all."""
    for name, made in PAGES.items():
        (FOLDER / name).write_text(made(), encoding="utf-8")


if __name__ == "__main__":
    main()
