// Put before every source in the tsan preset. Debian's Qt is not built for ThreadSanitizer, so it cannot see that what
// is handed over by a queued signal was written before it is read. Here that is said: each emission gives, each event
// that is delivered takes. One thing is given and taken by all, so a race that hides behind two such steps is not seen.
#pragma once

#if defined(__cplusplus) && defined(QT_CORE_LIB)
#include <QtCore/qnamespace.h>
#include <QtCore/qobjectdefs.h>
#include <sanitizer/tsan_interface.h>

namespace otterstone::tsan {

inline char handover;
inline void give() { __tsan_release(&handover); }
inline bool take(void**) {
    __tsan_acquire(&handover);
    return false; // the event goes its way
}
inline const bool registered = QInternal::registerCallback(QInternal::EventNotifyCallback, take);

} // namespace otterstone::tsan

#undef Q_EMIT
#define Q_EMIT ::otterstone::tsan::give(),
#endif
