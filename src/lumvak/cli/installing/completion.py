"""``lumvak completion``: what shells complete by, made from what commands say of themselves."""

from __future__ import annotations

import argparse
from collections.abc import Callable
from pathlib import Path

from lumvak.cli.command import Command, Flag, Refuse
from lumvak.cli.commands import COMMANDS

TOP = ("--help", "--version", "--install-desktop", "--remove-desktop")


def run(chosen: argparse.Namespace, refuse: Refuse) -> int:
    """Print the completion of a shell."""
    print(SHELLS[chosen.shell](), end="")
    return 0


def _flags(command: Command) -> list[str]:
    return [*(name for it in command.flags for name in it.names if name[0] == "-"), "--help"]


def _plain_value(item: Flag) -> bool:
    """Whether a value follows a flag that is neither a choice nor a file."""
    return item.takes_value and not item.choices and item.settings.get("type") is not Path


def _words(command: Command) -> list[str]:
    """What a command may have in place of a file."""
    return [one for it in command.flags if it.names[0][0] != "-" for one in it.choices]


def bash() -> str:
    """Completion of bash."""
    cases, values = [], []
    for name, item in COMMANDS.items():
        words = " ".join([*_flags(item), *_words(item)])
        cases.append(f"        {name}) words='{words}' ;;")
        for flag in item.flags:
            if flag.names[0][0] != "-" or not (flag.choices or _plain_value(flag)):
                continue
            values.append(f"        {'|'.join(f'{name}:{one}' for one in flag.names)})")
            if flag.choices:
                values.append(r"            local IFS=$'\n'")
                choices = "\n".join(flag.choices)
                values.append(
                    f"""            COMPREPLY=($(compgen -W '{choices}' -- "$current"))"""
                )
            values.append("            return ;;")
    return "\n".join(
        [
            "# Completion of lumvak for bash.",
            "_lumvak() {",
            "    local current=${COMP_WORDS[COMP_CWORD]} before=${COMP_WORDS[COMP_CWORD-1]}",
            "    local command=${COMP_WORDS[1]} words=''",
            "    COMPREPLY=()",
            '    if [ "$COMP_CWORD" = 1 ]; then',
            f"        words='{' '.join([*COMMANDS, *TOP])}'",
            "    else",
            '        case "$command:$before" in',
            *values,
            "        esac",
            '        case "$command" in',
            *cases,
            "        esac",
            "    fi",
            '    COMPREPLY=($(compgen -W "$words" -- "$current"))',
            '    [ "${current#-}" = "$current" ] && COMPREPLY+=($(compgen -f -- "$current"))',
            "    return 0",
            "}",
            "complete -o filenames -o bashdefault -F _lumvak lumvak",
            "",
        ]
    )


def zsh() -> str:
    """Completion of zsh."""
    commands = [f"'{name}:{_quiet(item.says)}'" for name, item in COMMANDS.items()]
    cases = []
    for name, item in COMMANDS.items():
        told = [_for_zsh(flag) for flag in item.flags]
        cases.append(f"        {name}) _arguments -S {' '.join(told)} '--help[say how]' ;;")
    return "\n".join(
        [
            "#compdef lumvak",
            "_lumvak() {",
            f"    local -a commands=({' '.join(commands)})",
            "    if (( CURRENT == 2 )); then",
            "        _describe command commands",
            "        _files",
            f"        compadd -- {' '.join(TOP)}",
            "        return",
            "    fi",
            "    local name=$words[2]",
            "    shift words; (( CURRENT-- ))",
            '    case "$name" in',
            *cases,
            "    esac",
            "}",
            '_lumvak "$@"',
            "",
        ]
    )


def _for_zsh(item: Flag) -> str:
    if item.names[0][0] != "-":
        values = f":({' '.join(item.choices)})" if item.choices else ":_files"
        return f"'*:{item.names[0]}{values}'"
    many = "*" if item.settings.get("action") == "append" else ""
    told = _quiet(item.says)
    after = ""
    if item.takes_value:
        kinds = " ".join(one.replace(" ", r"\ ") for one in item.choices)
        files = "" if _plain_value(item) else "_files"
        after = f":value:({kinds})" if kinds else f":value:{files}"
    return " ".join(f"'{many}{name}[{told}]{after}'" for name in item.names)


def fish() -> str:
    """Completion of fish."""
    lines = ["# Completion of lumvak for fish.", "complete -c lumvak -f -n __fish_use_subcommand"]
    for name, item in COMMANDS.items():
        lines.append(
            f"complete -c lumvak -n __fish_use_subcommand -a {name} -d '{_quiet(item.says)}'"
        )
        under = f"complete -c lumvak -n '__fish_seen_subcommand_from {name}'"
        lines += [f"{under} -a '{' '.join(_words(item))}'"] if _words(item) else []
        for flag in item.flags:
            if flag.names[0][0] != "-":
                continue
            spelled = " ".join(
                f"-l {one[2:]}" if one.startswith("--") else f"-s {one[1:]}" for one in flag.names
            )
            value = ""
            if flag.choices:
                value = (
                    f" -x -a '{' '.join(one.replace(' ', chr(92) + ' ') for one in flag.choices)}'"
                )
            elif flag.takes_value:
                value = " -x" if _plain_value(flag) else " -r"
            lines.append(f"{under} {spelled}{value} -d '{_quiet(flag.says)}'")
    return "\n".join([*lines, ""])


def _quiet(text: str) -> str:
    """What is said, without the signs that shells read."""
    plain = text.replace("%%", "%").split(";")[0].split(":")[0]
    return "".join(sign for sign in plain if sign not in "'\"[]`$\\").strip()


SHELLS: dict[str, Callable[[], str]] = {"bash": bash, "zsh": zsh, "fish": fish}
