"""All that the search field of the window can go to: foundations, columns, checks, combinations, tables, commands,
recent files."""

from functools import partial
from typing import TYPE_CHECKING

from korbent.app.beginnings import beginnings
from korbent.app.commands import COMMANDS, command
from korbent.app.search import Entry
from korbent.app.stops import signposts
from korbent.app.tables.titles import OF_TABLES
from korbent.core.model import Settings
from korbent.core.model.labels import label
from korbent.core.model.setting_words import DOES
from korbent.files.autosave import recent_files
from korbent.words import say

if TYPE_CHECKING:
    from korbent.app.window import MainWindow


def places(window: "MainWindow") -> list[Entry]:
    """All that the search field can go to."""
    session = window.session
    project = session.project

    found = [
        Entry(
            p.name,
            say("{kind} under {load_point}", kind=label(p.kind), load_point=p.load_point),
            partial(session.select, p.name),
        )
        for p in project.pads
    ]
    carried = {name: p.name for p in project.pads for name in p.carries}
    for point in project.actions.load_points:
        pad = carried.get(point.name)
        detail = (
            say("{kind} on {pad}", kind=label(point.kind), pad=pad)
            if pad
            else say("{kind}, not designed", kind=label(point.kind))
        )
        found.append(
            Entry(
                point.name,
                detail,
                partial(session.select, pad) if pad else partial(window.show_table, "points"),
            )
        )
    if session.result:
        for check in session.result.checks:
            found.append(
                Entry(
                    check.check.title,
                    say("check of {foundation}: {state}", foundation=check.foundation, state=check.state.word),
                    partial(session.select_check, check.check.id),
                )
            )
    found += [
        Entry(
            say("Combination {label}", label=label),
            say("shown in every drawing and working"),
            partial(session.choose_situation, label),
        )
        for label in session.labels()
    ]
    found += [Entry(post.title, command(post.key).keys[0], partial(window.go_to, post.key)) for post in signposts.RAIL]
    for soil in project.ground.soils:
        found.append(Entry(soil.name, "soil", lambda: window.show_table("soils")))
    for _, name, title in OF_TABLES:
        found.append(Entry(title, "table", partial(window.show_table, name)))
    found += [
        Entry(
            Settings.model_fields[name].title or name,
            say("setting: {does}", does=DOES[name]),
            partial(window.show_table, f"settings:{name}"),
        )
        for name in DOES
        if name != "presumed_table"
    ]
    found += [Entry(one.text, say("begin with it"), one.begin) for one in beginnings(window)]
    stops = COMMANDS[: len(signposts.RAIL)]
    for one in COMMANDS:
        if one.searched and one not in stops:
            keys = f"{one.keys[0]} · " if one.keys else ""
            found.append(Entry(one.name, f"{keys}{one.does}", partial(one.act, window)))
    for path in recent_files():
        found.append(
            Entry(
                path.name, say("recent file in {parent}", parent=path.parent), partial(window.files.open_recent, path)
            )
        )
    return found
