// Put before the system's library (LD_PRELOAD): a disk that takes its time, a wall clock that is set while the program
// runs. As asked in the environment:
//   ODD_SYNC_MS   milliseconds that each sync of a file takes
//   ODD_CLOCK     "S:D …": from S seconds after the start on the wall clock is D seconds off
#include <cstdio>
#include <cstdlib>
#include <cstring>

#include <dlfcn.h>
#include <sys/time.h>
#include <time.h>
#include <unistd.h>

namespace {

using ClockGetTime = int (*)(clockid_t, timespec*);

int realClock(clockid_t which, timespec* t) {
    static const auto real = reinterpret_cast<ClockGetTime>(::dlsym(RTLD_NEXT, "clock_gettime"));
    return real(which, t);
}

time_t offNow() {
    const char* at = std::getenv("ODD_CLOCK");
    if (!at)
        return 0;
    static timespec start{};
    timespec now{};
    realClock(CLOCK_MONOTONIC, &now);
    if (start.tv_sec == 0)
        start = now;
    long off = 0, since = 0, by = 0;
    for (int read = 0; std::sscanf(at, " %ld:%ld%n", &since, &by, &read) == 2; at += read)
        off = now.tv_sec - start.tv_sec >= since ? by : off;
    return off;
}

int slowly(const char* name, int descriptor) {
    if (const char* ms = std::getenv("ODD_SYNC_MS"))
        ::usleep(static_cast<useconds_t>(std::atoi(ms)) * 1000);
    return reinterpret_cast<int (*)(int)>(::dlsym(RTLD_NEXT, name))(descriptor);
}

} // namespace

extern "C" {

int clock_gettime(clockid_t which, timespec* t) {
    const int result = realClock(which, t);
    if (which == CLOCK_REALTIME)
        t->tv_sec += offNow();
    return result;
}
int gettimeofday(timeval* t, void*) {
    timespec now{};
    const int result = clock_gettime(CLOCK_REALTIME, &now);
    *t = {now.tv_sec, now.tv_nsec / 1000};
    return result;
}
time_t time(time_t* into) {
    timespec now{};
    clock_gettime(CLOCK_REALTIME, &now);
    if (into)
        *into = now.tv_sec;
    return now.tv_sec;
}
int fsync(int descriptor) { return slowly("fsync", descriptor); }
int fdatasync(int descriptor) { return slowly("fdatasync", descriptor); }
}
