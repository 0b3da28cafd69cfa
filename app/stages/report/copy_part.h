// Parts of a report on the clipboard: tables as spreadsheet text and HTML, figures as pictures and lines, text as text.
#pragma once

#include "core/report/pages/report_document.h"

class QMenu;
class QMimeData;

namespace pyro {

// One action for each form that the part has; the part is copied here and now.
void addCopyActions(QMenu& menu, const ReportPart& part);
// What a table is on the clipboard. The caller owns it.
QMimeData* mimeOf(const ShownTable& table);
QMimeData* mimeOf(const ReportPicture& picture);

} // namespace pyro
