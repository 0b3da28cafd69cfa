// Names of a template between braces, filled: {{T_amp}}, {{T_amp.unit}}, {{limit.amplifier.margin}}, and lists such as
// {{#verdicts}} {{target}} {{margin}} {{/verdicts}} (Mustache).
#pragma once

#include "core/report/pages/report_blocks.h"

namespace pyro {

enum class FieldEscape { None, Xml };

// A template filled by the readings of the first case of the report; of a gauge its value with its unit. Names that are
// not there stand as they are and are added to `unknown`. Errors: Syntax for a section that is not closed.
Result<std::string> fillFields(const std::string& text, const ReportInput& input, FieldEscape escape,
                               std::vector<std::string>& unknown);

} // namespace pyro
