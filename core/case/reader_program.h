// The program pyrometer-reader as a running process: started for one job, or staying for many.
#pragma once

#include "core/feedback/error.h"

#include <memory>
#include <optional>
#include <string>
#include <sys/types.h>
#include <vector>

namespace pyro {

class ReaderProgram {
public:
    // Errors: ReaderMissing, ReaderCrashed when the system gives no pipe.
    static Result<std::unique_ptr<ReaderProgram>> start(std::vector<std::string> words);
    ~ReaderProgram(); // one that stays ends when nobody writes to it any more
    ReaderProgram(const ReaderProgram&) = delete;
    ReaderProgram& operator=(const ReaderProgram&) = delete;

    // A job for a program that stays; one that is there no longer prints nothing of it.
    void tell(const std::vector<std::string>& words) const;
    // The next line it prints, without its end: nothing after `milliseconds` without one. `closed` once it prints no
    // more.
    std::optional<std::string> line(int milliseconds, bool& closed);
    int waitForEnd(); // as waitpid tells
    void kill() const;

private:
    ReaderProgram(pid_t child, int to, int from) : m_child(child), m_to(to), m_from(from) {}

    pid_t m_child;    // -1: ended
    int m_status = 0; // then
    int m_to;         // a socket
    int m_from;
    std::string m_pending;
};

// Those that stay, waiting for their next job: one is taken or else started, and given back.
class IdleReaders {
public:
    static Result<std::unique_ptr<ReaderProgram>> take(const std::string& program);
    static void giveBack(const std::string& program, std::unique_ptr<ReaderProgram> reader);
};

} // namespace pyro
