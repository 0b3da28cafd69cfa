#include "core/report/pages/report_template.h"

#include "core/feedback/mistake.h"
#include "core/feedback/whole_file.h"

#include <fstream>

namespace pyro {

Result<std::vector<ReportBlock>> readReportTemplate(const std::filesystem::path& file) {
    std::ifstream stream(file);
    if (!stream)
        return fail(ErrorCode::FileMissing, "the template cannot be opened", file.string(),
                    "Check its name and rights");
    const auto json = Json::parse(stream, nullptr, false);
    if (json.is_discarded() || !json.is_object() || !json.contains("blocks"))
        return fail(ErrorCode::Syntax, "this is no template of a report", file.string(),
                    "It is JSON: {\"pyrometer_report\": 1, \"blocks\": [...]}");
    try {
        std::vector<ReportBlock> blocks;
        KeyValue<std::vector<ReportBlock>>::read(json["blocks"], {file.string() + ": blocks"}, blocks);
        return blocks;
    } catch (const Mistake& mistake) {
        return tl::unexpected(mistake.error);
    }
}

Done writeReportTemplate(const std::vector<ReportBlock>& blocks, const std::filesystem::path& file) {
    const Json json{{"pyrometer_report", 1}, {"blocks", KeyValue<std::vector<ReportBlock>>::write(blocks)}};
    return writeFileAtomically(file, json.dump(2) + "\n", "the template");
}

} // namespace pyro
