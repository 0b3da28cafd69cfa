#include "core/limits/judging.h"

namespace pyro {
namespace {

Done judgeDuration(const Limit& limit, const History& history, LimitReading& reading) {
    if (!limit.level)
        return fail(ErrorCode::WrongType, "its level is missing");
    const auto level = inUnitOf(history, limit.level->text);
    if (!level)
        return tl::unexpected(level.error());
    const double seconds = durationAbove(history, *level);
    reading.unit = std::string("s");
    reading.firstOver = crossing(history, *level, true);
    return compare(limit, {seconds, seconds}, {}, reading);
}

} // namespace

// Of the time of all steps, that the hottest place of a part or boundary, or a gauge, is above a level.
constexpr LimitForm durationAboveForm{
    .key = "duration_above",
    .name = "time above a level",
    .choice = "time above a level",
    .unit = "s",
    .parameter = LimitParameter::Level,
    .maxExample = "60 s",
    .marginExample = "10 s",
    .words = [](const Limit& limit) { return "time above " + (limit.level ? limit.level->text : std::string("?")); },
    .judgeHistory = judgeDuration,
};

} // namespace pyro
