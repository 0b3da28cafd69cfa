// The cases of a folder, to choose from.
#pragma once

#include "core/case/folder_cases.h"

#include <QDialog>
#include <QTreeWidget>

namespace pyro {

class FolderDialog : public QDialog {
    Q_OBJECT
public:
    FolderDialog(const QString& folder, const std::vector<FolderCase>& cases, QWidget* parent);
    QStringList chosen() const; // their files

private:
    QTreeWidget* m_list;
};

} // namespace pyro
