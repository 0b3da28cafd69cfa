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

public slots:
    void toggleFold();

private:
    void keepHeight();
    void apply();

    QString m_stage;
    bool m_folded = false;
};

} // namespace pyro
