// The cases of a sweep: a table that names them, or a pattern of their files.
#include "app/session/dialogs.h"
#include "app/session/session.h"
#include "app/stages/compare/set_up/set_up.h"
#include "app/stages/stage_desk.h"
#include "core/compare/sweep.h"
#include "render/text.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRadioButton>
#include <fmt/format.h>

namespace pyro {
namespace {

class SweepForm : public QDialog {
public:
    explicit SweepForm(StageDesk& desk) : QDialog(desk.dialogParent()), m_session(desk.session()) {
        setObjectName("sweepForm");
        setWindowTitle("Sweep");
        setAttribute(Qt::WA_DeleteOnClose);
        resize(560, 300);
        m_byTable = new QRadioButton("A table names file and parameters of each case");
        m_byTable->setObjectName("sweepByTable");
        m_byPattern = new QRadioButton("The names of the files tell the parameters");
        m_byPattern->setObjectName("sweepByPattern");
        m_table = new QLineEdit;
        m_table->setObjectName("sweepTableFile");
        m_table->setPlaceholderText("sweep.csv");
        auto* choose = new QPushButton("Choose\u2026");
        choose->setObjectName("chooseSweepTable");
        m_file = new QLineEdit("file");
        m_file->setObjectName("sweepFileColumn");
        m_pattern = new QLineEdit;
        m_pattern->setObjectName("sweepPattern");
        m_pattern->setPlaceholderText("runs/fin_h{h}_t{t}.vtm");
        m_like = new QComboBox;
        m_like->setObjectName("sweepLike");
        for (const auto& entry : m_session.survey().cases)
            m_like->addItem(q(entry.name));
        m_facts = new QLabel;
        m_facts->setObjectName("sweepFacts");
        m_facts->setWordWrap(true);
        auto* row = new QHBoxLayout;
        row->addWidget(m_table, 1);
        row->addWidget(choose);
        auto* form = new QFormLayout(this);
        form->addRow(m_byTable);
        form->addRow("Table", row);
        form->addRow("Column of the files", m_file);
        form->addRow(m_byPattern);
        form->addRow("Pattern", m_pattern);
        form->addRow("Read as the case", m_like);
        form->addRow(m_facts);
        auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel);
        buttons->button(QDialogButtonBox::Ok)->setText("Evaluate");
        form->addRow(buttons);
        fill();
        connect(choose, &QPushButton::clicked, this, [this] {
            const auto file = dialogs::openFile(this, "Table of the sweep", "Tables (*.csv *.txt *.xlsx *.ods)");
            if (!file.isEmpty())
                m_table->setText(besideSurveyFile(m_session, file));
            m_byTable->setChecked(true);
            look();
        });
        for (auto* edit : {m_table, m_file, m_pattern})
            connect(edit, &QLineEdit::textChanged, this, [this] { look(); });
        connect(m_byTable, &QRadioButton::toggled, this, [this] { look(); });
        connect(m_like, &QComboBox::activated, this, [this] { look(); });
        connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
        connect(buttons, &QDialogButtonBox::accepted, this, [this] {
            if (editSurveyJson(m_session, "Sweep", [this](Json& survey) { put(survey); }))
                accept();
        });
        look();
    }

private:
    void fill() {
        const auto wish = m_session.survey().sweep.value_or(SweepWish{});
        m_table->setText(q(wish.table));
        m_file->setText(q(wish.file));
        m_pattern->setText(q(wish.pattern));
        if (!wish.like.empty())
            m_like->setCurrentText(q(wish.like));
        (wish.table.empty() && !wish.pattern.empty() ? m_byPattern : m_byTable)->setChecked(true);
    }
    void put(Json& survey) const {
        auto wish = survey.value("sweep", Json::object());
        for (const auto* key : {"table", "file", "pattern", "like"})
            wish.erase(key);
        if (m_byTable->isChecked() && !m_table->text().isEmpty()) {
            wish["table"] = m_table->text().toStdString();
            wish["file"] = m_file->text().toStdString();
        } else if (m_byPattern->isChecked() && !m_pattern->text().isEmpty()) {
            wish["pattern"] = m_pattern->text().toStdString();
        }
        if (m_like->currentIndex() >= 0)
            wish["like"] = m_like->currentText().toStdString();
        if (wish.contains("table") || wish.contains("pattern"))
            survey["sweep"] = wish;
        else
            survey.erase("sweep");
    }
    // What would be evaluated.
    void look() {
        auto json = surveyToJson(m_session.survey());
        put(json);
        const auto survey = surveyFromJson(json, "form");
        if (!survey)
            return m_facts->setText(q(survey.error().what));
        const auto plan = planSweep(*survey, m_session.document().folder());
        if (!plan)
            return m_facts->setText("No cases are named yet.");
        if (!plan->why.empty())
            return m_facts->setText(q(plan->why));
        std::string names;
        for (const auto& parameter : plan->parameters)
            names += fmt::format("{}{}{}", names.empty() ? "" : ", ", parameter.name,
                                 parameter.unit.empty() ? "" : " in " + parameter.unit);
        const auto bad = std::ranges::find_if(plan->items, [](const auto& item) { return !item.why.empty(); });
        m_facts->setText(q(fmt::format("{} cases over {}.{}", plan->items.size(), names,
                                       bad == plan->items.end() ? "" : " " + bad->why + ".")));
    }

    Session& m_session;
    QRadioButton* m_byTable;
    QRadioButton* m_byPattern;
    QLineEdit* m_table;
    QLineEdit* m_file;
    QLineEdit* m_pattern;
    QComboBox* m_like;
    QLabel* m_facts;
};

} // namespace

void showSweepForm(StageDesk& desk) { (new SweepForm(desk))->show(); }

} // namespace pyro
