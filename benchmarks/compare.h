// Ours against a library's own way, in paired rounds of one run: times, ratio, peak memory, as a row of a Markdown
// table.
#pragma once

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <fmt/format.h>
#include <fstream>
#include <functional>
#include <malloc.h>
#include <tbb/scalable_allocator.h>
#include <vector>

namespace pyro::bench {

using Clock = std::chrono::steady_clock;

inline double secondsOf(const std::function<void()>& work) {
    const auto begin = Clock::now();
    work();
    return std::chrono::duration<double>(Clock::now() - begin).count();
}

inline double median(std::vector<double> values) {
    std::ranges::sort(values);
    return values[values.size() / 2];
}

// Kilobytes that /proc/self/status tells under a name.
inline double statusOf(const std::string& name) {
    std::ifstream status("/proc/self/status");
    for (std::string word; status >> word;)
        if (double value = 0; word == name + ":" && status >> value)
            return value;
    return 0;
}

// Megabytes that a work needs at its peak beyond what was there before it.
inline double peakOf(const std::function<void()>& work) {
    ::malloc_trim(0);
    scalable_allocation_command(TBBMALLOC_CLEAN_ALL_BUFFERS, nullptr);
    std::ofstream("/proc/self/clear_refs") << 5; // the peak is counted from here on
    const double before = statusOf("VmRSS");
    work();
    return (statusOf("VmHWM") - before) / 1024;
}

using Work = std::function<void(int round)>;
struct Rival {
    std::string name;
    Work work;
};

// Rounds of ours and all rivals in turn; a row for each rival. The first round tells the memory and is not timed.
inline void compare(const std::string& what, const Work& ours, const std::vector<Rival>& rivals, int rounds) {
    std::vector<double> own;
    std::vector<std::vector<double>> other(rivals.size());
    const double ownPeak = peakOf([&] { ours(0); });
    std::vector<double> otherPeak;
    for (const auto& rival : rivals)
        otherPeak.push_back(peakOf([&] { rival.work(0); }));
    for (int round = 1; round <= rounds; ++round) {
        const double mine = secondsOf([&] { ours(round); });
        std::vector<double> theirs;
        for (const auto& rival : rivals)
            theirs.push_back(secondsOf([&] { rival.work(round); }));
        own.push_back(mine);
        for (std::size_t i = 0; i < rivals.size(); ++i)
            other[i].push_back(theirs[i]);
    }
    for (std::size_t i = 0; i < rivals.size(); ++i) {
        std::vector<double> ratio;
        for (std::size_t k = 0; k < own.size(); ++k)
            ratio.push_back(other[i][k] / own[k]);
        fmt::print("| {} | {} | {:.1f} ms | {:.1f} ms | {:.1f} | {:.0f} MB | {:.0f} MB |\n", what, rivals[i].name,
                   1e3 * median(own), 1e3 * median(other[i]), median(ratio), ownPeak, otherPeak[i]);
    }
    std::fflush(stdout);
}

} // namespace pyro::bench
