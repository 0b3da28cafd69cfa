#include "cli/output.h"

#include "core/survey/survey_file.h"

#include <fmt/ostream.h>

namespace pyro::cli {

int complain(const Error& error, std::ostream& err) {
    fmt::print(err, "pyrometer-cli: {}\n", error.text());
    return 2;
}

void printRemarks(const Remarks& remarks, const std::string& file, std::ostream& err) {
    for (const auto& remark : remarks) {
        const auto place = remark.where.empty() || remark.where == file ? "" : fmt::format(" ({})", remark.where);
        fmt::print(err, "{}: {}: {}{}\n", file, severityName(remark.severity), remark.text, place);
    }
}

int writeJson(const Json& json, const std::string& file, std::ostream& out, std::ostream& err) {
    if (file.empty())
        return 0;
    const auto text = json.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
    if (file == "-") {
        out << text;
        return 0;
    }
    const auto written = writeFileAtomically(file, text);
    return written ? 0 : complain(written.error(), err);
}

} // namespace pyro::cli
