#include "app/finder/finder.h"

#include <QKeyEvent>
#include <QLineEdit>
#include <QListWidget>
#include <QTimer>
#include <QVBoxLayout>
#include <algorithm>

namespace pyro {

bool finderMatches(const QString& text, const QString& typed) {
    qsizetype at = 0;
    for (const auto letter : typed.simplified()) {
        if (letter.isSpace())
            continue;
        at = text.indexOf(letter, at, Qt::CaseInsensitive);
        if (at < 0)
            return false;
        ++at;
    }
    return true;
}

Finder::Finder(std::vector<FinderEntry> entries, QWidget* parent)
    : QDialog(parent, Qt::Popup | Qt::FramelessWindowHint), m_entries(std::move(entries)), m_text(new QLineEdit),
      m_list(new QListWidget) {
    setObjectName("finder");
    setAttribute(Qt::WA_DeleteOnClose);
    m_text->setObjectName("finderText");
    m_text->setPlaceholderText("Find an action or a part");
    m_list->setObjectName("finderList");
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 8);
    layout->addWidget(m_text);
    layout->addWidget(m_list);
    resize(460, 360);
    m_text->installEventFilter(this);
    connect(m_text, &QLineEdit::textChanged, this, &Finder::filter);
    connect(m_list, &QListWidget::itemClicked, this, &Finder::run);
    filter({});
    m_text->setFocus();
}

void Finder::filter(const QString& text) {
    m_list->clear();
    // What begins with the typed words comes first.
    for (const bool direct : {true, false})
        for (std::size_t i = 0; i < m_entries.size(); ++i) {
            const auto& entry = m_entries[i];
            if (entry.text.contains(text.simplified(), Qt::CaseInsensitive) != direct ||
                !finderMatches(entry.text, text))
                continue;
            auto* item = new QListWidgetItem(entry.hint.isEmpty() ? entry.text : entry.text + "    " + entry.hint,
                                             m_list);
            item->setData(Qt::UserRole, static_cast<int>(i));
        }
    m_list->setCurrentRow(0);
}

bool Finder::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress)
        return QDialog::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    if (key == Qt::Key_Down || key == Qt::Key_Up) {
        const int step = key == Qt::Key_Down ? 1 : -1;
        m_list->setCurrentRow(std::clamp(m_list->currentRow() + step, 0, std::max(0, m_list->count() - 1)));
        return true;
    }
    if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        run();
        return true;
    }
    return QDialog::eventFilter(watched, event);
}

void Finder::run() {
    const auto* item = m_list->currentItem();
    if (item == nullptr)
        return;
    const auto chosen = m_entries[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())].run;
    auto* receiver = parentWidget();
    close();
    QTimer::singleShot(0, receiver, chosen); // after the popup is gone
}

} // namespace pyro
