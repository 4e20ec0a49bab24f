// What is written down of a run and what it rests on, the folders of the kinds call by their plain names.
#pragma once

namespace otterstone::records {}
namespace otterstone::setup {}

namespace otterstone::kinds {

using namespace records;
using namespace setup;

} // namespace otterstone::kinds
