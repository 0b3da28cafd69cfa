// A line at the foot of the viewport that says what a key has done, or why it did nothing, and fades.
#pragma once

#include <QTimer>
#include <QVariantAnimation>
#include <QWidget>

namespace pyro {

class Notice : public QWidget {
    Q_OBJECT
public:
    explicit Notice(QWidget* over);
    void tell(const QString& text);
    const QString& text() const { return m_text; } // of the last one told

protected:
    void paintEvent(QPaintEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void place();

    QString m_text;
    QTimer m_read; // time to read it
    QVariantAnimation m_fade;
};

} // namespace pyro
