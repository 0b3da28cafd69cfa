// The one feedback interface of long work in the core: it reports a share done and asks whether to stop.
#pragma once

#include <string_view>

namespace pyro {

class Progress {
public:
    virtual ~Progress() = default;
    // share: 0..1, only ever grows; what: the work in hand, for people. Called from the working thread.
    virtual void report(double share, std::string_view what) = 0;
    // True once the user wants the work to stop; the worker then returns ErrorCode::Cancelled, input unchanged.
    virtual bool cancelled() const = 0;
};

class NoProgress final : public Progress {
public:
    void report(double, std::string_view) override {}
    bool cancelled() const override { return false; }
};

// Maps a part of the work onto [from, to] of the whole.
class SubProgress final : public Progress {
public:
    SubProgress(Progress& whole, double from, double to) : m_whole(whole), m_from(from), m_to(to) {}
    void report(double share, std::string_view what) override {
        m_whole.report(m_from + (m_to - m_from) * share, what);
    }
    bool cancelled() const override { return m_whole.cancelled(); }

private:
    Progress& m_whole;
    double m_from;
    double m_to;
};

} // namespace pyro
