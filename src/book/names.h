// The book calls its banks, gear and runs by their plain names.
#pragma once

namespace otterstone::records {}

namespace otterstone::book {

using namespace records;

} // namespace otterstone::book
