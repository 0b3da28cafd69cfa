#include "app/stages/report/report_sheet.h"

#include "app/session/dialogs.h"
#include "core/program/program.h"
#include "core/report/pages/report_template.h"
#include "core/units/unit.h"
#include "render/text.h"

#include <QDir>
#include <QFileInfo>
#include <QMenu>
#include <algorithm>

namespace pyro {
ReportSheet::ReportSheet(StageDesk& desk, QWidget* parent)
    : Sheet(desk.session(), "Report", parent), m_desk(desk), m_draft(new ReportDraft(desk.session(), this)) {
    m_layout->setSpacing(6);
    buildFields();
    buildBlocks();
    buildTemplates();
    m_session.listen(this, Change::Survey | Change::Cases | Change::Readings, &ReportSheet::refresh);
    refresh();
}

void ReportSheet::buildFields() {
    auto* fields = new QFormLayout;
    fields->setVerticalSpacing(4);
    const auto field = [this](QFormLayout* form, const char* name, const QString& label, const QString& words = {}) {
        auto* edit = new QLineEdit;
        edit->setObjectName(name);
        edit->setPlaceholderText(words);
        auto* caption = new QLabel(label);
        caption->setObjectName("hint");
        form->addRow(caption, edit);
        return edit;
    };
    m_title = field(fields, "reportTitle", "Title");
    m_preparedBy = field(fields, "reportPreparedBy", "Prepared by");
    m_layout->addLayout(fields);
    m_moreLink = new QPushButton;
    m_moreLink->setObjectName("link");
    m_moreLink->setAccessibleName("reportMore");
    m_moreLink->setCheckable(true);
    m_layout->addWidget(m_moreLink, 0, Qt::AlignLeft);
    m_more = new QWidget;
    auto* more = new QFormLayout(m_more);
    more->setContentsMargins(0, 0, 0, 0);
    more->setVerticalSpacing(4);
    m_number = field(more, "reportNumber", "Number");
    m_note = field(more, "reportNote", "Note");
    m_units = field(more, "reportUnits", "Units", "SI, or degF, W/cm2, mm");
    m_decimal = new QComboBox;
    m_decimal->setObjectName("reportDecimal");
    m_decimal->addItem("12.5", QString());
    m_decimal->addItem("12,5", "comma");
    auto* decimalLabel = new QLabel("Numbers");
    decimalLabel->setObjectName("hint");
    more->addRow(decimalLabel, m_decimal);
    auto* logoRow = new QHBoxLayout;
    m_logo = small(logoRow, "reportLogo", "Choose\u2026", "A PNG, JPEG or SVG picture");
    m_noLogo = small(logoRow, "reportNoLogo", "Delete", "The report has no logo");
    logoRow->addStretch();
    auto* logoLabel = new QLabel("Logo");
    logoLabel->setObjectName("hint");
    more->addRow(logoLabel, logoRow);
    m_layout->addWidget(m_more);
    m_more->hide();
    connect(m_moreLink, &QPushButton::toggled, this, [this](bool on) {
        m_more->setVisible(on);
        refresh();
    });
    connect(m_title, &QLineEdit::editingFinished, this, [this] {
        if (m_title->text().toStdString() == m_session.survey().title)
            return;
        auto next = m_session.survey();
        next.title = m_title->text().toStdString();
        m_session.edit("Title", std::move(next));
    });
    const auto kept = [this](QLineEdit* edit, const QString& what, std::string ReportSettings::*setting) {
        connect(edit, &QLineEdit::editingFinished, this,
                [this, edit, what, setting] { keep(what, setting, edit->text()); });
    };
    kept(m_preparedBy, "Prepared by", &ReportSettings::preparedBy);
    kept(m_number, "Number of the report", &ReportSettings::number);
    kept(m_note, "Note of the report", &ReportSettings::note);
    connect(m_units, &QLineEdit::editingFinished, this, &ReportSheet::takeUnits);
    connect(m_decimal, &QComboBox::activated, this,
            [this] { keep("Decimal of the report", &ReportSettings::decimal, m_decimal->currentData().toString()); });
    connect(m_logo, &QPushButton::clicked, this, &ReportSheet::chooseLogo);
    connect(m_noLogo, &QPushButton::clicked, this, [this] { keep("Delete logo", &ReportSettings::logo, {}); });
}

void ReportSheet::buildBlocks() {
    heading("Blocks");
    m_blocks = new BlockList(*m_draft, m_session);
    m_layout->addWidget(m_blocks, 1);
    auto* row = new QHBoxLayout;
    auto* add = small(row, "addBlock", "Add  \u25be", "Adds a block behind the chosen one");
    auto* menu = new QMenu(add);
    menu->setToolTipsVisible(true);
    for (const auto* kind : reportBlockKinds()) {
        auto* action = menu->addAction(q(kind->title), this, [this, key = std::string(kind->key)] {
            m_blocks->add(key);
            m_form->beginText();
        });
        action->setObjectName("addBlock " + q(kind->key));
        action->setToolTip(q(kind->meaning));
    }
    add->setMenu(menu);
    connect(small(row, "deleteBlock", "Delete", "Takes the chosen block out (Del)"), &QPushButton::clicked, m_blocks,
            &BlockList::deleteChosen);
    connect(small(row, "blockUp", "\u2191", "Moves it up (Alt+Up)"), &QPushButton::clicked, m_blocks,
            [this] { m_blocks->moveChosen(-1); });
    connect(small(row, "blockDown", "\u2193", "Moves it down (Alt+Down)"), &QPushButton::clicked, m_blocks,
            [this] { m_blocks->moveChosen(1); });
    row->addStretch();
    m_layout->addLayout(row);
    m_form = new BlockForm(*m_draft, m_session);
    m_layout->addWidget(m_form);
}

void ReportSheet::buildTemplates() {
    auto* row = new QHBoxLayout;
    m_templates = new QPushButton("Template  \u25be");
    m_templates->setAccessibleName("reportTemplates");
    auto* menu = new QMenu(m_templates);
    const auto folder = shippedFolder("templates"); // lists of blocks that come with the program
    const QDir shipped(q(folder.string()));
    for (const auto& name :
         folder.empty() ? QStringList() : shipped.entryList({"*.report.json"}, QDir::Files, QDir::Name)) {
        auto words = QString(name).remove(".report.json").replace('-', ' ');
        words[0] = words[0].toUpper();
        menu->addAction(words, this, [this, file = shipped.filePath(name)] { takeTemplate(file); });
    }
    menu->addAction("Open\u2026", this, [this] {
        takeTemplate(dialogs::openFile(m_desk.dialogParent(), "Open template", "Templates of reports (*.report.json)"));
    });
    menu->addAction("Save as\u2026", this, &ReportSheet::saveTemplate);
    menu->addSeparator();
    menu->addAction("Fill a document of your own\u2026", this, &ReportSheet::fillOwn);
    m_templates->setMenu(menu);
    row->addWidget(m_templates);
    m_export = new QPushButton("Export\u2026");
    m_export->setObjectName("primary");
    m_export->setAccessibleName("exportReport");
    m_export->setToolTip("As PDF, ODT, HTML, Markdown or spreadsheet");
    row->addWidget(m_export, 1);
    m_layout->addLayout(row);
    connect(m_export, &QPushButton::clicked, this, &ReportSheet::exportReport);
}

void ReportSheet::keep(const QString& what, std::string ReportSettings::*setting, const QString& text) {
    if (m_session.survey().report.*setting == text.toStdString())
        return;
    auto next = m_session.survey();
    next.report.*setting = text.toStdString();
    m_session.edit(what, std::move(next));
}

void ReportSheet::takeUnits() {
    std::vector<std::string> units;
    for (const auto& word : m_units->text().split(QRegularExpression("[,;\\s]+"), Qt::SkipEmptyParts)) {
        if (word == "SI")
            continue;
        if (!isUnit(word.toStdString()))
            return m_session.complain({ErrorCode::WrongUnit, "\"" + word.toStdString() + "\" is no unit",
                                       "Report, Units", "Write units as degF, W/cm2, mm"});
        units.push_back(word.toStdString());
    }
    if (units == m_session.survey().report.units)
        return;
    auto next = m_session.survey();
    next.report.units = std::move(units);
    m_session.edit("Units of the report", std::move(next));
}

// Beside the survey by its relative name, so that both may move.
void ReportSheet::chooseLogo() {
    const auto file = dialogs::openFile(m_desk.dialogParent(), "Choose logo", "Pictures (*.png *.jpg *.jpeg *.svg)");
    if (file.isEmpty())
        return;
    const auto survey = m_session.file();
    const auto relative = survey.isEmpty() ? file : QFileInfo(survey).dir().relativeFilePath(file);
    keep("Logo", &ReportSettings::logo, relative.startsWith("../../..") ? file : relative);
}

void ReportSheet::takeTemplate(const QString& file) {
    if (file.isEmpty())
        return;
    auto blocks = readReportTemplate(file.toStdString());
    if (!blocks)
        return m_session.complain(blocks.error());
    m_draft->setBlocks("Use template", std::move(*blocks));
    m_draft->choose(0);
}

void ReportSheet::saveTemplate() {
    const auto file = dialogs::saveFile(m_desk.dialogParent(), "Save template", m_desk.proposal(".report.json"),
                                        "Templates of reports (*.report.json)");
    if (!file.isEmpty())
        m_desk.tellWritten(writeReportTemplate(m_draft->blocks(), file.toStdString()), file);
}

void ReportSheet::fillOwn() {
    const auto from = dialogs::openFile(m_desk.dialogParent(), "Document with {{fields}}", "Documents (*.odt *.html)");
    if (from.isEmpty())
        return;
    const auto ending = "." + QFileInfo(from).suffix();
    const auto to = dialogs::saveFile(m_desk.dialogParent(), "Save filled document", m_desk.proposal(ending),
                                      "Documents (*" + ending + ")");
    if (to.isEmpty())
        return;
    m_draft->fill(from, to, [this, to](Result<std::vector<std::string>> unknown) {
        if (!unknown)
            return m_session.complain(unknown.error());
        m_desk.tellWritten({}, to);
        if (!unknown->empty())
            m_session.complain(
                {ErrorCode::NameUnknown,
                 fmt::format("nothing is called {}; these fields stand as they are", fmt::join(*unknown, ", ")),
                 to.toStdString(), "Choose names of gauges and limits as the survey has them"});
    });
}

void ReportSheet::exportReport() {
    const auto file = dialogs::saveFile(m_desk.dialogParent(), "Export report", m_desk.proposal(".pdf"),
                                        "PDF (*.pdf);;Text document (*.odt);;HTML, one file (*.html);;Markdown (*.md);;"
                                        "Spreadsheet (*.xlsx)");
    if (file.isEmpty())
        return;
    m_export->setEnabled(false); // one at a time
    m_draft->write(file, [this, file](const Done& written) {
        refresh();
        if (written || !written.error().cancelled())
            m_desk.tellWritten(written, file);
    });
}

void ReportSheet::refresh() {
    const auto show = [](QLineEdit* edit, const QString& words) {
        if (!edit->hasFocus() && edit->text() != words)
            edit->setText(words);
    };
    const auto& report = m_session.survey().report;
    show(m_title, q(m_session.survey().title));
    show(m_preparedBy, q(report.preparedBy));
    show(m_number, q(report.number));
    show(m_note, q(report.note));
    QStringList units;
    for (const auto& unit : report.units)
        units.append(q(unit));
    show(m_units, units.join(", "));
    m_decimal->setCurrentIndex(std::max(0, m_decimal->findData(q(report.decimal))));
    m_logo->setText(report.logo.empty() ? "Choose\u2026" : QFileInfo(q(report.logo)).fileName());
    m_noLogo->setVisible(!report.logo.empty());
    m_moreLink->setText(m_moreLink->isChecked() ? "Less" : "Number, logo, note, units \u25be");
    m_export->setEnabled(!m_session.survey().cases.empty());
}

} // namespace pyro
