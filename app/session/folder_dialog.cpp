#include "app/session/folder_dialog.h"

#include <QDialogButtonBox>
#include <QFileInfo>
#include <QHeaderView>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>

namespace pyro {

FolderDialog::FolderDialog(const QString& folder, const std::vector<FolderCase>& cases, QWidget* parent)
    : QDialog(parent) {
    setObjectName("folderDialog");
    setWindowTitle("Cases in " + QFileInfo(folder).fileName());
    resize(640, 420);
    m_list = new QTreeWidget;
    m_list->setObjectName("folderList");
    m_list->setRootIsDecorated(false);
    m_list->setHeaderLabels({"Case", "Belongs to it", "Size", "Written"});
    for (const auto& one : cases) {
        const QFileInfo info(QString::fromStdString(one.file.string()));
        auto* item = new QTreeWidgetItem(m_list,
                                         QStringList{info.fileName(), QString::fromStdString(one.how),
                                                     QLocale::c().formattedDataSize(info.size()),
                                                     QLocale::c().toString(info.lastModified(), "yyyy-MM-dd HH:mm")});
        item->setData(0, Qt::UserRole, info.absoluteFilePath());
        item->setCheckState(0, cases.size() == 1 ? Qt::Checked : Qt::Unchecked);
        item->setTextAlignment(2, Qt::AlignRight | Qt::AlignVCenter);
    }
    m_list->header()->setStretchLastSection(true);
    for (int column = 0; column < 3; ++column)
        m_list->resizeColumnToContents(column);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Open | QDialogButtonBox::Cancel);
    auto* open = buttons->button(QDialogButtonBox::Open);
    open->setAccessibleName("openChosen");
    const auto count = [this, open] {
        const auto files = chosen().size();
        open->setEnabled(files > 0);
        open->setText(files > 1 ? QString("Open %1 cases").arg(files) : QString("Open"));
    };
    count();
    connect(m_list, &QTreeWidget::itemChanged, this, count);
    connect(m_list, &QTreeWidget::itemDoubleClicked, this, [this](QTreeWidgetItem* item) {
        item->setCheckState(0, Qt::Checked);
        accept();
    });
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(new QLabel(cases.empty() ? "Nothing in this folder can be opened."
                                               : "Tick what to open; several become several cases of one survey."));
    layout->addWidget(m_list, 1);
    layout->addWidget(buttons);
}

QStringList FolderDialog::chosen() const {
    QStringList files;
    for (int row = 0; row < m_list->topLevelItemCount(); ++row)
        if (const auto* item = m_list->topLevelItem(row); item->checkState(0) == Qt::Checked)
            files << item->data(0, Qt::UserRole).toString();
    return files;
}

} // namespace pyro
