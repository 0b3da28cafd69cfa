// support: a disk that is full after some bytes of each file, as the system's limit of file sizes makes it.
#pragma once

#include <csignal>
#include <sys/resource.h>

namespace pyro::test {

class SmallDisk {
public:
    explicit SmallDisk(rlim_t bytes) {
        m_signal = std::signal(SIGXFSZ, SIG_IGN); // the write fails instead
        ::getrlimit(RLIMIT_FSIZE, &m_before);
        const rlimit small{bytes, m_before.rlim_max};
        ::setrlimit(RLIMIT_FSIZE, &small);
    }
    ~SmallDisk() {
        ::setrlimit(RLIMIT_FSIZE, &m_before);
        std::signal(SIGXFSZ, m_signal);
    }
    SmallDisk(const SmallDisk&) = delete;
    SmallDisk& operator=(const SmallDisk&) = delete;

private:
    rlimit m_before{};
    void (*m_signal)(int) = SIG_DFL;
};

} // namespace pyro::test
