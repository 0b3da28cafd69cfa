// What is seen above, the tables below: each stage remembers how high its tables are, and they fold to their head.
#pragma once

#include <QSplitter>

namespace pyro {

class LedgerSplitter : public QSplitter {
    Q_OBJECT
public:
    LedgerSplitter(QWidget* upper, QWidget* ledger);
    void showStage(const QString& stage);
    bool isFolded() const { return m_folded; }
    bool isFloating() const { return m_window != nullptr; }

public slots:
    void toggleFold();
    // The tables in a window of their own, for a second screen; closing it brings them back.
    void toggleFloat();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void keepHeight();
    void apply();

    QString m_stage;
    bool m_folded = false;
    QWidget* m_ledger;
    QWidget* m_window = nullptr; // of the tables while they float
};

} // namespace pyro
