// ledger: the tables under the heat strip. One model serves them all: rows by number, columns by functions.
#pragma once

#include "core/report/shown/shown_table.h"

#include <QAbstractTableModel>
#include <QStyledItemDelegate>
#include <QTableView>
#include <functional>

namespace pyro {

struct TableColumn {
    QString title;
    std::function<QString(int)> text;
    bool number = false;                               // right-aligned
    std::function<void(int, const QString&)> set = {}; // makes the column editable
    QStringList choices = {};                          // the editor is a list of these
    std::function<QVariant(int)> decoration = {};
    std::function<QString(int)> edited = {}; // text to start editing with, if not `text`
    int width = 0;                           // pixels; 0: by content
    bool openChoices = false;                // something else than the choices may be typed too
    // of a bare number that is typed; one that stood there comes first
    std::function<std::string(int)> unit = {};
};

class RowTable : public QAbstractTableModel {
    Q_OBJECT
public:
    using QAbstractTableModel::QAbstractTableModel;
    // New content. The functions may be called until the next reset. With the same columns and number of rows the
    // selection and an open editor survive.
    void reset(int rows, std::vector<TableColumn> columns);
    // A table that is only read; `widths` of columns as in TableColumn.
    void reset(ShownTable table, const std::vector<int>& widths = {});

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    // What a bare number typed into a cell is in; empty: nothing.
    std::string unitAt(const QModelIndex& index) const;
    const TableColumn& column(int at) const { return m_columns[static_cast<std::size_t>(at)]; }
    // Cells of a spreadsheet (tabs and lines) from a cell on, to the right and downwards. Lines that begin with the
    // names in the first column go to the rows of these names, the rest of each from the cell's column on. Cells that
    // cannot be edited are passed over.
    void paste(const QModelIndex& from, const QString& text);

signals:
    void pasteBegins(); // what follows up to the end is one step to undo
    void pasteEnds();

private:
    bool sameShape(int rows, const std::vector<TableColumn>& columns) const;
    int m_rows = 0;
    std::vector<TableColumn> m_columns;
};

// Offers a column's choices as a list.
class ChoiceDelegate : public QStyledItemDelegate {
    Q_OBJECT
public:
    using QStyledItemDelegate::QStyledItemDelegate;
    QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    void setEditorData(QWidget* editor, const QModelIndex& index) const override;
    void setModelData(QWidget* editor, QAbstractItemModel* model, const QModelIndex& index) const override;
};

// A table view in the project's manner.
QTableView* makeTable(RowTable* model, const QString& name, QWidget* parent);
// The whole table as tab-separated text.
QString asText(const RowTable& table);

} // namespace pyro
