// What is printed, without what would drive a terminal.
#pragma once

namespace otterstone::terminal {

/// From now on what is printed moves no cursor and colours no terminal: control characters that names and files may
/// hold are shown as "�".
void printPlainly();

} // namespace otterstone::terminal
