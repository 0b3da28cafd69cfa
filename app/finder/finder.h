// finder: all actions, parts and recent surveys behind one key. Type a few letters, press Enter.
#pragma once

#include <QDialog>
#include <functional>

class QLineEdit;
class QListWidget;

namespace pyro {

struct FinderEntry {
    QString text;
    QString hint; // shortcut or kind
    std::function<void()> run;
};

class Finder : public QDialog {
    Q_OBJECT
public:
    Finder(std::vector<FinderEntry> entries, QWidget* parent);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void filter(const QString& text);
    void run();

    std::vector<FinderEntry> m_entries;
    QLineEdit* m_text;
    QListWidget* m_list;
};

// True when the letters of `typed` occur in `text` in that order, whatever the case; words may be skipped.
bool finderMatches(const QString& text, const QString& typed);

} // namespace pyro
