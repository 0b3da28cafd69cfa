#include "app/stages/limits/limit_import_dialog.h"

#include "core/report/limit_text.h"
#include "render/text.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>
#include <algorithm>

namespace pyro {

LimitImportDialog::LimitImportDialog(std::vector<TableSheet> sheets, LimitNames names, const QString& file,
                                     QWidget* parent)
    : QDialog(parent), m_sheets(std::move(sheets)), m_names(std::move(names)), m_file(file), m_sheet(new QComboBox),
      m_unit(new QComboBox), m_table(new QTableWidget), m_facts(new QLabel) {
    setObjectName("limitImport");
    setWindowTitle("Limits of " + file);
    resize(860, 460);
    for (const auto& sheet : m_sheets)
        m_sheet->addItem(q(sheet.name));
    m_sheet->setObjectName("importSheet");
    m_sheet->setVisible(m_sheets.size() > 1);
    for (const auto unit : {TemperatureUnit::Celsius, TemperatureUnit::Kelvin, TemperatureUnit::Fahrenheit})
        m_unit->addItem(q(std::string(unitSymbol(unit))), static_cast<int>(unit));
    m_unit->setObjectName("importUnit");
    m_table->setObjectName("importTable");
    m_table->setColumnCount(6);
    m_table->setHorizontalHeaderLabels(
        {"Import", "As written", "Limit on", "Allowed", "Margin, type, source", "Remark"});
    m_table->verticalHeader()->hide();
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionMode(QAbstractItemView::NoSelection);
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_facts->setObjectName("importFacts");
    m_facts->setWordWrap(true);
    auto* top = new QHBoxLayout;
    top->addWidget(m_sheet);
    top->addWidget(new QLabel("Numbers without a unit are"));
    top->addWidget(m_unit);
    top->addStretch();
    auto* buttons = new QDialogButtonBox;
    m_take = buttons->addButton("Import", QDialogButtonBox::AcceptRole);
    m_take->setObjectName("primary");
    m_take->setAccessibleName("takeLimits");
    buttons->addButton("Cancel", QDialogButtonBox::RejectRole);
    auto* layout = new QVBoxLayout(this);
    layout->addLayout(top);
    layout->addWidget(m_table, 1);
    layout->addWidget(m_facts);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(m_sheet, &QComboBox::activated, this, &LimitImportDialog::read);
    connect(m_unit, &QComboBox::activated, this, &LimitImportDialog::read);
    read();
}

void LimitImportDialog::read() {
    const auto sheet = static_cast<std::size_t>(std::max(0, m_sheet->currentIndex()));
    m_import = {};
    const auto rows = sheet < m_sheets.size() ? m_sheets[sheet].rows : std::vector<CsvRow>();
    auto found = limitsFromTable(rows, m_names, static_cast<TemperatureUnit>(m_unit->currentData().toInt()),
                                 m_file.toStdString());
    if (found)
        m_import = std::move(*found);
    fill();
    if (!found)
        m_facts->setText(q(found.error().what + ". " + found.error().remedy + "."));
}

void LimitImportDialog::fill() {
    m_table->setRowCount(static_cast<int>(m_import.limits.size()));
    int good = 0;
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const auto& one = m_import.limits[static_cast<std::size_t>(row)];
        const bool usable = one.problem.empty();
        good += usable ? 1 : 0;
        auto* tick = new QTableWidgetItem(QString::number(one.row));
        tick->setFlags(usable ? Qt::ItemIsEnabled | Qt::ItemIsUserCheckable : Qt::NoItemFlags);
        if (usable)
            tick->setCheckState(Qt::Checked);
        m_table->setItem(row, 0, tick);
        const auto text = [](const std::optional<Bound>& bound) { return bound ? q(bound->text) : QString(); };
        QStringList more;
        if (one.limit.margin)
            more.append(text(one.limit.margin));
        for (const auto& word : {one.limit.kind, one.limit.source})
            if (!word.empty())
                more.append(q(word));
        const auto allowed = (one.limit.form == &riseForm ? "rise of " : "") + text(one.limit.max) +
                             (one.limit.min ? (one.limit.max ? ", " : "") + QString("at least ") + text(one.limit.min)
                                            : QString());
        const QStringList cells{q(one.written),
                                one.match == NameMatch::None ? QString()
                                                             : q(std::string(targetKindName(one.limit.target.kind)) +
                                                                 " " + one.limit.target.name),
                                allowed, more.join(", "), q(usable ? one.remark : one.problem)};
        for (int column = 0; column < cells.size(); ++column) {
            auto* cell = new QTableWidgetItem(cells[column]);
            cell->setFlags(usable ? Qt::ItemIsEnabled : Qt::NoItemFlags);
            cell->setToolTip(cells[column]);
            m_table->setItem(row, column + 1, cell);
        }
    }
    m_table->resizeColumnsToContents();
    for (int column = 0; column < m_table->columnCount() - 1; ++column)
        m_table->setColumnWidth(column, std::min(m_table->columnWidth(column), 220));
    QStringList facts{
        QString("%1 of %2 rows can be imported; those of the same part, quantity and type replace the ones there are.")
            .arg(good)
            .arg(m_table->rowCount())};
    for (const auto& remark : m_import.remarks)
        facts.append(q(remark.text) + ".");
    m_facts->setText(facts.join(" "));
    m_take->setEnabled(good > 0);
}

std::vector<Limit> LimitImportDialog::chosen() const {
    std::vector<Limit> limits;
    for (int row = 0; row < m_table->rowCount(); ++row)
        if (m_table->item(row, 0)->checkState() == Qt::Checked &&
            m_import.limits[static_cast<std::size_t>(row)].problem.empty())
            limits.push_back(m_import.limits[static_cast<std::size_t>(row)].limit);
    return limits;
}

} // namespace pyro
