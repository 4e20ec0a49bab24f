#include "bench/instruments/off_watcher.h"

#include <atomic>
#include <csignal>
#include <cstring>
#include <map>
#include <mutex>

#include <fcntl.h>
#include <spawn.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <unistd.h>

#include "bench/programs.h"
#include "watcher/guard.h"

namespace otterstone::bench {

namespace {

using watcher::Guard;
using watcher::Message;

std::atomic<int> pipeEnd{-1}; // read by a signal handler

// What the watcher holds, so that one that was killed can be told anew.
struct Held {
    int id = 0;
    Guard guard;
};
std::mutex mutex;
std::map<std::string, Held> held; // by place
int lastId = 0;

std::string placeOf(const Profile& p, const Address& a) {
    return std::to_string(static_cast<int>(p.by)) + a.text.toStdString();
}

// A terminal and a file take words; whoever reads a pipe to its end would wait for the watcher, too.
bool takesWords(int fd) {
    struct stat s {};
    return ::fstat(fd, &s) == 0 && (S_ISREG(s.st_mode) || ::isatty(fd) == 1);
}

// False: it cannot be started.
bool spawn() {
    int ends[2];
    if (::socketpair(AF_UNIX, SOCK_SEQPACKET | SOCK_CLOEXEC, 0, ends) != 0)
        return false;
    posix_spawn_file_actions_t files;
    posix_spawn_file_actions_init(&files);
    posix_spawn_file_actions_addopen(&files, STDIN_FILENO, "/dev/null", O_RDONLY, 0);
    posix_spawn_file_actions_addopen(&files, STDOUT_FILENO, "/dev/null", O_WRONLY, 0);
    if (!takesWords(STDERR_FILENO))
        posix_spawn_file_actions_addopen(&files, STDERR_FILENO, "/dev/null", O_WRONLY, 0);
    posix_spawn_file_actions_adddup2(&files, ends[1], watcher::kPipe);
    posix_spawn_file_actions_addclosefrom_np(&files, watcher::kPipe + 1);
    posix_spawnattr_t how;
    posix_spawnattr_init(&how);
    sigset_t none;
    sigemptyset(&none);
    posix_spawnattr_setsigmask(&how, &none);
    // A session of its own: what is sent to this program's group does not reach it.
    posix_spawnattr_setflags(&how, static_cast<short>(POSIX_SPAWN_SETSID | POSIX_SPAWN_SETSIGMASK));
    std::string path = programOfOurs("otterstone-watcher");
    char* arguments[] = {path.data(), nullptr};
    pid_t pid = 0;
    const bool begun = ::posix_spawn(&pid, path.c_str(), &files, &how, arguments, environ) == 0;
    posix_spawn_file_actions_destroy(&files);
    posix_spawnattr_destroy(&how);
    ::close(ends[1]);
    if (!begun)
        ::close(ends[0]);
    else if (const int before = pipeEnd.exchange(ends[0]); before >= 0)
        ::close(before);
    return begun;
}

// Never waits: a watcher that takes nothing more has all that matters already.
bool send(const Message& m, int descriptor) {
    const std::string bytes = watcher::encode(m);
    iovec from{const_cast<char*>(bytes.data()), bytes.size()};
    alignas(cmsghdr) char beside[CMSG_SPACE(sizeof(int))] = {};
    msghdr h{};
    h.msg_iov = &from;
    h.msg_iovlen = 1;
    if (descriptor >= 0) {
        h.msg_control = beside;
        h.msg_controllen = sizeof beside;
        cmsghdr* c = CMSG_FIRSTHDR(&h);
        c->cmsg_level = SOL_SOCKET;
        c->cmsg_type = SCM_RIGHTS;
        c->cmsg_len = CMSG_LEN(sizeof(int));
        std::memcpy(CMSG_DATA(c), &descriptor, sizeof descriptor);
    }
    return ::sendmsg(pipeEnd, &h, MSG_DONTWAIT | MSG_NOSIGNAL) >= 0 || errno == EAGAIN;
}

// One that was killed is started again, and told all.
void tell(const Message& m, int descriptor) {
    if (!watches() || send(m, descriptor) || !spawn())
        return;
    for (const auto& [place, h] : held)
        (void)send({Message::What::Guard, h.id, h.guard}, -1);
    (void)send(m, descriptor);
}

void dying(int signal) {
    ::shutdown(pipeEnd, SHUT_RDWR); // the watcher need not wait until a core is written
    std::signal(signal, SIG_DFL);
    std::raise(signal);
}

std::uint16_t crc(const std::string& frame) {
    std::uint16_t sum = 0xffff;
    for (const char c : frame) {
        sum = static_cast<std::uint16_t>(sum ^ static_cast<unsigned char>(c));
        for (int bit = 0; bit < 8; ++bit)
            sum = static_cast<std::uint16_t>((sum & 1) != 0 ? (sum >> 1) ^ 0xa001 : sum >> 1);
    }
    return sum;
}

Guard guardOf(const Profile& p, const Address& a) {
    Guard g;
    g.idleAmps = p.idleAmps;
    if (p.by == Profile::By::Tcp) {
        const auto to = hostPort(a.text, p.tcpPort);
        g.by = Guard::By::Tcp;
        g.where = to ? to->host.toStdString() : std::string();
        g.port = to ? to->port : 0;
    } else {
        g.by = p.by == Profile::By::Serial ? Guard::By::Serial : Guard::By::File;
        g.where = devicePath(a.text).toStdString();
        g.port = p.baud;
        g.parity = p.parity;
    }
    if (p.modbus) {
        g.off = modbusOff(p);
        g.proof = Guard::Proof::Echo;
        return g;
    }
    g.off = p.command("off") + p.ending;
    const std::string state = p.command("state"), amps = p.command("amps");
    if (g.by != Guard::By::File && !(state.empty() && amps.empty())) { // reading a USB instrument waits
        g.proof = state.empty() ? Guard::Proof::Amps : Guard::Proof::State;
        g.question = (state.empty() ? amps : state) + p.ending;
    }
    return g;
}

} // namespace

void beginWatcher() {
    spawn();
    for (const int signal : {SIGSEGV, SIGBUS, SIGFPE, SIGILL, SIGABRT, SIGSYS, SIGTRAP})
        std::signal(signal, dying);
}

bool watches() { return pipeEnd >= 0; }

void guard(const Profile& profile, const Address& address, int descriptor) {
    if (!watches())
        return;
    const std::lock_guard lock(mutex);
    Held& h = held[placeOf(profile, address)];
    h.id = h.id != 0 ? h.id : ++lastId;
    h.guard = guardOf(profile, address);
    if (h.guard.off.empty())
        return;
    tell({Message::What::Guard, h.id, h.guard}, descriptor);
}

void release(const Profile& profile, const Address& address) {
    const std::lock_guard lock(mutex);
    const auto at = held.find(placeOf(profile, address));
    if (at == held.end())
        return;
    const int id = at->second.id;
    held.erase(at);
    tell({Message::What::Release, id, {}}, -1);
}

void watched(const Profile& profile, const Address& address) {
    const std::lock_guard lock(mutex);
    if (const auto at = held.find(placeOf(profile, address)); at != held.end())
        tell({Message::What::Alive, at->second.id, {}}, -1);
}

std::string modbusOff(const Profile& p) {
    const Register& r = p.modbus->actions.at("off");
    const auto words = wordsOf(r, r.value.value_or(0.0), p.modbus->lowWordFirst);
    if (!words || (words->size() != 1 && r.table != Register::Table::Coil))
        return {};
    const bool coil = r.table == Register::Table::Coil;
    std::string frame;
    const auto byte = [&frame](int value) { frame += static_cast<char>(value & 0xff); };
    const auto word = [&byte](int value) { byte(value >> 8), byte(value); };
    if (p.by == Profile::By::Tcp) {
        word(0x6f66); // the answer's, too
        word(0);
        word(6);
    }
    byte(p.modbus->unit);
    byte(coil ? 5 : 6);
    word(r.address);
    word(coil ? (words->front() != 0 ? 0xff00 : 0) : words->front());
    if (p.by == Profile::By::Serial) {
        const std::uint16_t sum = crc(frame);
        byte(sum), byte(sum >> 8);
    }
    return frame;
}

} // namespace otterstone::bench
