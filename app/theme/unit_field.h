// A line edit that holds a value with its unit: a bare number has the unit on display there, which stands behind it as
// one types; what was understood is then written into the field.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <functional>

namespace pyro {

// Lies in the right end of the edit while a bare number stands in it.
class UnitHint : public QLabel {
    Q_OBJECT
public:
    // `unit` is asked as one types; the unit of what stood in the field before counts first. To be made before others
    // listen to the edit.
    UnitHint(QLineEdit* edit, std::function<std::string()> unit);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    std::string unit() const;
    void show();
    void complete();

    QLineEdit* m_edit;
    std::function<std::string()> m_unit;
    std::string m_before; // of the text that was set, not typed
};

} // namespace pyro
