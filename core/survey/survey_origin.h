// Which program wrote a survey, what of it this one does not know, and what is to be kept before it is written anew.
#pragma once

#include "core/survey/survey.h"

#include <filesystem>

namespace pyro {

struct SurveyOrigin {
    int format = surveyVersion;       // the number behind "pyrometer"
    std::string program;              // "0.1", of `saved_by`; empty: the file tells none
    std::vector<std::string> unknown; // keys that this program does not know: "limits[0].colour", "weather"

    bool isNewer() const;            // than this program
    bool isOlder() const;            // or of a hand: it tells no program
    std::string writtenBy() const;   // "Pyrometer 0.3", "a newer Pyrometer (format 2)": behind "it was written by"
    std::string unknownText() const; // "; not known here: weather, limits[0].colour and 3 more", or empty
};

struct OpenedSurvey {
    Survey survey;
    SurveyOrigin origin;
};

// As loadSurvey, but a newer format is read as far as it is known, for whoever only looks at it. Errors: those of
// loadSurvey; where what is newer cannot be read, they say that it is.
Result<OpenedSurvey> openSurvey(const std::filesystem::path& file);

// A note where a newer program wrote the file: which one, and what of it is not known. None otherwise.
Remarks newerRemarks(const Survey& survey, const std::filesystem::path& file);

// Keys of the document that the schema does not describe where it describes others, in the order of the document.
std::vector<std::string> unknownKeys(const Json& document, const Json& schema);

// Copies a survey as it stands to "<name> (before 0.2).survey.json" beside it, unless the same was kept already.
// Returns the copy. Errors: FileUnreadable, WriteFailed.
Result<std::filesystem::path> keepOlderSurvey(const std::filesystem::path& file);

} // namespace pyro
