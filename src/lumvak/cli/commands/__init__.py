"""All commands of the command line; what they run is loaded once one of them is called."""

from lumvak.cli.commands.afterwards import AFTERWARDS
from lumvak.cli.commands.at_bench import AT_BENCH
from lumvak.cli.commands.installing import INSTALLING
from lumvak.cli.commands.parts import PARTS
from lumvak.cli.commands.project import PROJECT

# In the order in which they are listed: that of the work.
COMMANDS = {item.name: item for item in (*PROJECT, *PARTS, *AT_BENCH, *AFTERWARDS, *INSTALLING)}
