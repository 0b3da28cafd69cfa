#include "app/ledger/row_table.h"

#include "app/theme/unit_field.h"
#include "core/survey/typed_unit.h"
#include "render/text.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QHeaderView>
#include <QShortcut>
#include <algorithm>
#include <map>

namespace pyro {

bool RowTable::sameShape(int rows, const std::vector<TableColumn>& columns) const {
    if (rows != m_rows || columns.size() != m_columns.size())
        return false;
    for (std::size_t i = 0; i < columns.size(); ++i)
        if (columns[i].title != m_columns[i].title)
            return false;
    return true;
}

void RowTable::reset(int rows, std::vector<TableColumn> columns) {
    if (sameShape(rows, columns)) {
        m_columns = std::move(columns);
        if (rows > 0)
            emit dataChanged(index(0, 0), index(rows - 1, static_cast<int>(m_columns.size()) - 1));
        return;
    }
    beginResetModel();
    m_rows = rows;
    m_columns = std::move(columns);
    endResetModel();
}

void RowTable::reset(ShownTable table, const std::vector<int>& widths) {
    const auto shown = std::make_shared<const ShownTable>(std::move(table));
    std::vector<TableColumn> columns;
    for (std::size_t at = 0; at < shown->columns.size(); ++at) {
        columns.push_back({q(shown->columns[at].title),
                           [shown, at](int row) { return q(shown->rows[static_cast<std::size_t>(row)][at]); },
                           shown->columns[at].isNumber});
        columns.back().width = at < widths.size() ? widths[at] : 0;
    }
    reset(static_cast<int>(shown->rows.size()), std::move(columns));
}

int RowTable::rowCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : m_rows; }
int RowTable::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_columns.size());
}

QVariant RowTable::data(const QModelIndex& index, int role) const {
    if (!index.isValid())
        return {};
    const auto& shown = column(index.column());
    switch (role) {
    case Qt::EditRole:
        return shown.edited ? shown.edited(index.row()) : shown.text(index.row());
    case Qt::DisplayRole:
    case Qt::ToolTipRole:
        return shown.text(index.row());
    case Qt::TextAlignmentRole:
        return QVariant((shown.number ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    case Qt::DecorationRole:
        return shown.decoration ? shown.decoration(index.row()) : QVariant();
    default:
        return {};
    }
}

QVariant RowTable::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation != Qt::Horizontal)
        return {};
    if (role == Qt::DisplayRole)
        return column(section).title;
    if (role == Qt::TextAlignmentRole)
        return QVariant((column(section).number ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    return {};
}

Qt::ItemFlags RowTable::flags(const QModelIndex& index) const {
    auto flags = QAbstractTableModel::flags(index);
    if (index.isValid() && column(index.column()).set)
        flags |= Qt::ItemIsEditable;
    return flags;
}

bool RowTable::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !column(index.column()).set)
        return false;
    if (value.toString() != data(index, Qt::EditRole).toString()) {
        const auto set = column(index.column()).set; // a copy: setting may replace the columns
        set(index.row(), q(withUnit(value.toString().trimmed().toStdString(), unitAt(index))));
    }
    return true;
}

std::string RowTable::unitAt(const QModelIndex& index) const {
    const auto before = unitOfText(data(index, Qt::EditRole).toString().toStdString());
    const auto& unit = column(index.column()).unit;
    return before.empty() && unit ? unit(index.row()) : before;
}

QWidget* ChoiceDelegate::createEditor(QWidget* parent, const QStyleOptionViewItem& option,
                                      const QModelIndex& index) const {
    const auto* table = qobject_cast<const RowTable*>(index.model());
    if (table == nullptr || table->column(index.column()).choices.isEmpty()) {
        auto* editor = QStyledItemDelegate::createEditor(parent, option, index);
        if (auto* edit = qobject_cast<QLineEdit*>(editor); edit != nullptr && table != nullptr)
            new UnitHint(edit, [table, at = QPersistentModelIndex(index)] {
                return at.isValid() ? table->unitAt(at) : std::string();
            });
        return editor;
    }
    auto* box = new QComboBox(parent);
    box->setEditable(table->column(index.column()).openChoices);
    box->addItems(table->column(index.column()).choices);
    return box;
}

// Once only: new readings that arrive while someone types must not take the typed text away.
void ChoiceDelegate::setEditorData(QWidget* editor, const QModelIndex& index) const {
    if (editor->property("filled").toBool())
        return;
    editor->setProperty("filled", true);
    if (auto* box = qobject_cast<QComboBox*>(editor))
        box->setCurrentText(index.data(Qt::EditRole).toString());
    else
        QStyledItemDelegate::setEditorData(editor, index);
}

void ChoiceDelegate::setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const {
    if (auto* box = qobject_cast<QComboBox*>(editor))
        model->setData(index, box->currentText(), Qt::EditRole);
    else
        QStyledItemDelegate::setModelData(editor, model, index);
}

void RowTable::paste(const QModelIndex& from, const QString& text) {
    std::vector<QStringList> lines;
    for (auto line : text.split('\n')) {
        line.remove('\r');
        if (!line.isEmpty())
            lines.push_back(line.split('\t'));
    }
    if (!from.isValid() || lines.empty())
        return;
    std::map<QString, int> named;
    for (int row = 0; row < m_rows; ++row)
        named.emplace(m_columns[0].text(row), row);
    const bool byName = std::ranges::all_of(
        lines, [&](const QStringList& line) { return line.size() > 1 && named.contains(line[0].trimmed()); });
    emit pasteBegins();
    for (int i = 0; i < static_cast<int>(lines.size()); ++i) {
        const auto& line = lines[static_cast<std::size_t>(i)];
        const int row = byName ? named.at(line[0].trimmed()) : from.row() + i;
        for (int k = byName ? 1 : 0; k < line.size(); ++k)
            if (const auto cell = index(row, from.column() + k - (byName ? 1 : 0));
                cell.isValid() && (flags(cell) & Qt::ItemIsEditable) != 0)
                setData(cell, line[k].trimmed(), Qt::EditRole);
    }
    emit pasteEnds();
}

QTableView* makeTable(RowTable* model, const QString& name, QWidget* parent) {
    auto* view = new QTableView(parent);
    view->setObjectName(name);
    view->setModel(model);
    view->setItemDelegate(new ChoiceDelegate(view));
    view->setShowGrid(false);
    view->setAlternatingRowColors(true);
    view->setSelectionBehavior(QAbstractItemView::SelectRows);
    view->setSelectionMode(QAbstractItemView::SingleSelection);
    view->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    view->setWordWrap(false);
    view->verticalHeader()->hide();
    view->verticalHeader()->setDefaultSectionSize(26);
    view->horizontalHeader()->setHighlightSections(false);
    view->horizontalHeader()->setStretchLastSection(true);
    view->setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
    const auto fitColumns = [view, model] {
        for (int i = 0; i + 1 < model->columnCount(); ++i) {
            const int fixed = model->column(i).width;
            if (fixed > 0) // no head is cut
                view->setColumnWidth(i, std::max(fixed, view->horizontalHeader()->sectionSizeHint(i) + 4));
            else
                view->resizeColumnToContents(i);
        }
    };
    auto* paste = new QShortcut(QKeySequence::Paste, view, nullptr, nullptr, Qt::WidgetShortcut);
    QObject::connect(paste, &QShortcut::activated, view,
                     [view, model] { model->paste(view->currentIndex(), QApplication::clipboard()->text()); });
    QObject::connect(model, &QAbstractItemModel::modelReset, view, fitColumns);
    QObject::connect(model, &QAbstractItemModel::dataChanged, view, fitColumns);
    return view;
}

QString asText(const RowTable& table) {
    QString text;
    for (int row = -1; row < table.rowCount(); ++row) {
        QStringList cells;
        for (int at = 0; at < table.columnCount(); ++at)
            cells.append(row < 0 ? table.column(at).title : table.column(at).text(row));
        text += cells.join('\t') + '\n';
    }
    return text;
}

} // namespace pyro
