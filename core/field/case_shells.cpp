#include "core/field/case_shells.h"

#include "core/case/store.h"

#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int shellsVersion = 1;
constexpr const char* shellsEnding = ".shells";

Result<std::shared_ptr<const CaseShells>> fromFile(const Case& solved) {
    auto file = openBesideStore(solved, shellsEnding, shellsVersion);
    if (!file)
        return tl::unexpected(file.error());
    auto shells = std::make_shared<CaseShells>();
    for (std::size_t i = 0; i < solved.parts.size(); ++i) {
        const auto array = [&](const char* name) {
            return (*file)->array<std::uint32_t>(fmt::format("{}/{}", i, name));
        };
        shells->parts.push_back({array("nodes"), array("offsets"), array("cell")});
    }
    shells->file = std::move(*file);
    return shells;
}

} // namespace

Result<std::shared_ptr<const CaseShells>> shellsOf(const Case& solved, Progress& progress) {
    if (auto known = fromFile(solved))
        return known;
    ArrayFileWriter writer(besideStore(solved, shellsEnding));
    for (std::size_t i = 0; i < solved.parts.size(); ++i) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "preparing the case was cancelled", solved.file);
        progress.report(static_cast<double>(i) / static_cast<double>(solved.parts.size()),
                        "outer faces of " + solved.parts[i].name);
        const auto shell = outerFaces(solved.parts[i], solved.plane.has_value());
        const auto add = [&](const char* name, const std::vector<std::uint32_t>& values) {
            writer.add(fmt::format("{}/{}", i, name), std::span(values));
        };
        add("nodes", shell.nodes);
        add("offsets", shell.offsets);
        add("cell", shell.cell);
    }
    if (auto written = writer.finish(besideStoreMeta(solved, shellsVersion)); !written)
        return tl::unexpected(written.error());
    return fromFile(solved);
}

} // namespace pyro
