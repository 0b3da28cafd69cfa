#include "core/report/pages/fill_template.h"

#include "core/feedback/whole_file.h"

#include <fmt/format.h>
#include <fstream>
#include <iterator>
#include <zip.h>

namespace pyro {
namespace {

Result<std::string> bytesOf(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    if (!stream)
        return fail(ErrorCode::FileMissing, "the template cannot be opened", file.string(),
                    "Check its name and rights");
    return std::string((std::istreambuf_iterator<char>(stream)), std::istreambuf_iterator<char>());
}

// Word processors cut a field into pieces of equal looks: what is between its braces is put together, the tags that
// stood there follow behind it.
std::string joinedFields(const std::string& xml) {
    std::string out;
    for (std::size_t at = 0; at < xml.size();) {
        const auto open = xml.find("{{", at);
        const auto close = open == std::string::npos ? open : xml.find("}}", open);
        if (close == std::string::npos) {
            out += xml.substr(at);
            break;
        }
        out += xml.substr(at, open - at);
        std::string tags;
        for (auto i = open; i < close + 2;) {
            if (xml[i] != '<') {
                out += xml[i++];
                continue;
            }
            const auto end = std::min(xml.find('>', i), xml.size() - 1);
            tags += xml.substr(i, end + 1 - i);
            i = end + 1;
        }
        out += tags;
        at = close + 2;
    }
    return out;
}

// The ends of sections within one row of a table, moved around the row.
std::string withRowsRepeated(std::string xml) {
    constexpr std::string_view begin = "<table:table-row";
    constexpr std::string_view end = "</table:table-row>";
    for (std::size_t at = 0; (at = xml.find(begin, at)) != std::string::npos;) {
        const auto close = xml.find(end, at);
        if (close == std::string::npos)
            break;
        auto row = xml.substr(at, close + end.size() - at);
        std::string before;
        std::string after;
        for (std::size_t mark = 0; (mark = row.find("{{#", mark)) != std::string::npos;) {
            const auto ends = row.find("}}", mark);
            const auto name = row.substr(mark + 3, ends - mark - 3);
            const auto closing = "{{/" + name + "}}";
            const auto last = row.find(closing, ends);
            if (ends == std::string::npos || last == std::string::npos) {
                mark += 3;
                continue;
            }
            row.erase(last, closing.size());
            row.erase(mark, ends + 2 - mark);
            before += "{{#" + name + "}}";
            after = closing + after;
        }
        const auto whole = before + row + after;
        xml.replace(at, close + end.size() - at, whole);
        at += whole.size();
    }
    return xml;
}

// Paragraphs that hold nothing but the end of a section give way to it.
std::string withoutMarkParagraphs(std::string xml) {
    constexpr std::string_view begin = "<text:p";
    constexpr std::string_view end = "</text:p>";
    for (std::size_t at = 0; (at = xml.find(begin, at)) != std::string::npos;) {
        const auto close = xml.find(end, at);
        if (close == std::string::npos)
            break;
        std::string words;
        bool inTag = false;
        for (auto i = at; i < close; ++i) {
            inTag = inTag || xml[i] == '<';
            if (!inTag)
                words += xml[i];
            inTag = inTag && xml[i] != '>';
        }
        const bool isMark = (words.starts_with("{{#") || words.starts_with("{{/")) && words.ends_with("}}") &&
                            words.find("}}") == words.size() - 2;
        if (!isMark) {
            at = close;
            continue;
        }
        xml.replace(at, close + end.size() - at, words);
        at += words.size();
    }
    return xml;
}

struct CloseZip {
    void operator()(zip_t* archive) const { zip_discard(archive); }
};
using Archive = std::unique_ptr<zip_t, CloseZip>;

std::optional<std::string> entryOf(zip_t* archive, const char* name) {
    zip_stat_t found{};
    if (zip_stat(archive, name, 0, &found) != 0 || found.size > (64U << 20U))
        return std::nullopt;
    auto* file = zip_fopen(archive, name, 0);
    if (file == nullptr)
        return std::nullopt;
    std::string bytes(found.size, '\0');
    const auto read = zip_fread(file, bytes.data(), bytes.size());
    zip_fclose(file);
    return read == static_cast<zip_int64_t>(bytes.size()) ? std::optional(bytes) : std::nullopt;
}

Done fillOdt(const std::filesystem::path& from, const std::filesystem::path& to, const ReportInput& input,
             std::vector<std::string>& unknown) {
    WholeFile target(to);
    std::error_code status;
    std::filesystem::copy_file(from, target.beside(), std::filesystem::copy_options::overwrite_existing, status);
    if (status)
        return target.failed("the report");
    int error = 0;
    Archive archive(zip_open(target.beside().c_str(), 0, &error));
    if (!archive || !entryOf(archive.get(), "content.xml"))
        return fail(ErrorCode::FileUnreadable, "the template is no OpenDocument text", from.string(),
                    "Save it as .odt in the word processor");
    std::vector<std::string> kept; // until the archive is closed
    kept.reserve(2);
    for (const auto* name : {"content.xml", "styles.xml"}) {
        const auto xml = entryOf(archive.get(), name);
        if (!xml || xml->find("{{") == std::string::npos)
            continue;
        auto filled = fillFields(withoutMarkParagraphs(withRowsRepeated(joinedFields(*xml))), input, FieldEscape::Xml,
                                 unknown);
        if (!filled)
            return tl::unexpected(filled.error());
        kept.push_back(std::move(*filled));
        auto* source = zip_source_buffer(archive.get(), kept.back().data(), kept.back().size(), 0);
        if (source == nullptr || zip_file_add(archive.get(), name, source, ZIP_FL_OVERWRITE) < 0)
            return target.failed("the report");
    }
    if (zip_close(archive.get()) != 0)
        return target.failed("the report");
    (void)archive.release(); // closed
    return target.put("the report");
}

} // namespace

Done fillTemplate(const std::filesystem::path& from, const std::filesystem::path& to, const ReportInput& input,
                  std::vector<std::string>& unknown) {
    if (from.extension() != to.extension())
        return fail(ErrorCode::FormatUnknown,
                    fmt::format("a template {} makes a report {}, not {}", from.extension().string(),
                                from.extension().string(), to.extension().string()),
                    to.string(), "Name the report with the ending of its template");
    if (from.extension() == ".odt")
        return fillOdt(from, to, input, unknown);
    const auto text = bytesOf(from);
    if (!text)
        return tl::unexpected(text.error());
    const auto filled = fillFields(*text, input, FieldEscape::Xml, unknown);
    if (!filled)
        return tl::unexpected(filled.error());
    return writeFileAtomically(to, *filled);
}

} // namespace pyro
