#include "core/evaluate/spot_tracks.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

constexpr double farthest = 0.25; // of the part's largest extent, between two steps

double distance(const Point& a, const Point& b) { return std::hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]); }

const std::vector<Spot>& spotsOf(std::size_t gauge, const Readings& step) {
    static const std::vector<Spot> none;
    return gauge < step.gauges.size() && step.gauges[gauge].derivation ? step.gauges[gauge].derivation->spots : none;
}

struct Pairing {
    double apart;
    std::size_t track;
    std::size_t spot;
};

} // namespace

std::vector<SpotTrack> spotTracks(std::size_t gauge, const std::vector<Readings>& steps,
                                  std::span<const double> partExtent) {
    std::vector<SpotTrack> tracks;
    std::vector<std::size_t> live;
    for (const auto& step : steps) {
        const auto& spots = spotsOf(gauge, step);
        std::vector<Pairing> pairs;
        for (const auto track : live)
            for (std::size_t i = 0; i < spots.size(); ++i) {
                const double apart = distance(tracks[track].path.back(), spots[i].at);
                if (spots[i].part == tracks[track].part && spots[i].part < partExtent.size() &&
                    apart <= farthest * partExtent[spots[i].part])
                    pairs.push_back({apart, track, i});
            }
        std::ranges::stable_sort(pairs, {}, &Pairing::apart);
        std::vector<std::size_t> next;
        std::vector<bool> taken(spots.size());
        const auto put = [&](SpotTrack& track, const Spot& spot) {
            track.steps.push_back(step.step);
            track.path.push_back(spot.at);
            track.value.push_back(spot.value);
        };
        for (const auto& pair : pairs) {
            if (taken[pair.spot] || std::ranges::find(next, pair.track) != next.end())
                continue;
            taken[pair.spot] = true;
            put(tracks[pair.track], spots[pair.spot]);
            next.push_back(pair.track);
        }
        for (const auto track : live)
            if (std::ranges::find(next, track) == next.end())
                tracks[track].gone = step.time;
        for (std::size_t i = 0; i < spots.size(); ++i) {
            if (taken[i])
                continue;
            SpotTrack born;
            born.part = spots[i].part;
            born.partName = spots[i].part < step.parts.size() ? step.parts[spots[i].part].name : std::string();
            born.born = step.time;
            put(born, spots[i]);
            next.push_back(tracks.size());
            tracks.push_back(std::move(born));
        }
        live = std::move(next);
    }
    for (auto& track : tracks) {
        track.hottest = static_cast<std::size_t>(std::ranges::max_element(track.value) - track.value.begin());
        track.moved = distance(track.path.front(), track.path.back());
    }
    return tracks;
}

} // namespace pyro
