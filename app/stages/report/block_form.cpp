#include "app/stages/report/block_form.h"

#include "render/text.h"

#include <QIntValidator>
#include <QMenu>
#include <QVBoxLayout>
#include <algorithm>
#include <set>

namespace pyro {
namespace {

template <class List, class Name>
QStringList namesOf(const List& list, Name name) {
    QStringList out;
    for (const auto& one : list)
        out.append(q(std::invoke(name, one)));
    return out;
}

} // namespace

BlockForm::BlockForm(ReportDraft& draft, Session& session, QWidget* parent)
    : QWidget(parent), m_draft(draft), m_session(session), m_kind(new QLabel), m_form(new QFormLayout) {
    setObjectName("card");
    setAttribute(Qt::WA_StyledBackground);
    m_kind->setObjectName("cardTitle");
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 8, 12, 8);
    column->setSpacing(4);
    column->addWidget(m_kind);
    m_form->setVerticalSpacing(4);
    m_form->setHorizontalSpacing(8);
    m_form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    column->addLayout(m_form);
    build();
    connect(&draft, &ReportDraft::chosenChanged, this, &BlockForm::refresh);
    session.listen(this, Change::Survey | Change::Cases | Change::Readings, &BlockForm::refresh);
    refresh();
}

void BlockForm::row(const char* key, const QString& label, QWidget* field) {
    auto* words = new QLabel(label);
    words->setObjectName("hint");
    if (label.isEmpty())
        m_form->addRow(field);
    else
        m_form->addRow(words, field);
    m_rows.emplace_back(key, field, label.isEmpty() ? nullptr : words);
}

QComboBox* BlockForm::choice(const char* name, const char* key, const QString& label, const QStringList& words,
                             std::string ReportBlock::*member) {
    auto* box = new QComboBox;
    box->setObjectName(name);
    for (const auto& word : words)
        box->addItem(word, word == words.front() ? QString() : word); // the first is what is left out
    connect(box, &QComboBox::activated, this, [this, box, member] {
        m_draft.editBlock("Report block",
                          [&](ReportBlock& one) { one.*member = box->currentData().toString().toStdString(); });
    });
    row(key, label, box);
    m_choices.emplace_back(box, member);
    return box;
}

void BlockForm::build() {
    m_title = new QLineEdit;
    m_title->setObjectName("blockTitle");
    connect(m_title, &QLineEdit::editingFinished, this, [this] {
        m_draft.editBlock("Heading", [&](ReportBlock& one) { one.title = m_title->text().toStdString(); });
    });
    row("title", "Heading", m_title);
    m_text = new QPlainTextEdit;
    m_text->setObjectName("blockText");
    m_text->setPlaceholderText("The amplifier reaches {{T_amp}}. **Bold**, *italic*, lists with \u201c- \u201d.");
    m_text->setFixedHeight(110);
    m_text->setTabChangesFocus(true);
    connect(m_text, &QPlainTextEdit::textChanged, this, [this] {
        if (!m_filling)
            m_draft.editBlock("Text", [&](ReportBlock& one) { one.text = m_text->toPlainText().toStdString(); },
                              {GestureKind::ReportText, static_cast<int>(m_draft.chosen())});
    });
    row("text", {}, m_text);
    m_values = new QPushButton("Insert value  \u25be");
    m_values->setObjectName("small");
    m_values->setAccessibleName("insertValue");
    m_values->setMenu(new QMenu(m_values));
    connect(m_values->menu(), &QMenu::aboutToShow, this, &BlockForm::fillValues);
    row("text", {}, m_values);
    const auto menu = [this](const char* name, const char* key, const QString& label, const QString& all,
                             std::vector<std::string> ReportBlock::*member) {
        auto* made = new CheckMenu(name, all);
        connect(made, &CheckMenu::ticked, this, [this, member](const std::vector<std::string>& some) {
            m_draft.editBlock("Report block", [&](ReportBlock& one) { one.*member = some; });
        });
        row(key, label, made);
        return made;
    };
    m_viewpoints = new CheckMenu("blockViewpoints", "All");
    m_viewpoints->setToolTip("One: a figure of its own. Several: side by side in one figure");
    connect(m_viewpoints, &CheckMenu::ticked, this, [this](const std::vector<std::string>& some) {
        m_draft.editBlock("Viewpoints of the picture", [&](ReportBlock& one) {
            one.name = some.size() == 1 ? some.front() : "";
            one.rows = some.size() > 1 ? some : std::vector<std::string>();
        });
    });
    row("viewpoints", "Viewpoints", m_viewpoints);
    m_cases = menu("blockCases", "cases", "Cases", "All", &ReportBlock::cases);
    m_gauges = menu("blockGauges", "gauges", "Gauges", "All", &ReportBlock::rows);
    m_columns = menu("blockColumns", "columns", "Columns", "All", &ReportBlock::columns);
    connect(m_columns->menu(), &QMenu::aboutToShow, this, [this] {
        if (const auto blocks = m_draft.blocks(); m_draft.chosen() < blocks.size())
            m_columns->offer(m_draft.columnsOfChosen(), blocks[m_draft.chosen()].columns);
    });
    m_signers = new QLineEdit;
    m_signers->setObjectName("blockSigners");
    m_signers->setPlaceholderText("Prepared, checked, approved");
    connect(m_signers, &QLineEdit::editingFinished, this, [this] {
        m_draft.editBlock("Who signs", [&](ReportBlock& one) {
            one.rows.clear();
            for (const auto& name : m_signers->text().split(',', Qt::SkipEmptyParts))
                one.rows.push_back(name.trimmed().toStdString());
        });
    });
    row("signers", "Who signs", m_signers);
    m_decimals = new QComboBox;
    m_decimals->setObjectName("blockDecimals");
    m_decimals->addItem("As usual");
    for (int digits = 0; digits <= 6; ++digits)
        m_decimals->addItem(QString::number(digits), digits);
    connect(m_decimals, &QComboBox::activated, this, [this] {
        m_draft.editBlock("Decimals", [&](ReportBlock& one) {
            one.decimals = m_decimals->currentIndex() == 0 ? std::optional<int>()
                                                           : std::optional(m_decimals->currentData().toInt());
        });
    });
    row("decimals", "Decimals", m_decimals);
    m_step = new QLineEdit;
    m_step->setObjectName("blockStep");
    m_step->setPlaceholderText("As displayed");
    m_step->setValidator(new QIntValidator(0, 1'000'000, m_step));
    connect(m_step, &QLineEdit::editingFinished, this, [this] {
        m_draft.editBlock("Step of the picture", [&](ReportBlock& one) {
            one.step = m_step->text().isEmpty() ? std::optional<int>() : std::optional(m_step->text().toInt());
        });
    });
    row("step", "Step, from 0", m_step);
    m_size = new QComboBox;
    m_size->setObjectName("blockSize");
    connect(m_size, &QComboBox::activated, this, [this] {
        m_draft.editBlock("Size of the picture",
                          [&](ReportBlock& one) { one.size = m_size->currentData().toInt() / 100.0; });
    });
    row("size", "Size", m_size);
    choice("blockGround", "ground", "Ground", {"white", "graphite", "transparent"}, &ReportBlock::ground);
    choice("blockScale", "scale", "Scale", {"beneath", "beside", "inside", "none"}, &ReportBlock::scale);
    choice("blockLabels", "labels", "Labels", {"parts", "none"}, &ReportBlock::labels);
    choice("blockLegend", "legend", "Legend", {"none", "parts"}, &ReportBlock::legend);
}

bool BlockForm::hasSteps() const {
    return std::ranges::any_of(m_session.survey().cases, [this](const CaseEntry& entry) {
        const auto* state = m_session.stateOf(entry);
        return state != nullptr && state->series.steps.size() > 1;
    });
}

// Names of gauges, and of limits what is left.
void BlockForm::fillValues() {
    auto* menu = m_values->menu();
    menu->clear();
    const auto offer = [&](const QString& words, const QString& field) {
        menu->addAction(QString(words).replace('&', "&&"), this, [this, field] {
            m_text->insertPlainText("{{" + field + "}}");
            m_text->setFocus();
        });
    };
    for (const auto& id : namesOf(m_session.survey().gauges, &Gauge::id))
        offer(id, id);
    menu->addSeparator();
    for (const auto& limit : m_session.survey().limits)
        offer("margin of " + q(limit.target.name), "limit." + q(limit.target.name) + ".margin");
    menu->addSeparator();
    offer("verdict", "verdict");
    offer("name of the case", "case");
    offer("date", "date");
}

// The usual ones, and the one that the block has.
void BlockForm::fillSizes(int percent) {
    std::set<int, std::greater<>> sizes{100, 80, 66, 50, 33, percent};
    m_size->clear();
    for (const int size : sizes)
        m_size->addItem(QString("%1 % of the width").arg(size), size);
    m_size->setCurrentIndex(m_size->findData(percent));
}

void BlockForm::refresh() {
    const auto blocks = m_draft.blocks();
    const bool any = m_draft.chosen() < blocks.size();
    setVisible(any);
    if (!any)
        return;
    m_filling = true;
    const auto& block = blocks[m_draft.chosen()];
    const auto* kind = reportBlockKind(block.kind);
    m_kind->setText(kind != nullptr ? q(kind->title) : q(block.kind));
    m_kind->setToolTip(kind != nullptr ? q(kind->meaning) : "This program has no such block; it is left out");
    const auto isSetUp = [&](const std::string& key) {
        if (kind == nullptr)
            return false;
        const bool rows = heeds(*kind, "rows");
        if (key == "viewpoints")
            return block.kind == "viewpoint";
        if (key == "gauges")
            return rows && block.kind != "viewpoint" && block.kind != "signatures";
        if (key == "signers")
            return rows && block.kind == "signatures";
        if (key == "cases")
            return heeds(*kind, key) && m_session.survey().cases.size() > 1;
        if (key == "step")
            return heeds(*kind, key) && hasSteps();
        return heeds(*kind, key);
    };
    for (const auto& [key, field, label] : m_rows) {
        const bool shown = isSetUp(key);
        field->setVisible(shown);
        if (label != nullptr)
            label->setVisible(shown);
    }
    const auto fill = [](QLineEdit* edit, const QString& words) {
        if (edit->text() != words && !edit->hasFocus())
            edit->setText(words);
    };
    fill(m_title, q(block.title));
    m_title->setPlaceholderText(kind != nullptr ? q(kind->title) : QString());
    if (m_text->toPlainText() != q(block.text))
        m_text->setPlainText(q(block.text));
    auto shownViewpoints = block.rows;
    if (shownViewpoints.empty() && !block.name.empty())
        shownViewpoints = {block.name};
    m_viewpoints->offer(namesOf(m_session.survey().viewpoints, &Viewpoint::name), shownViewpoints);
    m_cases->setAll(block.kind == "viewpoint" ? "Its own, or the first" : "All");
    m_cases->offer(namesOf(m_session.survey().cases, &CaseEntry::name), block.cases);
    m_gauges->offer(namesOf(m_session.survey().gauges, &Gauge::id), block.rows);
    m_columns->offer({}, block.columns);
    m_columns->setEnabled(true); // its list is that of the block made anew: when it is opened
    fill(m_signers, namesOf(block.rows, [](const std::string& name) { return name; }).join(", "));
    m_decimals->setCurrentIndex(block.decimals ? m_decimals->findData(*block.decimals) : 0);
    fill(m_step, block.step ? QString::number(*block.step) : QString());
    fillSizes(static_cast<int>(std::lround(100 * block.size)));
    for (const auto& [box, member] : m_choices)
        box->setCurrentIndex(std::max(0, box->findData(q(block.*member))));
    m_filling = false;
}

void BlockForm::beginText() {
    if (m_text->isVisible())
        m_text->setFocus();
}

} // namespace pyro
